import { choice, number, stockDial, stocksDial, type Dials } from '../dials';
import type { BodyKind } from '../kinds';
import { hardness, markDials } from './common';

/** Flat bodies that can turn and stretch. */

function mark(kind: Omit<BodyKind, 'dials'> & { dials: Dials }): BodyKind {
  return { ...kind, dials: { ...kind.dials, ...markDials } };
}

export const ring = mark({
  kind: 'ring',
  title: 'Ring',
  help: 'A round line.',
  icon: 'M12 5a7 7 0 1 0 0 14a7 7 0 0 0 0-14z',
  shape: { draws: 'mark', pattern: 'ring', param: 'line' },
  dials: {
    hardness,
    line: number(
      'Line',
      0.15,
      [0.02, 0.5],
      'Half the width of the line, as a part of the radius.',
      {
        varies: 'never',
      },
    ),
  },
});

export const square = mark({
  kind: 'square',
  title: 'Square',
  help: 'A flat square, or with width and height a bar.',
  icon: 'M6 6h12v12H6z',
  shape: { draws: 'mark', pattern: 'square' },
  dials: { hardness: { ...hardness, default: 1 } },
});

export const spark = mark({
  kind: 'spark',
  title: 'Spark',
  help: 'A star of four rays.',
  icon: 'M12 3c1 6 3 8 9 9c-6 1-8 3-9 9c-1-6-3-8-9-9c6-1 8-3 9-9z',
  shape: { draws: 'mark', pattern: 'spark', param: 'bend' },
  dials: {
    hardness,
    bend: number('Bend', 3, [0, 20], 'How far its sides bend inward; 0 is a diamond.', {
      varies: 'never',
    }),
  },
});

export const puff = mark({
  kind: 'puff',
  title: 'Puff',
  help: 'A soft cloud, no two alike; many make smoke or flame.',
  icon: 'M7 17a4 4 0 0 1 0-8a5 5 0 0 1 9.6-1A4.5 4.5 0 0 1 17 17z',
  shape: { draws: 'mark', pattern: 'puff', param: 'detail' },
  dials: {
    hardness,
    detail: number('Detail', 2, [0.5, 8], 'How many wisps fit across.', { varies: 'never' }),
  },
});

export const streak = mark({
  kind: 'streak',
  title: 'Streak',
  help: 'A dot drawn out along its way by its speed.',
  icon: 'M4 18L18 6M8 20l4-4M14 8l6-5',
  shape: { draws: 'mark', pattern: 'disc' },
  dials: {
    hardness,
    stretch: number('Stretch', 0.05, [0, 10], 'It is as much longer as it flies in this time.', {
      unit: 's',
      varies: 'life',
      drag: 'log',
    }),
  },
});
streak.dials.facing = { ...streak.dials.facing!, default: 'velocity' } as BodyKind['dials'][string];

export const picture = mark({
  kind: 'picture',
  title: 'Picture',
  help: 'Any picture, with its opacity.',
  icon: 'M4 5h16v14H4zM4 16l5-5l4 4l3-3l4 4M15 9h.01',
  shape: { draws: 'mark', pattern: 'pictures' },
  dials: { picture: stockDial('Picture', ['picture'], 'What is drawn.') },
});

export const pictureSet = mark({
  kind: 'pictureSet',
  title: 'Picture set',
  help: 'One picture of a set, by birth order, noise, chance or age.',
  icon: 'M3 8h12v11H3zM6 8V5h15v11h-6',
  shape: { draws: 'mark', pattern: 'pictures' },
  dials: {
    pictures: stocksDial('Pictures', ['picture'], 'Pictures of one size, or one that is a sheet.'),
    columns: number('Columns', 1, [1, 64], 'How many pictures stand side by side on a sheet.', {
      whole: true,
    }),
    rows: number('Rows', 1, [1, 64], 'How many rows of pictures a sheet has.', { whole: true }),
    pick: choice(
      'Which one',
      'order',
      {
        order: 'By birth order',
        noise: 'By noise',
        random: 'By chance, anew in time',
        life: 'Run through over life',
      },
      'How each particle comes to its picture.',
    ),
    every: number('Anew every', 6, [1, 10000], 'Frames until chance or noise picks again.', {
      whole: true,
      unit: 'frames',
      when: { dial: 'pick', is: ['noise', 'random'] },
    }),
  },
});
