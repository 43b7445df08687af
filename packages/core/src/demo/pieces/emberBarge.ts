import { validatePiece } from '../../piece/parse';
import type { Stop } from '../../feeds/gradient';
import type { Shape } from '../../feeds/shape';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

/** Fire as fire is. */
const EMBER: Stop[] = [
  { at: 0, colour: '#ffd27a', light: 1.5 },
  { at: 0.2, colour: '#ff9a2a', light: 1.5 },
  { at: 0.5, colour: '#ee4a12', light: 1.2 },
  { at: 0.78, colour: '#a3141f', light: 0.8 },
  { at: 1, colour: '#30081c', light: 0.4 },
];

/** Driftwood with salt in it burns so. */
const SALT: Stop[] = [
  { at: 0, colour: '#b8ffe0', light: 1.3 },
  { at: 0.2, colour: '#3fe6b4', light: 1.3 },
  { at: 0.5, colour: '#1480d0', light: 1.3 },
  { at: 0.75, colour: '#4a2fc0', light: 0.9 },
  { at: 1, colour: '#170a3c', light: 0.4 },
];

/** In quickly, and out long before its end. */
const LICKING: Shape = [
  { x: 0, y: 0 },
  { x: 0.12, y: 1 },
  { x: 0.5, y: 0.55 },
  { x: 1, y: 0 },
];

type Sets = { control: string; to: number | Stop[] }[];

function cue(id: string, name: string, sets: Sets, dials: Record<string, unknown>): object {
  return { id, name, on: true, kind: 'cue', dials: { sets, ...dials } };
}

function fader(id: string, name: string, group: string, dials: Record<string, unknown>): object {
  return { id, name, on: true, kind: 'fader', dials: { group, ...dials } };
}

/** A fire on a barge, with controls and cues: it is kindled, opens, leans in a gust, throws sparks, and burns green with salt. */
export const emberBarge = validatePiece({
  format: 'vast-swarm piece',
  version: 12,
  name: 'Ember Barge',
  seed: 58,
  frame: { width: 1920, height: 1080, rate: 30, length: 720, preroll: 60 },
  backdrop: { kind: 'linear', dials: { first: '#02060c', last: '#1a0d10', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: { target: [0, 0.6, 0], distance: 6, elevation: 2, view: 42, near: 0.4 },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'smoke',
      name: 'Smoke',
      on: true,
      emitter: { kind: 'disc', dials: { radius: 0.4, centre: [0, 0.7, -0.3] } },
      launch: { kind: 'cone', dials: { angle: 16, speed: spread(0.6, 1.1) } },
      bodies: [
        {
          ...{ id: 'puff', name: 'Puff', on: true, kind: 'puff' },
          dials: { mode: 'normal', detail: 2.4, hardness: 0, spin: spread(-30, 30), cover: 0.5 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 46, lifetime: spread(2.6, 4.2) },
        size: {
          feed: 'spread',
          ...{ from: 0.9, to: 1.7 },
          over: [
            { x: 0, y: 0.35 },
            { x: 1, y: 1 },
          ],
        },
        opacity: over(0.3, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#6a2d16' },
            { at: 0.3, colour: '#2c1a1c' },
            { at: 1, colour: '#10161c' },
          ],
        },
      },
      copies: [],
    },
    {
      id: 'flames',
      name: 'Flames',
      on: true,
      emitter: { kind: 'disc', dials: { radius: 0.5, centre: [0, -0.55, 0] } },
      launch: { kind: 'cone', dials: { angle: 10, speed: spread(0.5, 2.2) } },
      bodies: [
        {
          ...{ id: 'puff', name: 'Puff', on: true, kind: 'puff' },
          dials: { detail: 1.2, hardness: 0, high: 1.9, facing: 'velocity', gain: 0.34 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 1100, lifetime: spread(0.5, 1.7) },
        size: {
          feed: 'spread',
          ...{ from: 0.18, to: 0.5 },
          over: [
            { x: 0, y: 0.45 },
            { x: 0.35, y: 1 },
            { x: 1, y: 0.55 },
          ],
        },
        opacity: over(0.5, LICKING),
        colour: { feed: 'gradient', by: 'life', stops: EMBER },
        light: spread(0.5, 1.3),
      },
      copies: [],
    },
    {
      id: 'sparks',
      name: 'Sparks',
      on: true,
      emitter: { kind: 'disc', dials: { radius: 0.5, centre: [0, -0.2, 0] } },
      launch: { kind: 'cone', dials: { angle: 34, speed: spread(1, 3.4) } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { stretch: 0.06, gain: 1.8 },
        },
      ],
      dials: {
        ...{ when: 'both', rate: 160, lifetime: spread(0.9, 3.2) },
        size: { feed: 'spread', from: 0.005, to: 0.015, over: COME_AND_GO },
        opacity: over(1, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#fff2c4', light: 4 },
            { at: 0.4, colour: '#ffa338', light: 3 },
            { at: 1, colour: '#c22a10', light: 1.4 },
          ],
        },
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'heat', name: 'Heat', on: true, kind: 'gravity' },
      dials: { strength: 1.5, direction: [0, 1, 0] },
    },
    {
      ...{ id: 'wind', name: 'Wind', on: true, kind: 'wind' },
      dials: { speed: 0.3, direction: [1, 0.1, 0], grip: 0.7 },
    },
    {
      ...{ id: 'draught', name: 'Draught', on: true, kind: 'attraction' },
      dials: { centre: [0, 1.5, 0], strength: 1.3, falloff: 0 },
    },
    {
      ...{ id: 'flicker', name: 'Flicker', on: true, kind: 'curlNoise' },
      dials: {
        strength: {
          feed: 'fixed',
          value: 1.1,
          over: [
            { x: 0, y: 0.25 },
            { x: 1, y: 1 },
          ],
        },
        ...{ scale: 0.75, octaves: 2, change: 1.2 },
      },
    },
  ],
  colliders: [],
  media: [],
  performers: [],
  pictures: [],
  sounds: [],
  signals: [],
  stock: [],
  influence: {
    ...{ heat: { smoke: 0.25, sparks: 0.3 }, flicker: { smoke: 0.5, sparks: 0.9 } },
    draught: { smoke: 0, sparks: 0.2 },
  },
  finish: showFinish(0.6, 0.55, 0.2),
  controls: [
    fader('spread', 'Spread', 'Fire', {
      ...{ rest: 0.12, low: 0, high: 1 },
      moves: [
        { place: 'swarms.flames.emitter.radius', from: 0.12, to: 2.1 },
        { place: 'swarms.flames.rate', from: 380, to: 2400 },
        { place: 'swarms.smoke.emitter.radius', from: 0.1, to: 1.6 },
        { place: 'swarms.sparks.emitter.radius', from: 0.1, to: 1.9 },
      ],
    }),
    fader('sparks', 'Sparks', 'Fire', {
      ...{ rest: 0.25, low: 0, high: 1, key: 'x', held: 1 },
      moves: [{ place: 'swarms.sparks.rate', from: 0, to: 1800, ease: 'linger' }],
    }),
    {
      ...{ id: 'flame', name: 'Flame', on: true, kind: 'gradient' },
      dials: { group: 'Fire', rest: EMBER, moves: [{ place: 'swarms.flames.colour' }] },
    },
    fader('wind', 'Wind', 'Air', {
      ...{ rest: 0.4, low: -4, high: 4, unit: 'm/s' },
      moves: [{ place: 'forces.wind.speed', from: -4, to: 4 }],
    }),
    {
      ...{ id: 'smoke', name: 'Smoke', on: true, kind: 'switch' },
      dials: { group: 'Air', rest: 'on', moves: [{ place: 'swarms.smoke.on' }] },
    },
  ],
  cues: [
    cue('kindle', 'Kindle', [{ control: 'spread', to: 0.4 }], {
      ...{ over: 3, by: 'yes', at: 0.5, key: '1' },
    }),
    cue('open', 'Open', [{ control: 'spread', to: 1 }], { over: 3, by: 'yes', at: 5, key: '2' }),
    cue('gust', 'Gust', [{ control: 'wind', to: 3.4 }], {
      ...{ over: 1.2, ease: 'rush', by: 'yes', at: 9.5, key: '3', next: 'after' },
    }),
    cue('lull', 'Lull', [{ control: 'wind', to: -0.3 }], { over: 3, wait: 0.6 }),
    cue('shower', 'Shower', [{ control: 'sparks', to: 0.9 }], {
      ...{ over: 0.3, by: 'yes', at: 14, key: '4', next: 'after' },
      bursts: [{ swarm: 'sparks', count: 1400 }],
    }),
    cue('settle', 'Settle', [{ control: 'sparks', to: 0.3 }], { over: 2.5, wait: 0.5 }),
    cue('salt', 'Salt', [{ control: 'flame', to: SALT }], {
      ...{ over: 1.8, by: 'yes', at: 16.5, key: '5' },
    }),
    cue(
      'embers',
      'Embers',
      [
        { control: 'flame', to: EMBER },
        { control: 'spread', to: 0.12 },
        { control: 'sparks', to: 0.12 },
      ],
      { over: 3.2, by: 'yes', at: 20.2, key: '6' },
    ),
  ],
  played: [],
});
