import { frameAround } from '../emitters/frame';
import { launch } from '../../define';
import { speed } from './speed';

export const tangent = launch({
  kind: 'tangent',
  title: 'Along the line',
  help: 'Along a ring, a line or an outline.',
  icon: 'M12 20a8 8 0 1 1 8-8M20 12v-6M20 12l4-4M20 12l-4-4',
  dials: { speed: speed() },
  build(dial, place) {
    const along = place.tangent ?? frameAround(place.normal).u;
    return along.scale(dial.number('speed'));
  },
});
