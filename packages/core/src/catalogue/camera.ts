import { number, vector } from './dials';
import type { Kind } from './kinds';

export const camera: Kind = {
  kind: 'perspective',
  title: 'Camera',
  help: 'Looks at a target from a distance, round which it orbits.',
  icon: 'M4 8h11v9H4zM15 11l5-3v9l-5-3',
  dials: {
    target: vector('Target', [0, 0, 0], 1000, 'm', 'The place it looks at.'),
    distance: number('Distance', 6, [0.01, 5000], 'From the target.', { unit: 'm', drag: 'log' }),
    azimuth: number('Azimuth', 0, [-36000, 36000], 'Round the target; 0 looks along -z.', {
      unit: '°',
    }),
    elevation: number('Elevation', 10, [-89.9, 89.9], 'Above the target.', { unit: '°' }),
    orbit: number('Orbit', 0, [-360, 360], 'Goes round by itself.', { unit: '°/s' }),
    view: number('View angle', 40, [1, 150], 'From the bottom to the top of the frame.', {
      unit: '°',
    }),
    near: number('Near fade', 0.2, [0.001, 1000], 'Nearer than this, particles fade out.', {
      unit: 'm',
      drag: 'log',
    }),
  },
};
