import { fluidDials } from '../../sections/media/dials';
import { valuesOf } from '../../language/dials';
import type { Notice } from '../plan';
import type { Scene } from '../scene';
import { MOST_SPREAD } from './spreading';

/** Notices of settings of a medium that exceed its limits, with the limits. */
export function mediumNotices(scene: Scene): Notice[] {
  return scene.piece.media
    .filter((m) => m.on)
    .flatMap((part): Notice[] => {
      const values = valuesOf(fluidDials, part.dials);
      const { cell } = scene.medium(part.id)!.pose(0);
      const most = MOST_SPREAD * scene.rate * cell ** 2;
      return (['spreading', 'thickness'] as const)
        .filter((key) => scene.number(values[key], 0) > most)
        .map((key) => {
          const { title } = fluidDials[key];
          const message = `${title} of ${part.name} has no more effect above ${most.toPrecision(2)} m²/s with ${String(values.lines)} lines. Fewer lines let it go further.`;
          return { part: part.id, message };
        });
    });
}
