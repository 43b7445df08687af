import { validatePiece } from '../../piece/parse';
import { COME_AND_GO, over, spread } from './shapes';

const plane = { centre: [0, 0, 0], turn: [0, 0], width: 6.4, height: 3.6 };
const painting = { feed: 'map', picture: 'quay', by: 'plane', plane, edge: 'edge' };

/** A picture as a map, and build-up: points wander over the dark and paint the quay as they go. */
export const lamplightersCopy = validatePiece({
  format: 'vast-swarm piece',
  version: 7,
  name: 'Lamplighter’s Copy',
  seed: 17,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: { kind: 'flat', dials: { colour: '#000000' } },
  camera: {
    kind: 'perspective',
    dials: { target: [0, 0, 0], distance: 5.2, azimuth: 0, elevation: 0, view: 38, near: 0.4 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'brushes',
      name: 'Brushes',
      on: true,
      emitter: {
        kind: 'rectangle',
        dials: { width: 6.3, depth: 3.5, turn: [90, 0, 0] },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'stroke', name: 'Stroke', on: true, kind: 'streak' },
          dials: { stretch: 0.09, hardness: 0.55, mode: 'normal' },
        },
      ],
      dials: {
        rate: 260,
        lifetime: spread(1.5, 4),
        // Where the painting is bright the brush is fine.
        size: {
          ...painting,
          channel: 'brightness',
          high: 0.5,
          from: 0.075,
          to: 0.022,
          over: COME_AND_GO,
        },
        opacity: over(0.9, COME_AND_GO),
        colour: { ...painting, light: 1.15 },
        light: 1,
      },
      copies: [],
    },
    {
      id: 'sparks',
      name: 'Wet light',
      on: true,
      emitter: { kind: 'swarm', dials: { swarm: 'brushes' } },
      launch: { kind: 'allRound', dials: { speed: spread(0, 0.06) } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.1 },
        },
      ],
      dials: {
        rate: 160,
        lifetime: spread(0.4, 1.1),
        size: { feed: 'spread', from: 0.012, to: 0.03, over: COME_AND_GO },
        opacity: over(0.8, COME_AND_GO),
        colour: { ...painting, light: 2.2 },
        light: 1,
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'wander', name: 'Wander', on: true, kind: 'curlNoise' },
      dials: { strength: 0.75, scale: 0.75, octaves: 2, change: 0.3, axes: [1, 1, 0] },
    },
  ],
  colliders: [],
  pictures: [],
  sounds: [],
  signals: [],
  stock: [{ id: 'quay', name: 'The quay, evening', type: 'picture', source: { made: 'quay' } }],
  influence: {},
  finish: [
    {
      ...{ id: 'paint', name: 'Paint', on: true, kind: 'buildUp' },
      dials: { strength: 1, join: 'lighten' },
    },
    {
      ...{ id: 'bloom', name: 'Bloom', on: true, kind: 'bloom' },
      dials: { amount: 0.22, threshold: 0.5, radius: 0.08 },
    },
    {
      ...{ id: 'exposure', name: 'Exposure and tone', on: true, kind: 'exposure' },
      dials: { stops: 0.3, bleed: 0.04 },
    },
    {
      ...{ id: 'vignette', name: 'Vignette', on: true, kind: 'vignette' },
      dials: { amount: 0.5, start: 0.45 },
    },
  ],
});
