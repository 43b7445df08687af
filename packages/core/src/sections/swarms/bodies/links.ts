import { number } from '../../../language/dials';
import { hardness } from './common';
import { body } from '../../define';

export const linkDials = {
  radius: number('Link radius', 0.5, [0, 100], 'How near two particles have to be.', {
    unit: 'm',
    drag: 'log',
    varies: 'never',
  }),
  most: number('Per particle', 4, [1, 64], 'Most links of one particle.', { whole: true }),
  total: number('In all', 40_000, [0, 500_000], 'Most links of the swarm.', { whole: true }),
  width: number('Line width', 0.25, [0, 10], "Multiplies the particle's size.", { drag: 'log' }),
  fill: number('Fill', 0, [0, 1], 'Opacity of the triangles between linked particles.'),
  hardness: { ...hardness, default: 0.3 },
};

export const links = body({
  kind: 'links',
  title: 'Links',
  help: 'Lines between particles that are near each other.',
  icon: 'M5 6h.01M18 5h.01M19 17h.01M8 18h.01M5 6l13-1l1 12l-11 1zM5 6l3 12M5 6l14 11',
  shape: { draws: 'links' },
  dials: linkDials,
});
