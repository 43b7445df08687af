import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

/** A medium: rain stirs and lights the water in a storm glass, a keel passes through it, and sparks ride on what both leave. */
export const stormGlass = validatePiece({
  format: 'vast-swarm piece',
  version: 10,
  name: 'Storm Glass',
  seed: 73,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 90 },
  backdrop: { kind: 'linear', dials: { first: '#01040a', last: '#07182a', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: { target: [0, 0, 0], distance: 6, view: 40, near: 0.4 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'rain',
      name: 'Rain',
      on: true,
      emitter: { kind: 'rectangle', dials: { width: 7.6, depth: 0.2, centre: [0, 2.3, 0] } },
      launch: { kind: 'cone', dials: { direction: [0.25, -1, 0], angle: 14, speed: spread(1.2, 3) } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { gain: 0.35 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 420, lifetime: spread(0.5, 1.7) },
        size: { feed: 'spread', from: 0.008, to: 0.018, over: COME_AND_GO },
        opacity: over(0.7, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#1a56b8' },
            { at: 0.45, colour: '#2fb7b3' },
            { at: 0.8, colour: '#7a4fd6' },
            { at: 1, colour: '#ff8f5a', light: 1.4 },
          ],
        },
        light: spread(0.6, 1.8),
      },
      copies: [],
    },
    {
      id: 'sparks',
      name: 'Sparks',
      on: true,
      emitter: { kind: 'medium', dials: { medium: 'water', full: 2.5, takes: 0 } },
      launch: { kind: 'outward', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.4, gain: 1.5 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 5200, lifetime: spread(1.5, 4.5) },
        size: { feed: 'spread', from: 0.006, to: 0.02, over: COME_AND_GO },
        opacity: over(0.85, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#fff3d6' },
            { at: 0.3, colour: '#ffc673' },
            { at: 0.7, colour: '#ff7d6b' },
            { at: 1, colour: '#6b4bd8' },
          ],
        },
        light: spread(0.5, 2.4),
      },
      copies: [],
    },
  ],
  forces: [
    { ...{ id: 'fall', name: 'Fall', on: true, kind: 'gravity' }, dials: { strength: 2.2 } },
    {
      ...{ id: 'ride', name: 'Ride', on: true, kind: 'ride' },
      dials: { medium: 'water', acts: 'carry' },
    },
    {
      ...{ id: 'gusts', name: 'Gusts', on: true, kind: 'curlNoise' },
      dials: { strength: 1.2, scale: 1.6, octaves: 2, change: 0.35 },
    },
  ],
  colliders: [
    {
      ...{ id: 'keel', name: 'Keel', on: true, kind: 'capsule' },
      dials: {
        centre: [{ feed: 'signal', signal: 'passing', from: -4.6, to: 4.6 }, -0.35, 0],
        turn: [0, 0, 68],
        from: [0, -0.45, 0],
        to: [0, 0.45, 0],
        radius: 0.24,
      },
    },
  ],
  media: [
    {
      ...{ id: 'water', name: 'Water', on: true, kind: 'fluid' },
      dials: {
        ...{ lines: 216, edges: 'closed', swirl: 9, slowing: 0.25, fading: 0.55 },
        ...{ swarm: 'rain', stir: 14, tint: 7, give: 7, radius: 0.07 },
        ...{ shown: 'behind', by: 'light', light: 1.1, over: 'add' },
      },
    },
  ],
  performers: [],
  pictures: [],
  sounds: [],
  signals: [
    {
      ...{ id: 'passing', name: 'Passing', on: true, kind: 'wave' },
      dials: { period: 11, phase: 0.05 },
    },
  ],
  stock: [],
  influence: {
    fall: { water: 0, sparks: 0 },
    ride: { rain: 0.25 },
    gusts: { rain: 0.5, sparks: 0 },
    keel: { rain: 0, sparks: 1 },
  },
  finish: showFinish(0.6, 0.5, 0.25),
});
