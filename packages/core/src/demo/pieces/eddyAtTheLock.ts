import { validatePiece } from '../../piece/parse';
import { FADING, over } from './shapes';

/** Vortex and drag: the water behind a lock gate turns, and takes the lights of the quay with it. */
export const eddyAtTheLock = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Eddy at the Lock',
  seed: 7,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 120 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#0a1630', outer: '#02040a', centreY: 0.55, radius: 0.9 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, -0.25, 0],
      distance: 6.2,
      azimuth: -15,
      elevation: 34,
      orbit: 3,
      view: 40,
      near: 0.5,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'foam',
      name: 'Foam',
      on: true,
      emitter: {
        kind: 'ring',
        dials: {
          radius: { feed: 'spread', from: 2.9, to: 3.1, distribution: 'normal' },
          width: 0.1,
          placing: 'even',
          places: 3,
        },
      },
      launch: { kind: 'cone', dials: { speed: { feed: 'spread', from: 0, to: 0.3 }, angle: 25 } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { mode: 'add', stretch: 0.075, wide: 0.38, gain: 0.85 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 8100,
        lifetime: { feed: 'spread', from: 5.5, to: 7.2 },
        size: {
          feed: 'spread',
          from: 0.008,
          to: 0.022,
          over: [
            { x: 0, y: 0.6 },
            { x: 0.5, y: 1 },
            { x: 1, y: 0.5 },
          ],
        },
        opacity: {
          feed: 'fixed',
          value: 0.8,
          over: [
            { x: 0, y: 0 },
            { x: 0.15, y: 0.7 },
            { x: 0.75, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#2a4fd0', light: 0.9 },
            { at: 0.35, colour: '#1f8fb8', light: 0.7 },
            { at: 0.62, colour: '#5fe0cc', light: 0.65 },
            { at: 0.82, colour: '#ffc98a', light: 0.75 },
            { at: 1, colour: '#ff7a3a', light: 1.3 },
          ],
        },
        light: { feed: 'formula', text: '0.25 + 2.4 * random ^ 3', from: 0, to: 4 },
      },
      copies: [],
    },
    {
      id: 'lanterns',
      name: 'Quay lights',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { radius: { feed: 'spread', from: 2.2, to: 3.4 }, width: 0.1 },
      },
      launch: { kind: 'outward', dials: { speed: 0 } },
      bodies: [
        {
          id: 'disc',
          name: 'Disc',
          on: true,
          kind: 'disc',
          dials: { mode: 'screen', hardness: 0.35 },
        },
        {
          ...{ id: 'wake', name: 'Wake', on: true, kind: 'trail' },
          dials: {
            ...{ mode: 'add', form: 'line', hardness: 0.2, by: 'place' },
            length: { feed: 'spread', from: 30, to: 60 },
            width: over(0.5, [
              { x: 0, y: 1 },
              { x: 1, y: 0.1 },
            ]),
            fade: over(0.55, FADING),
          },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 26,
        lifetime: { feed: 'spread', from: 5, to: 8 },
        size: {
          feed: 'spread',
          from: 0.03,
          to: 0.075,
          over: [
            { x: 0, y: 0 },
            { x: 0.2, y: 1 },
            { x: 1, y: 0.4 },
          ],
        },
        opacity: 0.95,
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#ff7a3c', light: 1 },
            { at: 0.6, colour: '#ffc268', light: 1 },
            { at: 1, colour: '#ffe9c4', light: 1 },
          ],
        },
        light: 1,
      },
      copies: [],
    },
  ],
  forces: [
    {
      id: 'eddy',
      name: 'Eddy',
      on: true,
      kind: 'vortex',
      dials: {
        ...{ axis: [0, 1, 0], spin: 190, radius: 1.2, falloff: 1.2, pull: 1.02 },
        // The open gate draws the middle down.
        lift: { feed: 'signal', signal: 'gate', from: -0.05, to: -0.9 },
      },
    },
    {
      id: 'ripple',
      name: 'Ripple',
      on: true,
      kind: 'curlNoise',
      dials: {
        strength: {
          feed: 'fixed',
          value: 0.15,
          over: [
            { x: 0, y: 0.15 },
            { x: 0.6, y: 0.5 },
            { x: 1, y: 1 },
          ],
        },
        scale: 0.8,
        octaves: 1,
        persistence: 0.55,
        change: 0.25,
        axes: [1, 0.8, 1],
      },
    },
    {
      id: 'undertow',
      name: 'Undertow',
      on: true,
      kind: 'attraction',
      dials: {
        centre: [0, -0.25, 0],
        strength: { feed: 'signal', signal: 'gate', from: 0.1, to: 1.6 },
        radius: 1.1,
        falloff: 2,
        arrive: 0.5,
      },
    },
    {
      id: 'thick-water',
      name: 'Thick water',
      on: true,
      kind: 'drag',
      dials: {
        amount: {
          feed: 'fixed',
          value: 1.5,
          over: [
            { x: 0, y: 0.2 },
            { x: 1, y: 1 },
          ],
        },
      },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    { id: 'gate', name: 'Lock gate', on: true, kind: 'wave', dials: { period: 10, rest: 0.3 } },
  ],
  stock: [],
  influence: { ripple: { lanterns: 0.5 }, undertow: { lanterns: 0.3 } },
  finish: [
    {
      id: 'bloom',
      name: 'Bloom',
      on: true,
      kind: 'bloom',
      dials: { amount: 0.55, threshold: 0.15, radius: 0.12 },
    },
    {
      id: 'tone',
      name: 'Exposure and tone',
      on: true,
      kind: 'exposure',
      dials: { stops: 1.1, bleed: 0.04 },
    },
    {
      id: 'vignette',
      name: 'Vignette',
      on: true,
      kind: 'vignette',
      dials: { amount: 0.5, start: 0.4 },
    },
    { id: 'grain', name: 'Grain', on: true, kind: 'grain', dials: { amount: 0.025 } },
  ],
});
