import { curlNoise as field } from '@vast-swarm/kernel';
import { carries, flowDials, flowEffect } from './flow';
import { noiseDials, noisePlace } from './noiseField';
import { force } from '../define';

export const curlNoise = force({
  kind: 'curlNoise',
  title: 'Curl noise',
  help: 'A swirling flow that never bunches particles up.',
  icon: 'M12 12c0-2 3-2 3 0s-3 4-6 3s-4-6 0-8s9 0 9 5s-5 8-9 7',
  dials: { ...noiseDials(0.8, 'm/s'), ...flowDials('carry') },
  carries,
  build(dial, particle) {
    const { point, phase, sum } = noisePlace(dial, particle);
    const swirl = field(point, dial.seed('field'), phase, sum);
    const flow = swirl.mul(dial.vector('axes')).scale(dial.number('strength'));
    return flowEffect(dial, flow, particle.step);
  },
});
