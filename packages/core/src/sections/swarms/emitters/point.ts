import { Vec3 } from '@vast-swarm/kernel';
import { emitter } from '../../define';

export const point = emitter({
  kind: 'point',
  title: 'Point',
  help: 'All particles start at one place.',
  icon: 'M12 10a2 2 0 1 0 0 4a2 2 0 0 0 0-4zM12 2v4M12 18v4M2 12h4M18 12h4',
  dials: {},
  build(dial) {
    const zero = dial.graph.float(0);
    return { position: new Vec3(zero, zero, zero), normal: dial.randomDirection('normal') };
  },
});
