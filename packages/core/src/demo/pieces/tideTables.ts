import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

const plane = { centre: [0, 0, 0], turn: [-90, 0], width: 9.6, height: 6.4 };
const swell = { feed: 'map', picture: 'swell', by: 'plane', plane };

/** Made maps: a field of salt boxes rises and falls with a slow noise between two limits; in steps, some light up. */
export const tideTables = validatePiece({
  format: 'vast-swarm piece',
  version: 7,
  name: 'Tide Tables',
  seed: 31,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#1b3540', outer: '#04080d', centreY: 0.4, radius: 0.9 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      ...{ target: [0, 0.2, 0], distance: 12.4, azimuth: 24, elevation: 30, orbit: 3.5 },
      ...{ view: 40, near: 0.5 },
    },
  },
  lights: [
    {
      ...{ id: 'moon', name: 'Moon', on: true, kind: 'key' },
      dials: { colour: '#cfe8ff', strength: 0.75, azimuth: -50, elevation: 34 },
    },
    {
      ...{ id: 'quay', name: 'Quay lamp', on: true, kind: 'fill' },
      dials: { colour: '#ff8f4a', strength: 0.6, azimuth: 80, elevation: 10 },
    },
    {
      ...{ id: 'night', name: 'Night', on: true, kind: 'ambient' },
      dials: { colour: '#1a3646', strength: 0.5 },
    },
  ],
  density: 1,
  swarms: [
    {
      id: 'boxes',
      name: 'Salt boxes',
      on: true,
      emitter: {
        kind: 'lattice',
        dials: { columns: 48, rows: 1, layers: 32, spacing: [0.2, 0.2, 0.2] },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'box', name: 'Box', on: true, kind: 'mesh' },
          dials: {
            ...{ mode: 'opaque', form: 'cube', pivot: 'base', gloss: 0.5, facing: 'fixed' },
            high: { ...swell, low: 0.2, high: 0.85, from: 0.3, to: 7.5 },
          },
        },
      ],
      dials: {
        ...{ when: 'once', lasts: 'ever', size: 0.165, opacity: 1 },
        colour: {
          feed: 'layers',
          as: 'greys',
          layers: [
            { by: 'picture', picture: 'swell', at: 'now', size: 6.4, over: 'normal', amount: 1 },
            { by: 'random', over: 'overlay', amount: 0.25 },
          ],
          stops: [
            { at: 0, colour: '#123f52', light: 0.6 },
            { at: 0.4, colour: '#4fa6a8', light: 0.8 },
            { at: 0.7, colour: '#f2e6cf', light: 1 },
            { at: 1, colour: '#ffb060', light: 1.8 },
          ],
        },
        light: {
          ...{ feed: 'map', picture: 'watch', by: 'plane', plane },
          ...{ low: 0.55, high: 0.8, from: 0.8, to: 5 },
        },
      },
      copies: [],
    },
  ],
  forces: [],
  colliders: [],
  pictures: [
    {
      ...{ id: 'swell', name: 'Swell', on: true, kind: 'noise' },
      dials: { scale: 2.4, octaves: 2, contrast: 1.7, change: 0.16, shape: 1.5, detail: 192 },
    },
    {
      ...{ id: 'watch', name: 'Watch', on: true, kind: 'noise' },
      dials: {
        scale: 5,
        octaves: 1,
        contrast: 2.2,
        change: 1.4,
        every: 24,
        shape: 1.5,
        detail: 48,
      },
    },
  ],
  sounds: [],
  signals: [],
  stock: [],
  influence: {},
  finish: showFinish(0.4, 0.4, 0.7),
});
