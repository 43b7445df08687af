import { vectorNoise } from '@vast-swarm/kernel';
import { noiseDials, noisePlace } from './noiseField';
import { force } from '../define';

export const turbulence = force({
  kind: 'turbulence',
  title: 'Turbulence',
  help: 'Random pushes that differ from place to place.',
  icon: 'M3 7c3-4 5 4 9 0s6 4 9 0M3 13c3-4 5 4 9 0s6 4 9 0M3 19c3-4 5 4 9 0s6 4 9 0',
  dials: noiseDials(4, 'm/s²'),
  build(dial, particle) {
    const { point, phase, sum } = noisePlace(dial, particle);
    const field = vectorNoise(point, dial.seed('field'), phase, sum);
    return { push: field.mul(dial.vector('axes')).scale(dial.number('strength')) };
  },
});
