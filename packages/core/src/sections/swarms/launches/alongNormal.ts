import { launch } from '../../define';
import { speed } from './speed';

export const alongNormal = launch({
  kind: 'normal',
  title: 'Along the normal',
  help: "Square to the emitter's surface.",
  icon: 'M3 18c5-4 13-4 18 0M12 15V4M8 8l4-4l4 4',
  dials: { speed: speed() },
  build(dial, place) {
    return place.normal.scale(dial.number('speed'));
  },
});
