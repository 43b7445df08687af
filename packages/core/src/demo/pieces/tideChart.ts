import { validatePiece } from '../../piece/parse';
import { showFinish } from './finish';

/** Picture-driven flow: the water of an old chart begins to run along its depth lines. */
export const tideChart = validatePiece({
  format: 'vast-swarm piece',
  version: 6,
  name: 'Tide Chart',
  seed: 12,
  frame: { width: 1920, height: 1080, rate: 30, length: 600, preroll: 120 },
  backdrop: { kind: 'flat', dials: { colour: '#02080c' } },
  camera: {
    kind: 'perspective',
    dials: {
      target: [{ feed: 'signal', signal: 'sway', from: -0.25, to: 0.25 }, -0.12, 0],
      distance: 4.3,
      azimuth: { feed: 'signal', signal: 'sway', from: -9, to: 9 },
      elevation: -24,
      view: 36,
      near: 0.3,
    },
  },
  lights: [],
  density: 1,
  swarms: [
    {
      id: 'water',
      name: 'Water',
      on: true,
      emitter: { kind: 'picture', dials: { picture: 'chart', limit: 0.012, width: 4.6 } },
      launch: { kind: 'normal', dials: { speed: 0 } },
      bodies: [
        {
          ...{ id: 'streak', name: 'Streak', on: true, kind: 'streak' },
          dials: { mode: 'add', stretch: 0.07, wide: 0.7 },
        },
      ],
      dials: {
        when: 'steadily',
        rate: 9500,
        lifetime: { feed: 'spread', from: 2.5, to: 5.5 },
        size: { feed: 'spread', from: 0.009, to: 0.024, distribution: 'normal' },
        opacity: {
          feed: 'fixed',
          value: 0.75,
          over: [
            { x: 0, y: 0 },
            { x: 0.2, y: 1 },
            { x: 0.8, y: 0.8 },
            { x: 1, y: 0 },
          ],
        },
        colour: { feed: 'place' },
        // A beam from the headland goes round once in ten seconds.
        light: {
          feed: 'formula',
          text: '0.5 + 1.2 * random ^ 4 + 3.2 * smooth(0.93, 1, cos(atan2(y - 0.55, x + 0.7) - time * 0.6283))',
          from: 0,
          to: 5,
        },
      },
      copies: [],
    },
    {
      id: 'lights',
      name: 'Riding lights',
      on: true,
      emitter: {
        kind: 'picture',
        dials: { picture: 'chart', limit: 0.05, width: 4.6, centre: [0, 0, 0.05] },
      },
      launch: { kind: 'normal', dials: { speed: 0 } },
      bodies: [
        { id: 'disc', name: 'Disc', on: true, kind: 'disc', dials: { mode: 'add', hardness: 0.3 } },
      ],
      dials: {
        when: 'steadily',
        rate: 34,
        lifetime: { feed: 'spread', from: 5, to: 8 },
        size: {
          feed: 'spread',
          from: 0.02,
          to: 0.05,
          over: [
            { x: 0, y: 0 },
            { x: 0.2, y: 1 },
            { x: 0.8, y: 1 },
            { x: 1, y: 0 },
          ],
        },
        opacity: 0.95,
        colour: '#ffb352',
        light: { feed: 'formula', text: '1.2 + noise(time * 3 + index)', from: 0, to: 4 },
      },
      copies: [],
    },
  ],
  forces: [
    {
      id: 'stream',
      name: 'Stream',
      on: true,
      kind: 'pictureFlow',
      dials: {
        picture: 'chart',
        reads: 'contours',
        blur: 0.02,
        speed: { feed: 'signal', signal: 'tide', from: 0.9, to: 2.2 },
        width: 4.6,
        height: 2.5875,
        acts: 'carry',
      },
    },
    {
      id: 'swell',
      name: 'Swell',
      on: true,
      kind: 'curlNoise',
      dials: { strength: 0.07, scale: 0.35, octaves: 2, change: 0.5, axes: [1, 1, 1.6] },
    },
    { id: 'level', name: 'Level', on: true, kind: 'home', dials: { stiffness: 0.25, damping: 1 } },
  ],
  colliders: [
    {
      id: 'border',
      name: 'Border of the chart',
      on: true,
      kind: 'box',
      dials: { acts: 'zone', side: 'outside', does: 'die', size: [4.52, 2.5, 4] },
    },
  ],
  sounds: [],
  signals: [
    { id: 'tide', name: 'Tide', on: true, kind: 'wave', dials: { period: 10 } },
    { id: 'sway', name: 'Sway', on: true, kind: 'wave', dials: { period: 20, phase: 0.25 } },
  ],
  stock: [{ id: 'chart', name: 'Tide chart', type: 'picture', source: { made: 'chart' } }],
  influence: { level: { lights: 0 }, swell: { lights: 0.4 } },
  finish: showFinish(0.45, 1.3),
});
