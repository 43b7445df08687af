import { choice, number, stockDial, vector } from '../../../language/dials';
import { body } from '../../define';

export const meshDials = {
  form: choice('Form', 'cube', { cube: 'Cube', mesh: 'A mesh' }, 'What is copied.'),
  mesh: stockDial(
    'Copied mesh',
    ['mesh'],
    'The mesh that is copied, its longest side as long as the size.',
    {
      when: { dial: 'form', is: ['mesh'] },
    },
  ),
  smooth: choice(
    'Surface',
    'flat',
    { flat: 'Flat faces', smooth: 'Smooth' },
    'How light runs over it.',
    {
      when: { dial: 'form', is: ['mesh'] },
    },
  ),
  pivot: choice(
    'Stands on',
    'centre',
    { centre: 'Centre', base: 'Base' },
    'What stands at the particle.',
  ),
  gloss: number('Gloss', 0.3, [0, 10], 'Strength of its highlights.'),
  wide: number('Body width', 1, [0, 100], 'Multiplies its size along x.', {
    varies: 'life',
    drag: 'log',
  }),
  high: number('Body height', 1, [0, 100], 'Multiplies its size along y.', {
    varies: 'life',
    drag: 'log',
  }),
  deep: number('Body depth', 1, [0, 100], 'Multiplies its size along z.', {
    varies: 'life',
    drag: 'log',
  }),
  facing: choice(
    'Faces',
    'fixed',
    { fixed: 'Fixed', velocity: 'Along its velocity', random: 'Any way' },
    'Which way its y axis points.',
    { group: 'Turning' },
  ),
  stand: vector('Stance', [0, 0, 0], 36000, '°', 'Turned about x, then y, then z.', {
    group: 'Turning',
    when: { dial: 'facing', is: ['fixed'] },
  }),
  turn: number('Roll', 0, [-36000, 36000], 'About the axis of its spin.', {
    unit: '°',
    varies: 'life',
    group: 'Turning',
  }),
  spin: number('Spin', 0, [-3600, 3600], 'Turns by itself from birth on.', {
    unit: '°/s',
    varies: 'birth',
    group: 'Turning',
  }),
  axis: choice(
    'Spins about',
    'y',
    { y: 'Its y axis', random: 'Any axis' },
    'What it turns about.',
    { group: 'Turning' },
  ),
};

export const mesh = body({
  kind: 'mesh',
  title: 'Mesh copies',
  help: 'A solid thing for each particle, lit by the lights.',
  icon: 'M12 3l8 4.5v9L12 21l-8-4.5v-9zM12 12l8-4.5M12 12v9M12 12L4 7.5',
  shape: { draws: 'mesh' },
  dials: meshDials,
});
