import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { over, spread } from './shapes';

/** Trails: gulls wheel over the harbour mouth, and the evening keeps the lines they draw. */
export const gullTrails = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Gull Trails',
  seed: 27,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 90 },
  backdrop: {
    kind: 'linear',
    dials: { first: '#05070f', last: '#3a1c2c', turn: 90 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      target: [0, 0.1, 0],
      distance: 6.9,
      azimuth: 20,
      elevation: 12,
      orbit: 5,
      view: 42,
      near: 0.6,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'gulls',
      name: 'Gulls',
      on: true,
      emitter: {
        kind: 'sphere',
        dials: {
          ...{ radius: 0.9, fill: 'inside' },
          centre: [
            { feed: 'formula', text: '1.1 * sin(time * 0.42)', from: -3, to: 3 },
            { feed: 'formula', text: '0.5 * sin(time * 0.7)', from: -3, to: 3 },
            { feed: 'formula', text: '1.4 * cos(time * 0.35)', from: -3, to: 3 },
          ],
        },
      },
      launch: { kind: 'tangent', dials: { speed: spread(0.8, 1.6) } },
      bodies: [
        {
          ...{ id: 'trail', name: 'Trail', on: true, kind: 'trail' },
          dials: {
            ...{ form: 'line', hardness: 0.15, by: 'place', gain: 1.15 },
            length: spread(24, 75),
            width: over(0.6, [
              { x: 0, y: 0.5 },
              { x: 0.12, y: 1 },
              { x: 1, y: 0.15 },
            ]),
            fade: over(0.75, [
              { x: 0, y: 1 },
              { x: 0.3, y: 0.5 },
              { x: 1, y: 0 },
            ]),
            tint: {
              feed: 'gradient',
              stops: [
                { at: 0, colour: '#fff3dc', light: 1.6 },
                { at: 0.12, colour: '#ffb070', light: 0.9 },
                { at: 0.45, colour: '#e0587a', light: 0.8 },
                { at: 1, colour: '#4a58d8', light: 0.8 },
              ],
            },
          },
        },
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { stretch: 0.03, scale: 1.1, gain: 2, wide: 0.5 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 110,
        lifetime: spread(3, 6),
        size: spread(0.022, 0.05),
        opacity: over(0.9, [
          { x: 0, y: 0 },
          { x: 0.12, y: 1 },
          { x: 0.85, y: 1 },
          { x: 1, y: 0 },
        ]),
        colour: {
          feed: 'gradient',
          by: 'formula',
          text: 'speed / 3.2',
          stops: [
            { at: 0, colour: '#7fa8d8', light: 0.8 },
            { at: 0.5, colour: '#ffffff', light: 1 },
            { at: 1, colour: '#ffd9a0', light: 1.8 },
          ],
        },
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'flock', name: 'Flock', on: true, kind: 'flocking' },
      dials: { radius: 0.5, separation: 0.6, alignment: 1.2, cohesion: 0.5 },
    },
    {
      ...{ id: 'wheel', name: 'Wheel', on: true, kind: 'vortex' },
      dials: { axis: [0.15, 1, 0.1], spin: 190, radius: 2.8, falloff: 1, acts: 'push', grip: 0.8 },
    },
    {
      ...{ id: 'mast', name: 'Mast', on: true, kind: 'attraction' },
      dials: { strength: 1.4, radius: 4, falloff: 0.2 },
    },
    {
      ...{ id: 'gusts', name: 'Gusts', on: true, kind: 'curlNoise' },
      dials: { strength: 1.6, scale: 1.8, octaves: 2, change: 0.3 },
    },
    {
      ...{ id: 'limit', name: 'Wings', on: true, kind: 'speedLimit' },
      dials: { most: 2.6 },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [],
  stock: [],
  influence: {},
  finish: showFinish(0.45, 0.55, 0.3),
});
