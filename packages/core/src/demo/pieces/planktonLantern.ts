import { validatePiece } from '../../piece/parse';
import { FADING, over } from './shapes';

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
      target: [0, 0.3, 0],
      distance: 3.7,
      azimuth: 20,
      elevation: 8,
      orbit: 5,
      view: 42,
      near: 0.5,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'threads',
      name: 'Threads',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { radius: 0.62, width: 0.05, placing: 'even', places: 11, axis: [0.1, 1, 0] },
      },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.02, to: 0.1 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: 6100,
        lifetime: { feed: 'spread', from: 4.6, to: 6.2 },
        size: {
          feed: 'spread',
          from: 0.008,
          to: 0.02,
          over: [
            { x: 0, y: 0.5 },
            { x: 0.3, y: 1 },
            { x: 1, y: 0.4 },
          ],
        },
        opacity: {
          feed: 'fixed',
          value: 0.9,
          over: [
            { x: 0, y: 0 },
            { x: 0.1, y: 1 },
            { x: 0.55, y: 0.75 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#ff9a3c', light: 2.6 },
            { at: 0.18, colour: '#ffd08a', light: 1.3 },
            { at: 0.38, colour: '#7df0d4', light: 1.1 },
            { at: 0.7, colour: '#1c9ac0', light: 1.1 },
            { at: 1, colour: '#5a3fc0', light: 1.2 },
          ],
        },
        light: { feed: 'spread', from: 0.2, to: 1.5 },
      },
    },
    {
      id: 'plankton',
      name: 'Plankton',
      on: true,
      emitter: { kind: 'sphere', dials: { radius: 1.5, fill: 'inside', hollow: 0.25 } },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0, to: 0.05 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: 3050,
        lifetime: { feed: 'spread', from: 4.6, to: 6.2 },
        size: { feed: 'spread', from: 0.006, to: 0.02 },
        opacity: {
          feed: 'fixed',
          value: 0.8,
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
            { at: 0, colour: '#123a6b', light: 1 },
            { at: 0.6, colour: '#1f9aa8', light: 0.9 },
            { at: 0.93, colour: '#8ff5dc', light: 1.4 },
            { at: 1, colour: '#ffe6b0', light: 3 },
          ],
        },
        light: { feed: 'spread', from: 0.15, to: 0.9 },
      },
    },
    {
      // Every five seconds the lantern sends out a ring of light, which the water bends.
      id: 'call',
      name: 'Call',
      on: true,
      emitter: { kind: 'ring', dials: { radius: 0.12, width: 0.02, axis: [0.2, 1, 0.1] } },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.52, to: 0.56 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'bursts',
        ...{ burst: 2600, burstAt: 0, burstEvery: 5 },
        lifetime: { feed: 'spread', from: 2.6, to: 4.2 },
        size: { feed: 'spread', from: 0.008, to: 0.02 },
        opacity: over(0.9, FADING),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#ffb45c', light: 3 },
            { at: 0.35, colour: '#ffe3a8', light: 1.6 },
            { at: 0.6, colour: '#7df0d4', light: 1.6 },
            { at: 1, colour: '#2f6fd0', light: 1.4 },
          ],
        },
        light: { feed: 'spread', from: 0.3, to: 1.4 },
      },
    },
    {
      id: 'lamp',
      name: 'Lamp',
      on: true,
      emitter: { kind: 'sphere', dials: { radius: 0.1, fill: 'inside' } },
      launch: { kind: 'outward', dials: { speed: { feed: 'spread', from: 0.01, to: 0.12 } } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0 } },
      ],
      dials: {
        when: 'steadily',
        rate: 500,
        lifetime: { feed: 'spread', from: 1.5, to: 2.6 },
        size: { feed: 'spread', from: 0.02, to: 0.05 },
        opacity: {
          feed: 'fixed',
          value: 0.6,
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
            { at: 0, colour: '#ff7a1e', light: 2 },
            { at: 1, colour: '#ffc67a', light: 3 },
          ],
        },
        light: 1,
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
          value: 0.55,
          over: [
            { x: 0, y: 0.25 },
            { x: 0.3, y: 0.7 },
            { x: 1, y: 1 },
          ],
        },
        scale: 1.15,
        octaves: 1,
        persistence: 0.45,
        change: 0.16,
      },
    },
    {
      id: 'tide',
      name: 'Tide',
      on: true,
      kind: 'vortex',
      dials: { axis: [0.1, 1, 0], spin: 26, radius: 1.8, lift: 0.16 },
    },
  ],
  influence: { drift: { plankton: 0.6, call: 0.35, lamp: 0.3 }, tide: { lamp: 0.5 } },
  finish: [
    {
      id: 'bloom',
      name: 'Bloom',
      on: true,
      kind: 'bloom',
      dials: { amount: 0.5, threshold: 0.15, radius: 0.16 },
    },
    {
      id: 'tone',
      name: 'Exposure and tone',
      on: true,
      kind: 'exposure',
      dials: { stops: 0.9, bleed: 0.04 },
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
