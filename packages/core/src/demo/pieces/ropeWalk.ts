import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

/**
 * Outline, creeping, copies: down the long shed where ropes are laid, strand over strand. One map runs along and
 * around them all, and changes in steps.
 */
export const ropeWalk = validatePiece({
  format: 'vast-swarm piece',
  version: 8,
  name: 'Rope Walk',
  seed: 31,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 60 },
  backdrop: {
    kind: 'radial',
    dials: { inner: '#1c1208', outer: '#030202', centreY: 0.5, radius: 0.75 },
  },
  camera: {
    kind: 'perspective',
    dials: {
      along: 'flight',
      progress: { feed: 'signal', signal: 'walk', from: 0, to: 1 },
      roll: { feed: 'signal', signal: 'sway', from: -6, to: 6 },
      aperture: 0.035,
      focus: 2.6,
      shake: 0.8,
      shakeSpeed: 0.6,
      view: 62,
      near: 0.45,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'strands',
      name: 'Strands',
      on: true,
      emitter: {
        kind: 'outline',
        dials: {
          outline: 'rope',
          size: 2.4,
          placing: 'random',
          pace: { feed: 'spread', from: 0.5, to: 1.9 },
          centre: [0, 1.7, 0],
        },
      },
      launch: { kind: 'normal', dials: { speed: 0 } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add' } }],
      dials: {
        when: 'steadily',
        rate: 2500,
        lifetime: { feed: 'spread', from: 3, to: 6 },
        size: { feed: 'spread', from: 0.008, to: 0.032, distribution: 'normal' },
        opacity: {
          feed: 'fixed',
          value: 0.9,
          over: [
            { x: 0, y: 0 },
            { x: 0.2, y: 1 },
            { x: 0.8, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: {
          feed: 'layers',
          as: 'greys',
          layers: [
            {
              ...{ by: 'formula', text: 'map(tar)' },
              ...{ over: 'normal', amount: 1 },
            },
            { by: 'life', over: 'screen', amount: 0.1 },
            { by: 'random', over: 'overlay', amount: 0.25 },
          ],
          stops: [
            { at: 0, colour: '#5a220c', light: 0.5 },
            { at: 0.4, colour: '#f07a1e', light: 0.9 },
            { at: 0.68, colour: '#ffe7b8', light: 1.5 },
            { at: 0.9, colour: '#4fe8d8', light: 2 },
          ],
        },
        light: { feed: 'spread', from: 0.5, to: 1.3 },
      },
      copies: [{ count: 9, offset: [0, 0, 0], turn: [40, 0, 0], scale: 1, runsOn: 'around' }],
    },
    {
      id: 'dust',
      name: 'Hemp dust',
      on: true,
      emitter: { kind: 'box', dials: { size: [13, 2.8, 2.8] } },
      launch: { kind: 'allRound', dials: { speed: 0.05 } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add' } }],
      dials: {
        when: 'steadily',
        rate: 500,
        lifetime: { feed: 'spread', from: 4, to: 7 },
        size: { feed: 'spread', from: 0.006, to: 0.02 },
        opacity: {
          feed: 'fixed',
          value: 0.6,
          over: [
            { x: 0, y: 0 },
            { x: 0.3, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        colour: '#8fd8cc',
        light: { feed: 'spread', from: 0.3, to: 1.4 },
      },
      copies: [],
    },
  ],
  forces: [
    {
      id: 'draught',
      name: 'Draught',
      on: true,
      kind: 'curlNoise',
      dials: { strength: 0.3, scale: 1.4, octaves: 2, change: 0.3 },
    },
  ],
  colliders: [],
  pictures: [
    {
      ...{ id: 'tar', name: 'Tar and light', on: true, kind: 'noise' },
      dials: { scale: 7, octaves: 2, contrast: 3.2, change: 1.6, every: 12, shape: 2.4 },
    },
  ],
  sounds: [],
  signals: [
    {
      id: 'walk',
      name: 'Walk',
      on: true,
      kind: 'keyframes',
      dials: {
        keys: [
          { at: 0, value: 0, ease: 'straight' },
          { at: 20, value: 1 },
        ],
      },
    },
    { id: 'sway', name: 'Sway', on: true, kind: 'wave', dials: { period: 7 } },
  ],
  stock: [
    { id: 'rope', name: 'Rope', type: 'outline', source: { made: 'rope' } },
    {
      ...{ id: 'flight', name: 'Flight', type: 'outline' },
      source: { path: 'M-7 0.1 C-4 -0.5 -2 0.5 0 0 S4 -0.45 8 0.1' },
    },
    { id: 'dusk', name: 'Harbour dusk', type: 'table', source: { made: 'dusk' } },
  ],
  influence: { draught: { strands: 0.12 } },
  finish: [
    ...showFinish(0.5, 0.6),
    {
      ...{ id: 'map', name: 'Colour map', on: true, kind: 'lookupTable' },
      dials: { table: 'dusk' },
    },
  ],
});
