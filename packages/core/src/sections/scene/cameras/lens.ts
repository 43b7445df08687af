import { choice, number, stockDial, vector } from '../../../language/dials';

export const path = 'Path';

export const lens = 'Lens';

export const movement = 'Movement';

export const cameraDials = {
  target: vector('Target', [0, 0, 0], 1000, 'm', 'The place it looks at.'),
  distance: number('Distance', 6, [0.01, 5000], 'From the target.', { unit: 'm', drag: 'log' }),
  azimuth: number('Azimuth', 0, [-36000, 36000], 'Round the target; 0 looks along -z.', {
    unit: '°',
  }),
  elevation: number('Elevation', 10, [-89.9, 89.9], 'Above the target.', { unit: '°' }),
  roll: number('Roll', 0, [-36000, 36000], 'About its line of sight.', { unit: '°' }),
  orbit: number('Orbit', 0, [-360, 360], 'Goes round by itself.', { unit: '°/s' }),
  near: number('Near fade', 0.2, [0.001, 1000], 'Nearer than this, particles fade out.', {
    unit: 'm',
    drag: 'log',
  }),
  along: stockDial('Flies along', ['outline'], 'A line that it travels instead of orbiting.', {
    group: path,
  }),
  progress: number('Progress', 0, [0, 1], 'How far along the line it is.', {
    group: path,
    when: { dial: 'along', not: '' },
  }),
  looks: choice('Looks', 'ahead', { ahead: 'Ahead', target: 'At the target' }, 'On its way.', {
    group: path,
    when: { dial: 'along', not: '' },
  }),
  shake: number('Shake', 0, [0, 45], 'How far it sways, as by hand.', {
    unit: '°',
    group: movement,
  }),
  shakeSpeed: number('Shake speed', 2, [0.01, 60], 'Sways a second.', {
    unit: '/s',
    group: movement,
    drag: 'log',
    varies: 'never',
    when: { dial: 'shake', not: 0 },
  }),
  aperture: number('Aperture', 0, [0, 100], 'Width of the opening; 0 has everything sharp.', {
    unit: 'm',
    group: lens,
    drag: 'log',
  }),
  focus: number('Focus', 6, [0.01, 5000], 'Distance at which things are sharp.', {
    unit: 'm',
    group: lens,
    drag: 'log',
    when: { dial: 'aperture', not: 0 },
  }),
  blades: number('Blades', 0, [0, 9], 'Sides of the opening; below 3 it is round.', {
    whole: true,
    group: lens,
    when: { dial: 'aperture', not: 0 },
  }),
  bladeTurn: number('Blade turn', 0, [-36000, 36000], 'How the opening is turned.', {
    unit: '°',
    group: lens,
    when: { dial: 'aperture', not: 0 },
  }),
  ratio: number('Ratio', 1, [0.25, 4], 'Width of the opening against its height.', {
    group: lens,
    drag: 'log',
    when: { dial: 'aperture', not: 0 },
  }),
  shutter: number(
    'Shutter',
    0,
    [0, 720],
    'Angle of a turn that light falls in for; 360 is a frame.',
    {
      unit: '°',
      group: lens,
    },
  ),
  samples: number('Sub-frames', 8, [1, 64], 'Moments that are drawn while the shutter is open.', {
    whole: true,
    group: lens,
    when: { dial: 'shutter', not: 0 },
  }),
};
