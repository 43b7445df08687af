import { pow, Vec3, type Expr } from '@vast-swarm/kernel';
import type { TouchReader } from './solid';

export interface Impact {
  /** Velocity, the flow that carries, and the acceleration at the impact, in the world frame. */
  velocity: Vec3;
  flow: Vec3;
  pull: Vec3;
  /** Velocity of the surface there, and the unit vector away from it. */
  wall: Vec3;
  normal: Vec3;
  /** Unit vector away from the surface that was met before in this step; zero where there was none. */
  last: Vec3;
  /** Seconds: the whole step, and what is left of it. */
  step: Expr;
  left: Expr;
}

export interface Answer {
  velocity: Vec3;
  flow: Vec3;
  pull: Vec3;
}

/** Velocity of a particle after it has touched a surface. */
export function answer(dial: TouchReader, impact: Impact): Answer {
  const { normal, wall, flow, pull, step, left } = impact;
  const g = step.graph;
  const touch = dial.choice('touch');
  const none = normal.scale(0);
  if (touch === 'stick') return { velocity: none, flow: none, pull: none };
  if (touch === 'die') return impact;
  // A flow carries along the surface and away from it, never into it.
  const against = flow.dot(normal);
  const relative = impact.velocity.sub(wall);
  const up = relative.dot(normal);
  const into = up.add(against.max(0)).min(0);
  const along = relative.sub(normal.scale(up));
  const grip = g.float(1).sub(dial.number('friction'));
  // Lying on the surface it is touched all the time: as if it came down thirty times a second.
  const rubbed = pow(grip, left.mul(30));
  const bounce = touch === 'bounce' ? dial.number('bounce') : g.float(0);
  // What would be back within a quarter of the step lies on the surface from now on.
  const press = pull.dot(normal).min(0).neg().mul(step);
  const rests = touch === 'slide' ? g.float(0).ge(0) : into.neg().mul(bounce).lt(press.div(8));
  const back = rests.select(g.float(0), bounce);
  const off = up.sub(into).sub(into.mul(back));
  let thrown = along.scale(rests.select(rubbed, grip)).add(normal.scale(off));
  if (touch === 'bounce' && dial.raw('roughness') !== 0) {
    thrown = Vec3.select(rests, thrown, roughened(dial, thrown, normal));
  }
  const settled = settle(impact, thrown, rests);
  return {
    velocity: settled.velocity.add(wall),
    flow: flow.sub(normal.scale(against.min(0))),
    pull: settled.pull,
  };
}

function roughened(dial: TouchReader, velocity: Vec3, normal: Vec3): Vec3 {
  const random = dial.randomDirection('rough', true);
  const rough = velocity.unit().add(random.scale(dial.number('roughness')));
  const turned = rough.unit().scale(velocity.length());
  // Never into the surface.
  return turned.sub(normal.scale(turned.dot(normal).min(0).mul(2)));
}

/**
 * What lies on a surface is no longer pulled into it; what lies between two, as in a valley, has only
 * the line along both left.
 */
function settle(
  { pull, normal, last }: Impact,
  velocity: Vec3,
  rests: Expr,
): { velocity: Vec3; pull: Vec3 } {
  const flat = pull.sub(normal.scale(pull.dot(normal).min(0)));
  const crease = normal.cross(last).unit();
  const wedged = rests.and(velocity.dot(last).lt(-1e-6).or(flat.dot(last).lt(-1e-6)));
  const held = Vec3.select(wedged, crease.scale(velocity.dot(crease)), velocity);
  const pulled = Vec3.select(wedged, crease.scale(flat.dot(crease)), flat);
  return { velocity: held, pull: Vec3.select(rests, pulled, pull) };
}
