import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, FADING, over, spread } from './shapes';

/** Links: a net hangs in the dark, sways, tears apart and is mended thread by thread. */
export const netMenders = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Net Menders',
  seed: 12,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#0a1c24', outer: '#020406', centreY: 0.45, radius: 0.85 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      ...{ target: [0, 0.05, 0], distance: 4.6, elevation: 6, view: 40, near: 0.4 },
      azimuth: { feed: 'signal', signal: 'walk', from: -24, to: 24 },
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'knots',
      name: 'Knots',
      on: true,
      emitter: {
        kind: 'lattice',
        dials: { columns: 44, rows: 24, layers: 1, spacing: [0.125, 0.125, 0.125] },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'links', name: 'Links', on: true, kind: 'links' },
          dials: { radius: 0.21, most: 7, width: 0.22, gain: 1.5, fill: 0.2, hardness: 0.2 },
        },
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.1, scale: 0.8, gain: 1.6 },
        },
      ],
      dials: {
        ...{ when: 'once', lasts: 'ever' },
        size: spread(0.02, 0.034),
        opacity: 0.95,
        colour: {
          feed: 'layers',
          as: 'greys',
          layers: [
            {
              by: 'formula',
              text: '0.22 + 0.2 * sin(x * 1.6 + time * 0.7)',
              over: 'normal',
              amount: 1,
            },
            { by: 'reading', reading: 'speed', from: 0.1, to: 1.6, over: 'add', amount: 0.8 },
            { by: 'random', over: 'overlay', amount: 0.35 },
          ],
          stops: [
            { at: 0, colour: '#0f4a5c', light: 0.9 },
            { at: 0.35, colour: '#56d8c4', light: 1.1 },
            { at: 0.65, colour: '#ffd99a', light: 1.6 },
            { at: 1, colour: '#ff8a3c', light: 2.6 },
          ],
        },
      },
      copies: [],
    },
    {
      id: 'needle',
      name: 'Needles',
      on: true,
      emitter: { kind: 'swarm', dials: { swarm: 'knots' } },
      launch: { kind: 'allRound', dials: { speed: spread(0.1, 0.5) } },
      bodies: [
        {
          ...{ id: 'spark', name: 'Spark', on: true, kind: 'spark' },
          dials: { bend: 6, hardness: 0.2, turn: spread(0, 90), spin: spread(-90, 90) },
        },
      ],
      dials: {
        when: 'steadily',
        rate: { feed: 'signal', signal: 'tear', from: 30, to: 700 },
        lifetime: spread(0.5, 1.4),
        size: { feed: 'spread', from: 0.04, to: 0.14, over: FADING },
        opacity: over(0.9, COME_AND_GO),
        colour: '#ffc27a',
        light: spread(1, 4),
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'mend', name: 'Mend', on: true, kind: 'home' },
      dials: { stiffness: { feed: 'signal', signal: 'tear', from: 60, to: 1.2 }, damping: 2.2 },
    },
    {
      ...{ id: 'swell', name: 'Swell', on: true, kind: 'curlNoise' },
      dials: {
        strength: { feed: 'signal', signal: 'tear', from: 0.7, to: 3.2 },
        ...{ scale: 1.5, octaves: 2, change: 0.35 },
      },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    {
      ...{ id: 'tear', name: 'Tear', on: true, kind: 'keyframes' },
      dials: {
        keys: [
          { at: 0, value: 0 },
          { at: 3, value: 0.02 },
          { at: 5, value: 1 },
          { at: 6.5, value: 0.9 },
          { at: 10, value: 0 },
          { at: 12.5, value: 0 },
          { at: 14, value: 0.9 },
          { at: 16, value: 0.7 },
          { at: 19.5, value: 0.05 },
        ],
      },
    },
    { id: 'walk', name: 'Walk', on: true, kind: 'wave', dials: { period: 20 } },
  ],
  stock: [],
  influence: { mend: { needle: 0 } },
  finish: showFinish(0.5, 0.7, 0.2),
});
