import { rangeOf } from '../../../feeds/feeds';
import { choice, number } from '../../../language/dials';
import { hardness } from './common';
import { body } from '../../define';

/** Bodies that are drawn between places. */

/** Frames that a trail goes back at the most. */
const LONGEST_TRAIL = 240;

export const trailDials = {
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
    'Trail width',
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
    'Opacity along',
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
    type: 'colour' as const,
    title: 'Tint',
    help: "Multiplies the particle's colour; a gradient runs along the trail.",
    group: 'Dials',
    default: '#ffffff',
    varies: 'life' as const,
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
};

export const trail = body({
  kind: 'trail',
  title: 'Trail',
  help: 'Where the particle has been, as a line, ribbon, column or tube.',
  icon: 'M4 19c6 0 4-9 9-9s3-5 7-5',
  shape: { draws: 'trail' },
  history: ({ length, by }) => ({
    frames: Math.ceil(rangeOf(length)[1]),
    way: by === 'length',
  }),
  dials: trailDials,
});
