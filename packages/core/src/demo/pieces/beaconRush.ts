import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

const [bloom, ...rest] = showFinish(0.55, 0.35, 0.25);

/** Streaks: into the beam of the lighthouse, faster with every turn of the lamp. */
export const beaconRush = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Beacon Rush',
  seed: 44,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 60 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#0c2448', outer: '#01030a', centreY: 0.5, radius: 0.7 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      ...{ target: [0, 0, 0], distance: 5, elevation: 0, view: 74, near: 0.25, shake: 1.2 },
      roll: { feed: 'signal', signal: 'turn', from: -14, to: 14 },
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'rays',
      name: 'Rays',
      on: true,
      emitter: {
        kind: 'disc',
        dials: { radius: 4.2, hollow: 0.12, centre: [0, 0, -14], turn: [90, 0, 0] },
      },
      launch: {
        kind: 'cone',
        dials: {
          direction: [0, 1, 0],
          angle: 4,
          speed: { feed: 'signal', signal: 'rush', from: 4, to: 26 },
        },
      },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { stretch: 0.07, wide: 0.8, hardness: 0, gain: 1 },
        },
        {
          ...{ id: 'disc', name: 'Head', on: true, kind: 'disc' },
          dials: { scale: 1.3, gain: 2.4 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 1500,
        lifetime: spread(0.9, 2.6),
        size: spread(0.008, 0.034),
        opacity: over(0.85, COME_AND_GO),
        colour: {
          feed: 'layers',
          as: 'greys',
          layers: [
            { by: 'random', over: 'normal', amount: 1 },
            { by: 'reading', reading: 'speed', from: 6, to: 26, over: 'screen', amount: 0.5 },
          ],
          stops: [
            { at: 0, colour: '#1b49c8', light: 1.1 },
            { at: 0.45, colour: '#58c8ff', light: 1.2 },
            { at: 0.8, colour: '#fff6e0', light: 2.4 },
            { at: 1, colour: '#ffb03c', light: 4 },
          ],
        },
      },
      copies: [],
    },
    {
      id: 'rings',
      name: 'Rings',
      on: true,
      emitter: {
        kind: 'ring',
        dials: { radius: 1.5, turn: [90, 0, 0], centre: [0, 0, -16], placing: 'even', places: 72 },
      },
      launch: {
        kind: 'cone',
        dials: {
          direction: [0, 1, 0],
          angle: 0,
          speed: { feed: 'signal', signal: 'rush', from: 5, to: 20 },
        },
      },
      bodies: [
        {
          ...{ id: 'trail', name: 'Trail', on: true, kind: 'trail' },
          dials: { form: 'line', length: 8, gain: 1.4, hardness: 0.1 },
        },
      ],
      dials: {
        ...{ when: 'bursts', burst: 72, burstAt: 0.2, burstEvery: 1, lifetime: 2.6 },
        size: 0.05,
        opacity: over(0.9, COME_AND_GO),
        colour: '#ffbf6a',
        light: 2.4,
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'lamp', name: 'Lamp', on: true, kind: 'vortex' },
      dials: {
        axis: [0, 0, 1],
        spin: { feed: 'signal', signal: 'turn', from: -60, to: 60 },
        radius: 5,
        acts: 'push',
        grip: 0.7,
      },
    },
    {
      ...{ id: 'spray', name: 'Spray', on: true, kind: 'curlNoise' },
      dials: { strength: 1.2, scale: 2, octaves: 1, change: 0.4 },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    {
      ...{ id: 'rush', name: 'Rush', on: true, kind: 'keyframes' },
      dials: {
        keys: [
          { at: 0, value: 0.15 },
          { at: 4, value: 0.35 },
          { at: 6, value: 1 },
          { at: 8.5, value: 0.3 },
          { at: 12, value: 0.5 },
          { at: 14, value: 1 },
          { at: 18, value: 0.9 },
          { at: 20, value: 0.15 },
        ],
      },
    },
    { id: 'turn', name: 'Turn', on: true, kind: 'wave', dials: { period: 9 } },
  ],
  stock: [],
  influence: { lamp: { rings: 0 }, spray: { rings: 0 } },
  finish: [
    bloom,
    {
      ...{ id: 'rushBlur', name: 'Rush blur', on: true, kind: 'radialBlur' },
      dials: { amount: { feed: 'signal', signal: 'rush', from: 0, to: 0.14 }, share: 0.7 },
    },
    {
      ...{ id: 'fringe', name: 'Fringe', on: true, kind: 'aberration' },
      dials: { amount: 0.006 },
    },
    ...rest,
  ],
});
