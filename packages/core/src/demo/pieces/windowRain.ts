import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';
import { COME_AND_GO, over, spread } from './shapes';

const pane = (x: number, y: number) => {
  const [w, h] = [0.38, 0.42];
  const points = [x, y, x + w, y, x + w, y + h, x, y + h];
  return { shape: 'polygon', points: points.map((v) => Math.round(v * 1000) / 1000) };
};

/** Depth of field and masks: the lights of the quay through a wet window, four panes to a sash. */
export const windowRain = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Window Rain',
  seed: 19,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 120 },
  backdrop: { kind: 'linear', dials: { first: '#050c16', last: '#0b2630', turn: 90 } },
  camera: {
    kind: 'perspective',
    dials: {
      ...{ target: [0, 0, 0], distance: 3, elevation: 0, view: 40, near: 0.2 },
      azimuth: { feed: 'signal', signal: 'lean', from: -5, to: 5 },
      ...{ aperture: 0.22, focus: 3, blades: 7, bladeTurn: 12 },
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'quay',
      name: 'Quay lights',
      on: true,
      emitter: { kind: 'box', dials: { size: [26, 7, 10], centre: [0, -0.6, -16] } },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [{ id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { hardness: 0.6 } }],
      dials: {
        ...{ when: 'bursts', burst: 260, lasts: 'ever', opacity: 1 },
        size: spread(0.05, 0.16),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#ff9a3c', light: 60 },
            { at: 0.5, colour: '#ffcf8a', light: 44 },
            { at: 0.75, colour: '#3fd8c0', light: 40 },
            { at: 0.92, colour: '#ff5a3c', light: 50 },
            { at: 1, colour: '#6aa8ff', light: 40 },
          ],
        },
        light: {
          feed: 'formula',
          text: '0.35 + 0.65 * smooth(-0.6, 0.7, sin(time * (0.4 + random) + index * 2))',
          from: 0,
          to: 2,
        },
      },
      copies: [],
    },
    {
      id: 'drops',
      name: 'Drops',
      on: true,
      emitter: {
        kind: 'rectangle',
        dials: { width: 4.6, depth: 2.6, turn: [90, 0, 0], fill: 'inside' },
      },
      launch: { kind: 'allRound', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'disc', name: 'Disc', on: true, kind: 'disc' },
          dials: { hardness: 0.35, gain: 0.8 },
        },
        {
          ...{ id: 'rim', name: 'Rim', on: true, kind: 'ring' },
          dials: { scale: 1.15, line: 0.2, gain: 0.5 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 420,
        lifetime: spread(2, 5),
        size: {
          feed: 'spread',
          from: 0.006,
          to: 0.028,
          over: [
            { x: 0, y: 0.3 },
            { x: 0.3, y: 1 },
            { x: 1, y: 0.8 },
          ],
        },
        opacity: over(0.6, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#8fc8d8', light: 0.8 },
            { at: 0.7, colour: '#ffe0b0', light: 1 },
            { at: 1, colour: '#ffb060', light: 1.8 },
          ],
        },
      },
      copies: [],
    },
    {
      id: 'runs',
      name: 'Runs',
      on: true,
      emitter: {
        kind: 'rectangle',
        dials: { width: 4.2, depth: 0.2, turn: [90, 0, 0], centre: [0, 1.15, 0], fill: 'inside' },
      },
      launch: { kind: 'cone', dials: { direction: [0, -1, 0], angle: 3, speed: spread(0.1, 0.5) } },
      bodies: [
        {
          ...{ id: 'trail', name: 'Trail', on: true, kind: 'trail' },
          dials: {
            form: 'line',
            length: spread(30, 80),
            gain: 0.7,
            hardness: 0.2,
            width: over(0.7, [
              { x: 0, y: 1 },
              { x: 1, y: 0.3 },
            ]),
          },
        },
        {
          ...{ id: 'bead', name: 'Bead', on: true, kind: 'disc' },
          dials: { hardness: 0.4, scale: 1.5, gain: 1.6 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 16,
        lifetime: spread(3, 7),
        size: spread(0.014, 0.03),
        opacity: over(0.8, COME_AND_GO),
        colour: {
          feed: 'gradient',
          by: 'random',
          stops: [
            { at: 0, colour: '#9adcd8', light: 0.9 },
            { at: 1, colour: '#ffd9a0', light: 1.6 },
          ],
        },
      },
      copies: [],
    },
  ],
  forces: [
    {
      ...{ id: 'down', name: 'Down', on: true, kind: 'gravity' },
      dials: { strength: { feed: 'signal', signal: 'fits', from: 0.02, to: 1.1 } },
    },
    {
      ...{ id: 'cling', name: 'Cling', on: true, kind: 'drag' },
      dials: { amount: 1.1 },
    },
    {
      ...{ id: 'waver', name: 'Waver', on: true, kind: 'turbulence' },
      dials: { strength: 0.23, scale: 0.25, octaves: 2, change: 0.2 },
    },
  ],
  colliders: [],
  sounds: [],
  signals: [
    { id: 'lean', name: 'Lean', on: true, kind: 'wave', dials: { period: 18 } },
    {
      id: 'fits',
      name: 'Fits and starts',
      on: true,
      kind: 'noise',
      dials: { speed: 0.9, detail: 2 },
    },
  ],
  stock: [],
  influence: {
    down: { quay: 0, drops: 0.03 },
    cling: { quay: 0 },
    waver: { quay: 0, drops: 0.05 },
  },
  finish: [
    ...showFinish(0.3, 0.1, 0.6).slice(0, 1),
    {
      ...{ id: 'sash', name: 'Sash', on: true, kind: 'colourLayer' },
      dials: {
        ...{
          colour: '#0a0604',
          over: 'multiply',
          light: 0.5,
          maskSide: 'outside',
          maskSoft: 0.004,
        },
        mask: [pane(0.105, 0.06), pane(0.515, 0.06), pane(0.105, 0.52), pane(0.515, 0.52)],
      },
    },
    ...showFinish(0.3, 0.1, 0.6).slice(1),
  ],
});
