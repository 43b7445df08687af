import type { Expr, Vec3 } from '@vast-swarm/kernel';
import { FRAME } from '../../language/names';
import { loadVec } from '../../language/state';
import { View } from '../../language/view';
import { standing } from './appearance';
import type { DrawContext } from './draws/context';

/**
 * The way that a particle has gone over the screen since the frame before, in pixels to the right and up: by its own
 * motion and by that of the camera.
 *
 * @param stands where it is simulated, for what keeps its place
 */
export function motionOf(
  { builder, view, see, swarm }: DrawContext,
  stands: Vec3 | null = null,
): [Expr, Expr] {
  const earlier = new View(builder, 'earlier');
  const spotIn = (by: View, place: Vec3) =>
    by.spot(by.place(standing(builder, by, swarm).place(place)));
  const step = builder.uniform(FRAME.own('step'), 1 / builder.scene.rate);
  const here = stands ?? loadVec(builder, 0);
  const before = stands ?? here.sub(see.particle.readings!.velocity.scale(step));
  const [now, then] = [spotIn(view, here), spotIn(earlier, before)];
  return [now.x.sub(then.x), then.y.sub(now.y)];
}
