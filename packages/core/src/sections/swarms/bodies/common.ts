import { choice, number, vector } from '../../../language/dials';

/** How a body meets what is behind it. */
export const DRAW_MODES = {
  add: 'Add',
  screen: 'Screen',
  normal: 'Normal, sorted',
  multiply: 'Multiply',
  lighten: 'Lighten',
  opaque: 'Opaque',
} as const;
export type DrawMode = keyof typeof DRAW_MODES;

const group = 'Drawing';

/** Dials of every body. */
export const bodyDials = {
  mode: choice('Draw mode', 'add', DRAW_MODES, 'How it meets what is behind it.', { group }),
  scale: number('Body scale', 1, [0, 100], 'Multiplies the size of this body.', {
    group,
    drag: 'log',
  }),
  gain: number('Gain', 1, [0, 1000], 'Multiplies the light of this body.', { group, drag: 'log' }),
  cover: number('Cover', 1, [0, 1], 'Multiplies the opacity of this body.', { group }),
  soft: number('Soft meeting', 0, [0, 100], 'It fades this near to opaque things behind it.', {
    unit: 'm',
    group,
    drag: 'log',
    when: { dial: 'mode', not: 'opaque' },
  }),
};

const turning = 'Turning';

/** How a flat body stands. */
export const markDials = {
  wide: number('Body width', 1, [0, 100], 'Multiplies its width.', {
    varies: 'life',
    group: turning,
    drag: 'log',
  }),
  high: number('Body height', 1, [0, 100], 'Multiplies its height.', {
    varies: 'life',
    group: turning,
    drag: 'log',
  }),
  facing: choice(
    'Faces',
    'camera',
    {
      camera: 'The camera',
      velocity: 'Along its velocity',
      point: 'Along to a point',
      fixed: 'Fixed',
    },
    'What its height points along, or how it stands in space.',
    { group: turning },
  ),
  point: vector('Point', [0, 0, 0], 1000, 'm', 'What it points to.', {
    group: turning,
    when: { dial: 'facing', is: ['point'] },
  }),
  stand: vector('Stance', [0, 0, 0], 36000, '°', 'Turned about x, then y, then z.', {
    group: turning,
    when: { dial: 'facing', is: ['fixed'] },
  }),
  turn: number('Roll', 0, [-36000, 36000], 'In its own plane.', {
    unit: '°',
    varies: 'life',
    group: turning,
  }),
  spin: number('Spin', 0, [-3600, 3600], 'Turns by itself from birth on.', {
    unit: '°/s',
    varies: 'birth',
    group: turning,
  }),
};

export const hardness = number(
  'Hardness',
  0,
  [0, 1],
  '0 fades from the middle, 1 has a sharp edge.',
  {
    varies: 'never',
  },
);

/** From 1 at hardness 0 to 65 at 1; the engines stop where the edge is a pixel wide. */
export function edgeOf(value: number): number {
  return 1 + value ** 2 * 64;
}
