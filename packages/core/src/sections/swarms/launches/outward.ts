import { Vec3 } from '@vast-swarm/kernel';
import { vector } from '../../../language/dials';
import { launch } from '../../define';
import { speed } from './speed';

export const outward = launch({
  kind: 'outward',
  title: 'Outward',
  help: 'Away from the middle of the emitter, or from a point.',
  icon: 'M12 9V3M12 15v6M9 12H3M15 12h6M9 6l3-3l3 3M9 18l3 3l3-3',
  dials: {
    speed: speed(),
    from: vector('Outward from', [0, 0, 0], 1000, 'm', "The point, from the emitter's centre."),
  },
  build(dial, place) {
    const away = place.position.sub(dial.vector('from'));
    const random = dial.randomDirection('outward');
    // At the very middle there is no outward: any direction is as good.
    const far = away.length().gt(1e-6);
    return Vec3.select(far, away, random).unit().scale(dial.number('speed'));
  },
});
