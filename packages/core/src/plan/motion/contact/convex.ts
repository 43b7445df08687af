import type { Expr, Vec3 } from '@vast-swarm/kernel';
import type { Distance, Meeting, Ray } from '../../../sections/kinds';
import { TOUCH } from './touching';

/** Tangents that are followed at the most; each halves what is left even where the way only grazes. */
const TURNS = 24;
/** Metres at which a surface is reached, and at which it counts as reached near the origin. */
const REACHED = 2e-6;
const NEARLY = 2e-5;
/** More than the part of a way that any meeting has. */
export const NEVER = 2;

/**
 * Where a straight way meets the surface of a convex solid. Along a straight way the distance to a
 * convex thing is a convex function, so that a tangent (Newton's method) never overshoots it: from
 * outside it is followed from the start of the way, and from inside (where minus the distance is
 * concave) from its end. Whatever the angle, so, nothing is jumped over.
 * @param inside whether particles are held inside
 */
export function meetConvex(
  surface: (p: Vec3) => Distance,
  { from, way, on }: Ray,
  inside: boolean,
): Meeting {
  const g = on.graph;
  const length = way.length();
  const unit = way.unit();
  const starts = surface(from).distance.gt(-2 * TOUCH);
  const may = inside ? starts.and(surface(from.add(way)).distance.lt(0)) : starts;
  const begin = inside ? length : g.float(0);
  const never = length.mul(2).add(1);
  const [t] = g.loopWhile(on.and(may).select(TURNS, g.int(0)), [begin], (_, [at]) => {
    const { distance, normal } = surface(from.add(unit.scale(at!)));
    const slope = unit.dot(normal);
    const comes = slope.lt(-1e-7);
    const next = at!.sub(distance.div(slope.min(-1e-7))).max(0);
    const far: Expr = inside ? distance.lt(-REACHED) : distance.gt(REACHED);
    return { next: [comes.select(next, never)], goOn: comes.and(far).and(next.le(length)) };
  });
  const { distance, normal } = surface(from.add(unit.scale(t!.min(length))));
  const meets = on
    .and(may)
    .and(t!.le(length))
    .and(distance.le(length.mul(4e-7).add(NEARLY)));
  return { part: meets.select(t!.div(length.max(1e-12)), g.float(NEVER)), normal };
}
