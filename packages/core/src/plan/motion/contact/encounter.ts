import { Vec3, type Expr } from '@vast-swarm/kernel';
import { NEVER } from './convex';
import type { Standing } from './solid';
import { TOUCH } from './touching';

/** The rest of a particle's way in the step: a parabola, as long as nothing is met. */
export interface Leg {
  position: Vec3;
  /** Its own velocity and the flow that carries it, m/s. */
  velocity: Vec3;
  flow: Vec3;
  /** Acceleration, m/s². */
  pull: Vec3;
  /** The part of the step that has passed, and seconds that are left of it. */
  passed: Expr;
  left: Expr;
}

/** Where the particle is at a part of the leg. */
export function placeAt({ position, velocity, flow, pull, left }: Leg, part: Expr): Vec3 {
  const time = left.mul(part);
  return position.add(velocity.add(flow).scale(time)).add(pull.scale(time.mul(time).mul(0.5)));
}

export interface Encounter {
  /** The part of the leg up to there; above 1 where the solid is not met. */
  part: Expr;
  /** Where it is then, and where that place of the surface is at the end of the step, in the world. */
  spot: Vec3;
  ridden: Vec3;
  /** Unit vector away from the surface, and the velocity of the surface, in the world frame. */
  normal: Vec3;
  wall: Vec3;
  /** Metres above the surface then: more than none only for what begins by lying on it. */
  height: Expr;
}

/**
 * Where a leg first meets a solid. In the frame of the solid the leg is followed straight to its end;
 * where that meets the surface, the parabola through the start, the middle and the end of the leg is
 * cut with the tangent plane there, so that neither what pulls nor a turn of the solid moves the place.
 */
export function encounter(solid: Standing, leg: Leg, on: Expr, step: Expr): Encounter {
  const g = step.graph;
  const { passed, left, pull } = leg;
  const [half, whole] = [g.float(0.5), g.float(1)];
  const moment = (part: Expr): Expr => passed.add(g.float(1).sub(passed).mul(part));
  const from = solid.local(leg.position, passed);
  const to = solid.local(placeAt(leg, whole), whole);
  const bow = solid.moves
    ? from
        .add(to)
        .scale(0.5)
        .sub(solid.local(placeAt(leg, half), moment(half)))
        .scale(4)
    : solid.before.directionBack(pull.scale(left.mul(left).mul(0.5)));
  const way = to.sub(from);
  const at = (part: Expr): Vec3 =>
    from.add(way.scale(part)).sub(bow.scale(part.mul(g.float(1).sub(part))));

  const straight = solid.meet({ from, way, on });
  const chord = from.add(way.scale(straight.part.min(1)));
  let cut = cutPlane(from.sub(chord).dot(straight.normal), way, bow, straight.normal);
  let { normal } = straight;
  // Where the surface is met, and the part of the leg up to there.
  let spot = at(cut.part.min(1));
  let { part } = cut;
  if (solid.convex) {
    const nearer = solid.surface(spot);
    ({ normal } = nearer);
    cut = cutPlane(from.sub(spot).dot(normal).add(nearer.distance), way, bow, normal);
    ({ part } = cut);
    spot = at(part.min(1));
  } else {
    // The parabola comes to the plane beside where the straight way does, behind an edge perhaps: what
    // counts is the face that stands on the straight way to there.
    const cuts = part.le(1);
    const reach = Vec3.select(cuts, spot, chord);
    const other = solid.meet({ from, way: reach.sub(from), on: on.and(straight.part.le(1)) });
    const before = other.part.min(1);
    normal = Vec3.select(other.part.le(1), other.normal, normal);
    spot = from.add(reach.sub(from).scale(before));
    part = cuts.select(part, straight.part).mul(before);
  }
  part = straight.part.le(1).select(part, g.float(NEVER));
  const now = moment(part.min(1));
  let place = placeAt(leg, part.min(1));
  // Where the frame turns, what is straight in the one is not in the other: the surface counts. The mean
  // of two turns is a little short of one, so that the way back is gone twice.
  for (let i = 0; i < (solid.moves ? 2 : solid.convex ? 0 : 1); i++) {
    place = place.add(solid.outward(spot.sub(solid.local(place, now)), now));
  }
  return {
    part,
    height: cut.height,
    spot: place,
    ridden: solid.moves ? solid.after.place(spot) : place,
    normal: solid.outward(normal, now).unit(),
    wall: solid.velocity(spot, step),
  };
}

/**
 * Where the parabola comes down through a plane: height above it is c + b s + k s² at the part s of
 * the leg.
 * @param c metres above the plane at the start
 */
function cutPlane(c: Expr, way: Vec3, bow: Vec3, normal: Vec3): { part: Expr; height: Expr } {
  const g = c.graph;
  const k = normal.dot(bow);
  const b = normal.dot(way).sub(k);
  const square = b.mul(b).sub(k.mul(c).mul(4));
  const root = square.max(0).sqrt();
  const falls = b.lt(0);
  const soon = c.mul(2).div(root.sub(b).max(1e-20));
  const later = b.add(root).div(k.mul(-2).max(1e-20));
  const meets = square.ge(0).and(falls.or(k.lt(0)));
  // What lies on the surface and has no speed into it is met at once: it does not fall first.
  const lies = c.le(2 * TOUCH).and(b.abs().le(way.length().mul(1e-5).add(1e-6)));
  const part = lies.select(0, meets.select(falls.select(soon, later).max(0), g.float(NEVER)));
  return { part, height: lies.select(c, g.float(0)) };
}
