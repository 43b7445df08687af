import type { EmitterKind } from '../kinds';
import { vector } from '../dials';

export const point: EmitterKind = {
  kind: 'point',
  title: 'Point',
  help: 'All particles start at one place.',
  icon: 'M12 10a2 2 0 1 0 0 4a2 2 0 0 0 0-4zM12 2v4M12 18v4M2 12h4M18 12h4',
  dials: {
    centre: vector('Centre', [0, 0, 0], 1000, 'm', 'Where the emitter stands.'),
  },
  build(dial) {
    return { position: dial.vector('centre'), normal: dial.randomDirection('normal') };
  },
};
