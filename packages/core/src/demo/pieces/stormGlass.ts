import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

/** The keel goes through from side to side. */
const KEEL = [{ feed: 'signal', signal: 'passing', from: -4.8, to: 4.8 }, -0.3, 0];

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
      launch: {
        kind: 'cone',
        dials: { direction: [0.25, -1, 0], angle: 14, speed: spread(1.2, 3) },
      },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { gain: 0.35 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 130, lifetime: spread(0.7, 2.2) },
        size: { feed: 'spread', from: 0.008, to: 0.018, over: COME_AND_GO },
        opacity: over(0.7, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#0b3f9e' },
            { at: 0.5, colour: '#12a39a' },
            { at: 0.82, colour: '#3b2fa8' },
            { at: 0.9, colour: '#e0562f', light: 1.3 },
            { at: 1, colour: '#ffb254', light: 1.3 },
          ],
        },
        light: spread(0.6, 1.8),
      },
      copies: [],
    },
    {
      id: 'hull',
      name: 'Hull',
      on: true,
      emitter: {
        kind: 'box',
        dials: { size: [0.2, 0.8, 0.05], centre: KEEL, turn: [0, 0, 74] },
      },
      launch: { kind: 'allRound', dials: { speed: spread(0.15, 0.5) } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.2, gain: 1.2 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 1500, lifetime: spread(0.2, 0.7), stirs: 0.3 },
        size: { feed: 'spread', from: 0.01, to: 0.03, over: COME_AND_GO },
        opacity: over(0.8, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#ff7a2e' },
            { at: 1, colour: '#ffc46b' },
          ],
        },
        light: spread(3, 8),
      },
      copies: [],
    },
    {
      id: 'sparks',
      name: 'Sparks',
      on: true,
      emitter: { kind: 'medium', dials: { medium: 'water', full: 1.6, takes: 0 } },
      launch: { kind: 'outward', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.4, gain: 1.5 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 3400, lifetime: spread(1.2, 4), stirs: 0 },
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
        centre: KEEL,
        turn: [0, 0, 74],
        from: [0, -0.34, 0],
        to: [0, 0.34, 0],
        radius: 0.15,
      },
    },
  ],
  media: [
    {
      ...{ id: 'water', name: 'Water', on: true, kind: 'fluid' },
      dials: {
        ...{ lines: 216, edges: 'closed', swirl: 5, slowing: 0.25, fading: 0.9 },
        ...{ stir: 18, tint: 8, give: 6, radius: 0.095 },
        ...{ shown: 'behind', by: 'light', light: 2.1, over: 'add' },
      },
    },
  ],
  performers: [],
  pictures: [],
  sounds: [],
  signals: [
    {
      ...{ id: 'passing', name: 'Passing', on: true, kind: 'wave' },
      dials: { period: 9, phase: 0.05 },
    },
  ],
  stock: [],
  influence: {
    fall: { water: 0, sparks: 0, hull: 0 },
    ride: { rain: 0.25, hull: 0.8 },
    gusts: { rain: 0.8, sparks: 0, hull: 0, water: 0 },
    keel: { rain: 0, hull: 0 },
  },
  finish: showFinish(0.6, 0.5, 0.25),
});
