import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

const plane = { centre: [0, 0, 0], width: 6.4, height: 3.6 };

/** A clip, its flow and links: lit windows of ferries shed light that is carried off as they go, thread by thread. */
export const ferryWindows = validatePiece({
  format: 'vast-swarm piece',
  version: 7,
  name: 'Ferry Windows',
  seed: 23,
  frame: { width: 1920, height: 1080, rate: 30, length: 480, preroll: 60 },
  backdrop: { kind: 'linear', dials: { first: '#030a12', last: '#0a2029', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: { target: [0, 0.1, 0], distance: 5.1, elevation: 3, orbit: 0, view: 38, near: 0.4 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'windows',
      name: 'Windows',
      on: true,
      emitter: {
        kind: 'picture',
        dials: { picture: 'ferries', limit: 0.12, density: 'value', width: 6.4 },
      },
      launch: { kind: 'normal', dials: { speed: spread(0, 0.25) } },
      bodies: [
        {
          ...{ id: 'links', name: 'Links', on: true, kind: 'links' },
          dials: { radius: 0.17, most: 3, width: 0.16, gain: 0.8, hardness: 0.2 },
        },
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.35, gain: 1.5 },
        },
      ],
      dials: {
        rate: 1600,
        lifetime: spread(1, 2.8),
        size: { feed: 'spread', from: 0.018, to: 0.05, over: COME_AND_GO },
        opacity: over(0.85, COME_AND_GO),
        colour: { feed: 'place' },
        light: spread(1, 3.4),
      },
      copies: [],
    },
    {
      id: 'wake',
      name: 'Wake',
      on: true,
      emitter: {
        kind: 'rectangle',
        dials: { width: 7.2, depth: 0.9, centre: [0, -1.15, 0], turn: [90, 0, 0] },
      },
      launch: { kind: 'allRound', dials: { speed: 0.05 } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { stretch: 0.05, gain: 1.2 },
        },
      ],
      dials: {
        rate: 420,
        lifetime: spread(2, 5),
        size: spread(0.01, 0.022),
        opacity: over(0.6, COME_AND_GO),
        colour: {
          feed: 'map',
          picture: 'ferries',
          by: 'plane',
          plane: { ...plane, turn: [0, 0] },
          edge: 'mirrored',
          light: 6,
        },
        light: 1,
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'seen', name: 'Seen motion', on: true, kind: 'clipFlow' },
      dials: { clip: 'ferries', gain: 0.8, detail: 96, steady: 3, smooth: 0.012, ...plane },
    },
    {
      ...{ id: 'mist', name: 'Mist', on: true, kind: 'curlNoise' },
      dials: { strength: 0.13, scale: 1.1, octaves: 2, change: 0.25 },
    },
  ],
  colliders: [],
  pictures: [
    { ...{ id: 'ferries', name: 'Ferries', on: true, kind: 'played' }, dials: { clip: 'ferry' } },
  ],
  sounds: [],
  signals: [],
  stock: [{ id: 'ferry', name: 'Passing ferries', type: 'clip', source: { made: 'ferry' } }],
  influence: {},
  finish: showFinish(0.55, 0.5, 0.2),
});
