import { validatePiece } from '../piece/parse';

/** Curl noise: a lantern let down into the harbour at night, and what gathers round it. */
export const planktonLantern = validatePiece({
  format: 'vast-swarm piece',
  version: 1,
  name: 'Plankton Lantern',
  seed: 41,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 120 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#06222b', outer: '#010507', centreY: 0.52, radius: 0.85 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, 0.15, 0],
      distance: 5.6,
      azimuth: 20,
      elevation: 8,
      orbit: 5,
      view: 42,
      near: 0.5,
    },
  },
  swarms: [
    {
      id: 'plankton',
      name: 'Plankton',
      on: true,
      emitter: { kind: 'sphere', dials: { radius: 0.85, fill: 'surface' } },
      launch: { kind: 'normal', dials: { speed: { feed: 'spread', from: 0.02, to: 0.12 } } },
      body: { kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      dials: {
        rate: 9600,
        lifetime: { feed: 'spread', from: 4.2, to: 6.2 },
        size: {
          feed: 'spread',
          from: 0.012,
          to: 0.03,
          over: [
            { x: 0, y: 0.3 },
            { x: 0.3, y: 1 },
            { x: 1, y: 0.35 },
          ],
        },
        opacity: {
          feed: 'fixed',
          value: 0.85,
          over: [
            { x: 0, y: 0 },
            { x: 0.08, y: 1 },
            { x: 0.6, y: 0.8 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#ffb45c', light: 1.6 },
            { at: 0.16, colour: '#ffd9a0', light: 1 },
            { at: 0.34, colour: '#6fe3c8', light: 0.85 },
            { at: 0.68, colour: '#1f8fb0', light: 0.8 },
            { at: 1, colour: '#3a2f8f', light: 0.7 },
          ],
        },
        light: { feed: 'spread', from: 0.25, to: 1.3 },
      },
    },
    {
      id: 'lamp',
      name: 'Lamp',
      on: true,
      emitter: { kind: 'sphere', dials: { radius: 0.34, fill: 'inside' } },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.01, to: 0.1 } } },
      body: { kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      dials: {
        rate: 900,
        lifetime: { feed: 'spread', from: 1.5, to: 4 },
        size: { feed: 'spread', from: 0.02, to: 0.06 },
        opacity: {
          feed: 'fixed',
          value: 0.7,
          over: [
            { x: 0, y: 0 },
            { x: 0.3, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#ff8a2a', light: 1.5 },
            { at: 1, colour: '#ffd98f', light: 2.2 },
          ],
        },
        light: 0.9,
      },
    },
  ],
  forces: [
    {
      id: 'drift',
      name: 'Drift',
      on: true,
      kind: 'curlNoise',
      dials: {
        strength: {
          feed: 'fixed',
          value: 0.42,
          over: [
            { x: 0, y: 0.12 },
            { x: 0.25, y: 0.55 },
            { x: 1, y: 1 },
          ],
        },
        scale: 0.95,
        octaves: 2,
        persistence: 0.5,
        change: 0.22,
      },
    },
    {
      id: 'tide',
      name: 'Tide',
      on: true,
      kind: 'vortex',
      dials: { axis: [0.15, 1, 0.1], spin: 14, radius: 2.2, lift: 0.05 },
    },
  ],
  influence: { drift: { lamp: 0.35 } },
  finish: [
    {
      id: 'bloom',
      name: 'Bloom',
      on: true,
      kind: 'bloom',
      dials: { amount: 0.55, threshold: 0.12, radius: 0.16 },
    },
    {
      id: 'tone',
      name: 'Exposure and tone',
      on: true,
      kind: 'exposure',
      dials: { stops: 0.6, bleed: 0.045 },
    },
    {
      id: 'vignette',
      name: 'Vignette',
      on: true,
      kind: 'vignette',
      dials: { amount: 0.45, start: 0.4 },
    },
    { id: 'grain', name: 'Grain', on: true, kind: 'grain', dials: { amount: 0.025 } },
  ],
});
