import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { spread } from './shapes';

/** Picture sets: flags on their lines over the quay change what they say, a ripple at a time. */
export const signalFlags = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Signal Flags',
  seed: 5,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 0 },
  backdrop: { kind: 'linear', dials: { first: '#04111c', last: '#0e4450', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: {
      ...{ target: [0.1, -1.1, -1.2], distance: 5, elevation: -4, view: 44, near: 0.4 },
      azimuth: { feed: 'signal', signal: 'sway', from: -16, to: 16 },
      ...{ aperture: 0.09, focus: 4.6, blades: 6, shake: 0.35, shakeSpeed: 0.5 },
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'flags',
      name: 'Flags',
      on: true,
      emitter: {
        kind: 'outline',
        dials: { outline: 'lines', placing: 'even', places: 17, size: 1 },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'rope', name: 'Rope', on: true, kind: 'links' },
          dials: { mode: 'normal', radius: 0.7, most: 2, width: 0.05, gain: 0.35 },
        },
        {
          ...{ id: 'cloth', name: 'Cloth', on: true, kind: 'pictureSet' },
          dials: {
            ...{
              mode: 'normal',
              pictures: ['flags'],
              columns: 4,
              rows: 4,
              pick: 'noise',
              every: 14,
            },
            ...{ facing: 'fixed', wide: 1.25, gain: 0.8 },
            stand: [
              { feed: 'signal', signal: 'wind', from: -6, to: 6 },
              { feed: 'signal', signal: 'wind', from: -22, to: 22 },
              0,
            ],
            turn: {
              feed: 'formula',
              text: '9 * sin(time * 2.2 + x * 2.4 + index * 0.9)',
              from: -20,
              to: 20,
            },
          },
        },
      ],
      dials: {
        ...{ when: 'bursts', burst: 17, lasts: 'ever', size: 0.31, opacity: 1 },
        colour: {
          feed: 'layers',
          as: 'colours',
          layers: [
            {
              ...{ by: 'formula', text: 'smooth(0.55, 1, sin(x * 1.1 - time * 1.9))' },
              ...{ over: 'normal', amount: 1 },
              stops: [
                { at: 0, colour: '#c4d6d8', light: 0.8 },
                { at: 1, colour: '#fff2d8', light: 2.6 },
              ],
            },
          ],
          stops: [
            { at: 0, colour: '#ffffff' },
            { at: 1, colour: '#ffffff' },
          ],
        },
      },
      copies: [{ count: 6, offset: [0.12, -0.5, -0.5], turn: [0, 4, 1.5], scale: 1 }],
    },
    {
      id: 'lamps',
      name: 'Lamps',
      on: true,
      emitter: { kind: 'box', dials: { size: [13, 6, 9], centre: [0, -1.5, -4] } },
      launch: { kind: 'allRound', dials: { speed: spread(0, 0.06) } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { hardness: 0.1 } }],
      dials: {
        ...{ when: 'bursts', burst: 420, lasts: 'ever', opacity: 0.9 },
        size: spread(0.012, 0.045),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#2fb8a8', light: 1 },
            { at: 0.6, colour: '#ffb45c', light: 2 },
            { at: 1, colour: '#ffe9c0', light: 4 },
          ],
        },
        light: {
          feed: 'formula',
          text: '0.3 + 1.2 * (0.5 + 0.5 * sin(time * 1.7 + index)) ^ 3',
          from: 0,
          to: 4,
        },
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'lines', name: 'Lines', on: true, kind: 'home' },
      dials: { stiffness: 20, damping: 3 },
    },
    {
      ...{ id: 'breeze', name: 'Breeze', on: true, kind: 'curlNoise' },
      dials: { strength: 0.5, scale: 1.8, octaves: 2, change: 0.5 },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    { id: 'sway', name: 'Sway', on: true, kind: 'wave', dials: { period: 20 } },
    { id: 'wind', name: 'Wind', on: true, kind: 'noise', dials: { speed: 0.7, detail: 2 } },
  ],
  stock: [
    { id: 'flags', name: 'Flags', type: 'picture', source: { made: 'flags' } },
    {
      ...{ id: 'lines', name: 'Lines', type: 'outline' },
      source: { path: 'M-3.2 -0.9 Q-1.6 -0.1 0 -0.75 Q1.6 -0.05 3.2 -1' },
    },
  ],
  influence: { breeze: { lamps: 0.1 }, lines: { lamps: 0 } },
  finish: showFinish(0.4, 0.5, 0.45),
});
