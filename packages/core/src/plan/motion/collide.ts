import { pow, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../catalogue';
import type { Distance, Effect } from '../../catalogue/kinds';
import type { Part } from '../../piece/types';
import { touchDials } from '../../catalogue/colliders/touch';
import { allDials, sharedDials, type DialReader } from '../../language/dialReader';
import { partReader } from '../readers';
import type { ParticleInputs } from '../../language/particle';
import type { KernelBuilder } from '../../language/builder';
import { placementOf, travels, type Placement } from '../../language/placement';

/** Steps along a particle's way at the most, each as long as it is sure to be free. */
const MARCHES = 24;
/** Metres at which a surface counts as touched. */
const TOUCH = 1e-4;
/** Steps after a bounce are this long at the least, in metres: along a surface none is sure. */
const BLIND = 0.05;

interface Free {
  position: Vec3;
  velocity: Vec3;
}

export interface Moved extends Free {
  /** Where true, the particle dies now. */
  dies: Expr | null;
  /** Where true, it stays where it is from now on. */
  sticks: Expr | null;
}

type TouchReader = DialReader<typeof touchDials>;

/** A collider's surface in its own frame, with the side that particles are on and the gap. */
function surfaceOf(dial: TouchReader, kind: string): ((p: Vec3) => Distance) | null {
  const shape = kindOf('colliders', kind).build(allDials(dial));
  if (!shape) return null;
  const inside = dial.choice('side') === 'inside';
  const gap = dial.choice('acts') === 'solid' && dial.raw('gap') !== 0 ? dial.number('gap') : null;
  return (p) => {
    const { distance, normal } = shape(p);
    const sided = inside ? distance.neg() : distance;
    return {
      distance: gap ? sided.sub(gap) : sided,
      normal: inside ? normal.scale(-1) : normal,
    };
  };
}

function readerOf(builder: KernelBuilder, part: Part, particle: ParticleInputs): TouchReader {
  return sharedDials(partReader(builder, 'colliders', part, particle), touchDials);
}

/** What a zone does in the step; `dies` where it kills. */
export function zoneEffect(
  builder: KernelBuilder,
  part: Part,
  particle: ParticleInputs,
  position: Vec3,
): { effect: Effect; dies: Expr | null } {
  const dial = readerOf(builder, part, particle);
  const surface = surfaceOf(dial, part.kind);
  if (!surface) return { effect: {}, dies: null };
  const placement = placementOf(dial);
  const { distance, normal } = surface(placement.placeBack(position));
  // Distances count up on the side that the zone acts on.
  if (dial.choice('does') === 'die') return { effect: {}, dies: distance.gt(0) };
  const weight = distance.div(dial.number('soft').max(1e-5)).clamp(0, 1);
  const strength = dial.number('strength').mul(weight);
  if (dial.choice('does') === 'slow') return { effect: { drag: strength }, dies: null };
  // Out of the zone: against the way that leads further into it.
  const out = placement.direction(normal.scale(-1));
  return { effect: { push: out.scale(strength) }, dies: null };
}

interface Step {
  builder: KernelBuilder;
  particle: ParticleInputs;
  /** Place and velocity at the start of the step. */
  from: Free;
  /** Length of the particle's step in seconds. */
  step: Expr;
  /** Where false, the swarm does not feel the collider. */
  felt: Expr;
}

/**
 * Sends a particle's way in this step back from a solid. The way is searched for the surface by
 * steps as long as the distance to it (J. C. Hart, "Sphere Tracing", The Visual Computer 12, 1996),
 * in the frame of the collider, at the start and the end of the step each as it stands then; so a
 * thin wall is not jumped over, and a moving one takes particles along.
 */
export function collide(
  { builder, particle, from, step, felt }: Step,
  part: Part,
  to: Moved,
): Moved {
  const dial = readerOf(builder, part, particle);
  const surface = surfaceOf(dial, part.kind);
  if (!surface) return to;
  const g = builder.graph;
  const moves = travels(part.dials);
  const before = placementOf(dial.atMoment(0));
  const after = moves ? placementOf(dial.atMoment(1)) : before;
  const [a, b] = [before.placeBack(from.position), after.placeBack(to.position)];
  const way = b.sub(a);
  // Most particles are too far away to reach the surface in this step, and look no further: the
  // rest stands in a loop of one turn, which only those take that are near.
  const near = felt.and(surface(a).distance.lt(way.length().add(TOUCH)));
  const met = { dial, surface, from, to, step, a, b, way, before, after, near, moves };
  const start = [...to.position.parts, ...to.velocity.parts, g.float(0)];
  const [px, py, pz, vx, vy, vz, touched] = g.loop(near.select(1, g.int(0)), start, () => {
    const { position, velocity, touches } = meet(met);
    return [...position.parts, ...velocity.parts, touches.select(1, g.float(0))];
  });
  const touch = touched!.gt(0.5);
  const does = dial.choice('touch');
  return {
    position: new Vec3(px!, py!, pz!),
    velocity: new Vec3(vx!, vy!, vz!),
    dies: either(to.dies, does === 'die' ? touch : null),
    sticks: either(to.sticks, does === 'stick' ? touch : null),
  };
}

interface Meeting {
  dial: TouchReader;
  surface: (p: Vec3) => Distance;
  from: Free;
  to: Free;
  step: Expr;
  /** The way in the collider's frame. */
  a: Vec3;
  b: Vec3;
  way: Vec3;
  before: Placement;
  after: Placement;
  near: Expr;
  moves: boolean;
}

/** What becomes of a particle that is near enough to touch in this step. */
function meet(meeting: Meeting): Free & { touches: Expr } {
  const { dial, surface, from, to, step, a, b, way, before, after, near, moves } = meeting;
  const g = step.graph;
  const { spot, passed, normal, close, depth } = march(surface, a, way, near, 0);
  const ahead = g.float(1).sub(passed);

  const carried = moves ? carryOf(before, after, spot, step) : null;
  const gained = to.velocity.sub(from.velocity);
  const world = from.velocity.add(gained.scale(passed));
  const local = after.directionBack(carried ? world.sub(carried) : world);
  const gain = after.directionBack(gained);
  // What lies on the surface comes at it only by what the forces add in the rest of the step.
  const coming = local.add(gain.scale(ahead)).dot(normal).min(local.dot(normal));
  const hit = near.and(close).and(coming.lt(0));

  const into = local.dot(normal).min(0);
  const { speed, rests, sticks } = answer(dial, { local, normal, gain, into, step });
  // The rest of the step: on with the new velocity, and with what the forces still add.
  const left = step.mul(ahead);
  const onward = speed.add(gain.scale(ahead));
  const kept = rests.select(onward.dot(normal).min(0), g.float(0));
  const thrown = onward.sub(normal.scale(kept));
  const leg = sticks ? way.scale(0) : speed.add(thrown).scale(0.5).scale(left);
  // On that way it may come to the surface again; what goes along it is let go on a little blindly.
  const clear = spot.add(normal.scale(depth.add(2 * TOUCH)));
  const second = march(surface, clear, leg, hit, BLIND);
  const again = thrown.dot(second.normal).min(0);
  const stopped = hit.and(second.close).and(again.lt(0));
  const answered = touchesAgain(dial, again, gain, second.normal);
  const bounced = thrown.sub(second.normal.scale(again.mul(answered)));
  const final = Vec3.select(stopped, bounced, thrown);
  const place = Vec3.select(hit, second.spot, b);

  // Whatever is still inside is put out on the surface, along the way that leads out.
  const out = pushedOut(surface, place);
  const inward = out.inside.select(out.local(hit, final, after, to.velocity, carried), g.float(0));
  const base = Vec3.select(
    hit,
    final,
    after.directionBack(carried ? to.velocity.sub(carried) : to.velocity),
  );
  // What comes to a second surface in the same step, as in a corner, bounces there too.
  const back = touchesAgain(dial, inward, gain, out.normal);
  const cleaned = base.sub(out.normal.scale(inward.min(0).mul(back)));
  const still = sticks ? Vec3.select(hit, base.scale(0), cleaned) : cleaned;
  const turned = after.direction(still);
  const changed = hit.or(out.inside);
  return {
    position: Vec3.select(changed, after.place(out.position), to.position),
    velocity: Vec3.select(changed, carried ? turned.add(carried) : turned, to.velocity),
    touches: changed,
  };
}

interface March {
  /** Where the way meets the surface, or its end. */
  spot: Vec3;
  /** The part of the way up to there, 0 to 1. */
  passed: Expr;
  normal: Vec3;
  /** Whether the surface is there. */
  close: Expr;
  /** Metres below the surface. */
  depth: Expr;
}

/** Follows a way to the surface. @param least metres of a step at the least, whatever is near */
function march(
  surface: (p: Vec3) => Distance,
  from: Vec3,
  way: Vec3,
  on: Expr,
  least: number,
): March {
  const g = on.graph;
  const length = way.length();
  const unit = way.unit();
  const turns = on.select(MARCHES, g.int(0));
  const [travelled] = g.loop(turns, [g.float(0)], (_, [t]) => {
    const { distance } = surface(from.add(unit.scale(t!)));
    return [distance.gt(TOUCH).select(t!.add(distance.max(least)), t!)];
  });
  const reached = travelled!.min(length);
  const spot = from.add(unit.scale(reached));
  const { distance, normal } = surface(spot);
  const passed = reached.div(length.max(1e-9)).clamp(0, 1);
  return { spot, passed, normal, close: distance.le(2 * TOUCH), depth: distance.neg().max(0) };
}

function either(a: Expr | null, b: Expr | null): Expr | null {
  return a && b ? a.or(b) : (a ?? b);
}

/** Velocity of the collider itself at a place of its own frame, world frame. */
function carryOf(before: Placement, after: Placement, spot: Vec3, step: Expr): Vec3 {
  const g = step.graph;
  return after
    .place(spot)
    .sub(before.place(spot))
    .scale(g.float(1).div(step.max(1e-6)));
}

interface Answer {
  speed: Vec3;
  /** Too slow to come off again: it lies on the surface. */
  rests: Expr;
  sticks: boolean;
}

interface Impact {
  /** Velocity, and what the forces add to it in the step, in the collider's frame. */
  local: Vec3;
  gain: Vec3;
  normal: Vec3;
  /** Speed along the normal, 0 or less. */
  into: Expr;
  step: Expr;
}

function answer(dial: TouchReader, { local, gain, normal, into, step }: Impact): Answer {
  const g = dial.graph;
  const touch = dial.choice('touch');
  const along = local.sub(normal.scale(into));
  if (touch === 'die' || touch === 'stick') {
    const speed = touch === 'stick' ? local.scale(0) : along;
    return { speed, rests: g.float(0).ge(0), sticks: touch === 'stick' };
  }
  const grip = g.float(1).sub(dial.number('friction'));
  // Lying on the surface it is touched all the time: as if it came down thirty times a second.
  const rubbed = pow(grip, step.mul(30));
  if (touch === 'slide') {
    return { speed: along.scale(rubbed), rests: g.float(0).ge(0), sticks: false };
  }
  // Slower than what the forces give it in one and a half steps, it does not come up again.
  const rests = into.neg().lt(gain.dot(normal).neg().max(0).mul(1.5));
  const smooth = along.scale(rests.select(rubbed, grip));
  const back = rests.select(g.float(0), into.neg().mul(dial.number('bounce')));
  let speed = smooth.add(normal.scale(back));
  if (dial.raw('roughness') !== 0) {
    const size = speed.length();
    const random = dial.randomDirection('rough', true);
    const rough = speed.unit().add(random.scale(dial.number('roughness')));
    const turned = rough.unit().scale(size);
    // Never into the surface.
    const up = turned.dot(normal);
    speed = Vec3.select(rests, speed, turned.sub(normal.scale(up.min(0).mul(2))));
  }
  return { speed, rests, sticks: false };
}

/** 1 where the speed into the surface is taken away, more where some of it comes back. */
function touchesAgain(dial: TouchReader, inward: Expr, gain: Vec3, normal: Vec3): Expr {
  const g = dial.graph;
  if (dial.choice('touch') !== 'bounce') return g.float(1);
  const slow = inward.neg().lt(gain.dot(normal).neg().max(0).mul(1.5));
  return slow.select(g.float(0), dial.number('bounce')).add(1);
}

interface PushedOut {
  position: Vec3;
  normal: Vec3;
  inside: Expr;
  /** Speed along the normal, in the collider's frame. */
  local(hit: Expr, final: Vec3, after: Placement, velocity: Vec3, carried: Vec3 | null): Expr;
}

/** Twice along the slope: a field that is read from a grid is not exact at once. */
function pushedOut(surface: (p: Vec3) => Distance, place: Vec3): PushedOut {
  const g = place.x.graph;
  const first = surface(place);
  const inside = first.distance.lt(0);
  const out = (p: Vec3, { distance, normal }: Distance): Vec3 =>
    p.add(
      normal.scale(
        inside.select(
          distance
            .neg()
            .max(0)
            .add(TOUCH / 4),
          g.float(0),
        ),
      ),
    );
  const once = out(place, first);
  const second = surface(once);
  const deep = second.distance.lt(0);
  return {
    position: Vec3.select(inside.and(deep), out(once, second), once),
    normal: first.normal,
    inside,
    local: (hit, final, after, velocity, carried) => {
      const own = after.directionBack(carried ? velocity.sub(carried) : velocity);
      return Vec3.select(hit, final, own).dot(first.normal);
    },
  };
}
