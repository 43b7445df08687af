import { choice, number } from '../dials';
import type { BodyKind } from '../kinds';
import { hardness } from './common';

/** Bodies that are drawn between places. */

export const LONGEST_TRAIL = 240;

export const trail: BodyKind = {
  kind: 'trail',
  title: 'Trail',
  help: 'Where the particle has been, as a line, ribbon, column or tube.',
  icon: 'M4 19c6 0 4-9 9-9s3-5 7-5',
  shape: { draws: 'trail' },
  dials: {
    form: choice(
      'Form',
      'line',
      {
        line: 'Line',
        ribbon: 'Ribbon, flat in space',
        column: 'Column, four-sided and lit',
        tube: 'Tube, round and lit',
      },
      'What its cross-section is.',
    ),
    length: number('Length', 30, [0, LONGEST_TRAIL], 'How far back it goes.', {
      unit: 'frames',
      varies: 'birth',
    }),
    width: number(
      'Width',
      {
        feed: 'fixed',
        value: 1,
        over: [
          { x: 0, y: 1 },
          { x: 1, y: 0.2 },
        ],
      },
      [0, 100],
      "Multiplies the particle's size; its shape runs from head to end.",
      { varies: 'life', drag: 'log' },
    ),
    fade: number(
      'Opacity',
      {
        feed: 'fixed',
        value: 1,
        over: [
          { x: 0, y: 1 },
          { x: 1, y: 0 },
        ],
      },
      [0, 1],
      'Its shape runs from head to end.',
      { varies: 'life' },
    ),
    tint: {
      type: 'colour',
      title: 'Tint',
      help: "Multiplies the particle's colour; a gradient runs along the trail.",
      group: 'Dials',
      default: '#ffffff',
      varies: 'life',
    },
    by: choice(
      'Tint runs by',
      'place',
      {
        place: 'Place along the trail',
        age: 'Age of the particle there',
        length: 'Metres behind the head',
      },
      'What the gradient of the tint follows.',
    ),
    span: number('Over', 2, [0.01, 1000], 'Metres behind the head at which the tint ends.', {
      unit: 'm',
      drag: 'log',
      when: { dial: 'by', is: ['length'] },
    }),
    hardness: { ...hardness, default: 0.3 },
  },
};

export const links: BodyKind = {
  kind: 'links',
  title: 'Links',
  help: 'Lines between particles that are near each other.',
  icon: 'M5 6h.01M18 5h.01M19 17h.01M8 18h.01M5 6l13-1l1 12l-11 1zM5 6l3 12M5 6l14 11',
  shape: { draws: 'links' },
  dials: {
    radius: number('Radius', 0.5, [0, 100], 'How near two particles have to be.', {
      unit: 'm',
      drag: 'log',
      varies: 'never',
    }),
    most: number('Per particle', 4, [1, 64], 'Most links of one particle.', { whole: true }),
    total: number('In all', 40_000, [0, 500_000], 'Most links of the swarm.', { whole: true }),
    width: number('Width', 0.25, [0, 10], "Multiplies the particle's size.", { drag: 'log' }),
    fill: number('Fill', 0, [0, 1], 'Opacity of the triangles between linked particles.'),
    hardness: { ...hardness, default: 0.3 },
  },
};
