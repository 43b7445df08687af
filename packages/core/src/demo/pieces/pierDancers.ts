import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

const gone = [
  { x: 0, y: 1 },
  { x: 1, y: 0 },
];

/** Joints: two dance on the pier; their bones draw ribbons of light, their bodies shed sparks, their feet kick up dust, and confetti bounces off
 * them. */
export const pierDancers = validatePiece({
  format: 'vast-swarm piece',
  version: 10,
  name: 'Pier Dancers',
  seed: 61,
  frame: { width: 1920, height: 1080, rate: 30, length: 480, preroll: 60 },
  backdrop: { kind: 'linear', dials: { first: '#04060d', last: '#161b33', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, 0.9, 0],
      distance: 4.3,
      azimuth: 12,
      elevation: 9,
      orbit: 4,
      view: 38,
      near: 0.4,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'ribbons',
      name: 'Ribbons',
      on: true,
      emitter: {
        kind: 'joints',
        dials: { performer: 'dancers', from: 'bones', stays: 'bound' },
      },
      launch: { kind: 'normal', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'trail', name: 'Trail', on: true, kind: 'trail' },
          dials: {
            ...{ form: 'column', hardness: 0.4, gain: 1.3 },
            length: spread(10, 34),
            width: over(0.9, gone),
            fade: over(0.6, gone),
            // Each place of a trail has the colour of what is behind it on the screen.
            tint: { feed: 'map', picture: 'aurora', by: 'screen', light: 3 },
          },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 320, lifetime: spread(2, 5) },
        size: { feed: 'spread', from: 0.012, to: 0.03, over: COME_AND_GO },
        opacity: over(0.8, COME_AND_GO),
        colour: '#ffffff',
        light: spread(0.8, 2),
      },
      copies: [],
    },
    {
      id: 'sparks',
      name: 'Sparks',
      on: true,
      emitter: {
        kind: 'joints',
        dials: { performer: 'dancers', from: 'surface', share: 0.45 },
      },
      launch: { kind: 'normal', dials: { speed: spread(0, 0.25) } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.3, gain: 1.3 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 6500, lifetime: spread(0.5, 1.9) },
        size: { feed: 'spread', from: 0.006, to: 0.024, over: COME_AND_GO },
        opacity: over(0.7, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'life',
          stops: [
            { at: 0, colour: '#ffe9c4' },
            { at: 0.25, colour: '#ff9a4d' },
            { at: 0.7, colour: '#c93a76' },
            { at: 1, colour: '#2c2f9c' },
          ],
        },
        light: spread(0.8, 2.6),
      },
      copies: [],
    },
    {
      id: 'dust',
      name: 'Dust',
      on: true,
      emitter: {
        kind: 'joints',
        dials: {
          ...{ performer: 'dancers', from: 'joints', jitter: 0.07, share: 0.35 },
          joints: ['Ada', 'Bo'].flatMap((who) =>
            ['left toe', 'right toe'].map((joint) => `${who} ${joint}`),
          ),
        },
      },
      launch: { kind: 'cone', dials: { direction: [0, 1, 0], angle: 70, speed: spread(0.1, 0.7) } },
      bodies: [
        {
          ...{ id: 'puff', name: 'Puff', on: true, kind: 'disc' },
          dials: { hardness: 0, gain: 0.5 },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 700, lifetime: spread(0.8, 2.4) },
        size: { feed: 'spread', from: 0.02, to: 0.07, over: COME_AND_GO },
        opacity: over(0.22, COME_AND_GO),
        colour: '#8fb6c9',
        light: 0.8,
      },
      copies: [],
    },
    {
      id: 'confetti',
      name: 'Confetti',
      on: true,
      emitter: {
        kind: 'box',
        dials: { size: [3.6, 0.3, 1.6], centre: [0, 2.9, 0] },
      },
      launch: {
        kind: 'cone',
        dials: { direction: [0, -1, 0], angle: 20, speed: spread(0.2, 0.6) },
      },
      bodies: [
        {
          ...{ id: 'square', name: 'Square', on: true, kind: 'square' },
          dials: { gain: 0.9, wide: 0.6, turn: spread(0, 360), spin: spread(-260, 260) },
        },
      ],
      dials: {
        ...{ when: 'steadily', rate: 170, lifetime: spread(4, 6) },
        size: { feed: 'spread', from: 0.02, to: 0.034, over: COME_AND_GO },
        opacity: over(0.9, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#ffb45e' },
            { at: 0.4, colour: '#e2486f' },
            { at: 0.7, colour: '#4fc4b8' },
            { at: 1, colour: '#5a63e6' },
          ],
        },
        light: 1.1,
      },
      copies: [],
    },
  ],
  forces: [
    { ...{ id: 'fall', name: 'Fall', on: true, kind: 'gravity' }, dials: { strength: 1.6 } },
    {
      ...{ id: 'curl', name: 'Night air', on: true, kind: 'curlNoise' },
      dials: { strength: 0.5, scale: 0.9, octaves: 2, change: 0.4 },
    },
    { ...{ id: 'calm', name: 'Calm', on: true, kind: 'drag' }, dials: { amount: 1.1 } },
  ],
  colliders: [
    {
      ...{ id: 'bodies', name: 'Bodies', on: true, kind: 'performer' },
      dials: { performer: 'dancers', girth: 1.2, bounce: 0.5, friction: 0.1 },
    },
  ],
  media: [],
  performers: [
    {
      ...{ id: 'dancers', name: 'Dancers', on: true, kind: 'played' },
      dials: { motion: 'pair' },
    },
  ],
  pictures: [
    {
      ...{ id: 'aurora', name: 'Aurora', on: true, kind: 'noise' },
      dials: {
        ...{ scale: 2.2, octaves: 2, contrast: 3.2, change: 0.45 },
        ...{ dark: '#1c2be0', bright: '#ff5a24', detail: 160 },
      },
    },
  ],
  sounds: [],
  signals: [],
  stock: [{ id: 'pair', name: 'Pier dancers', type: 'motion', source: { made: 'pierDancers' } }],
  influence: {
    fall: { ribbons: 0, sparks: 0, dust: 0 },
    bodies: { ribbons: 0, sparks: 0, dust: 0 },
    curl: { ribbons: 0, dust: 0.6 },
    calm: { ribbons: 0 },
  },
  finish: [
    {
      ...{ id: 'sky', name: 'Aurora behind', on: true, kind: 'pictureLayer' },
      dials: { picture: 'aurora', over: 'screen', light: 0.035 },
    },
    ...showFinish(0.6, 0.55, 0.2),
  ],
});
