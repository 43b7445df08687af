import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from '../../../language/builder';
import type { ParticleInputs } from '../../../language/particle';
import type { Part } from '../../../piece/types';
import { answer } from './answer';
import { encounter, placeAt, type Leg } from './encounter';
import { standings, type Standing } from './solid';
import { TOUCH } from './touching';

/** Surfaces that a particle can meet in one step; after so many it rides on the last to the next. */
const MEETINGS = 8;

export interface Free {
  position: Vec3;
  velocity: Vec3;
}

export interface Moved extends Free {
  /** Where true, the particle dies now. */
  dies: Expr | null;
  /** Where true, it stays where it is from now on. */
  sticks: Expr | null;
}

export interface Step {
  builder: KernelBuilder;
  particle: ParticleInputs;
  /** Place and velocity at the start of the step. */
  from: Free;
  /** Length of the particle's step in seconds. */
  step: Expr;
  /** Where false, the swarm does not feel a collider. */
  felt: (part: Part) => Expr;
}

/**
 * Sends a particle's way in this step back from all solids. The nearest surface on the way is met
 * first, its answer gives the way from there, and so on until the step is over: so the order of the
 * solids does not count, and corners between them hold.
 */
export function meetSolids(at: Step, parts: readonly Part[], to: Free): Moved {
  const way = { from: at.from.position, to: to.position };
  const solids = parts.flatMap((part) => {
    const felt = at.felt(part);
    return standings(at.builder, part, at.particle, way).map((solid) => ({ ...solid, felt }));
  });
  if (solids.length === 0) return { ...to, dies: null, sticks: null };
  const g = at.step.graph;
  const near = whichAreNear(at, solids, to);
  const any = near.reduce((a, b) => a.or(b));
  // Most particles are too far away to reach anything in this step, and look no further: the rest
  // stands in a loop of one turn, which only those take that are near.
  const start = [...to.position.parts, ...to.velocity.parts, g.float(0), g.float(0)];
  const end = g.loop(any.select(1, g.int(0)), start, () => {
    const met = meetInTurn(at, solids, near, any, to);
    return pushOut(at, solids, near, met);
  });
  const flag = (i: number, does: string): Expr | null =>
    solids.some(({ dial }) => dial.choice('touch') === does) ? end[i]!.gt(0.5) : null;
  return {
    position: vec(end, 0),
    velocity: vec(end, 3),
    dies: flag(6, 'die'),
    sticks: flag(7, 'stick'),
  };
}

type Solid = Standing & { felt: Expr };

const vec = (list: readonly Expr[], at: number): Vec3 =>
  new Vec3(list[at]!, list[at + 1]!, list[at + 2]!);

/** Where a solid may be reached in this step, by the ball in which the whole way lies. */
function whichAreNear({ from, step }: Step, solids: readonly Solid[], to: Free): Expr[] {
  const g = step.graph;
  const ways = solids.map(({ before, after }) => {
    const start = before.placeBack(from.position);
    return { start, length: after.placeBack(to.position).sub(start).length() };
  });
  const longest = ways.map(({ length }) => length).reduce((a, b) => a.max(b));
  // A solid that moves gives of its own speed to what it meets.
  const reach = solids.some(({ moves }) => moves) ? longest.mul(3) : longest;
  return solids.map(({ surface, felt, doubt }, i) => {
    const { distance } = surface(ways[i]!.start);
    return felt.and(distance.lt(reach.add(doubt).add(g.float(2 * TOUCH))));
  });
}

/** Place and velocity at the end of the step, and 1 for `dies` and for `sticks`. */
function meetInTurn(
  { from, step }: Step,
  solids: readonly Solid[],
  near: readonly Expr[],
  any: Expr,
  to: Free,
): Expr[] {
  const g = step.graph;
  const rate = g.float(1).div(step.max(1e-6));
  const pull = to.velocity.sub(from.velocity).scale(rate);
  const mean = to.position.sub(from.position).scale(rate);
  const flow = mean.sub(from.velocity.add(to.velocity).scale(0.5));
  const zero = g.float(0);
  const start = [from.position, from.velocity, flow, pull].flatMap((v) => v.parts);
  const carried = [...start, zero, zero, zero, zero, zero, zero];
  const end = g.loopWhile(any.select(MEETINGS, g.int(0)), carried, (turn, now) => {
    const [last, passed] = [vec(now, 12), now[15]!];
    const left = step.mul(g.float(1).sub(passed));
    const leg: Leg = {
      position: vec(now, 0),
      velocity: vec(now, 3),
      flow: vec(now, 6),
      pull: vec(now, 9),
      passed,
      left,
    };
    const first = firstOf(solids, near, leg, { last, step, pull });
    const hit = first.part.le(1);
    const part = first.part.min(1);
    const stays = turn.eq(MEETINGS - 1);
    const surface = Vec3.select(stays, first.ridden, first.spot);
    const lifted = surface.add(first.normal.scale(first.lift));
    const spot = Vec3.select(hit, lifted, placeAt(leg, g.float(1)));
    const free = leg.velocity.add(leg.pull.scale(left.mul(part)));
    const either = (a: Vec3, b: Vec3): Vec3 => Vec3.select(hit, a, b);
    const [dies, sticks] = [hit.select(first.dies, zero), hit.select(first.sticks, zero)];
    const next = [
      spot,
      either(first.velocity, free),
      either(first.flow, leg.flow),
      either(first.pull, leg.pull),
      first.normal,
    ].flatMap((v) => v.parts);
    const over = passed.add(g.float(1).sub(passed).mul(part));
    const goOn = hit.and(dies.add(sticks).lt(0.5)).and(over.lt(1));
    return { next: [...next, over, dies, sticks], goOn };
  });
  return [...end.slice(0, 6), end[16]!, end[17]!];
}

interface First {
  part: Expr;
  spot: Vec3;
  ridden: Vec3;
  normal: Vec3;
  /** Velocity after the touch; see answer. */
  velocity: Vec3;
  flow: Vec3;
  pull: Vec3;
  /** Metres away from the surface that it is put. */
  lift: Expr;
  dies: Expr;
  sticks: Expr;
}

/** The solid that is met first on a leg, with its answer. */
function firstOf(
  solids: readonly Solid[],
  near: readonly Expr[],
  leg: Leg,
  { last, step, pull }: { last: Vec3; step: Expr; pull: Vec3 },
): First {
  const g = step.graph;
  return solids
    .map((solid, i): First => {
      const met = encounter(solid, leg, near[i]!, step);
      const { part, spot, ridden, normal, wall, height } = met;
      const time = leg.left.mul(part.min(1));
      const velocity = leg.velocity.add(leg.pull.scale(time));
      const left = leg.left.sub(time);
      const impact = { velocity, flow: leg.flow, pull, wall, normal, last, step, left };
      const does = solid.dial.choice('touch');
      return {
        ...answer(solid.dial, impact),
        part,
        spot,
        ridden,
        normal,
        lift: g.float(TOUCH).sub(height.max(0).min(TOUCH)),
        dies: g.float(does === 'die' ? 1 : 0),
        sticks: g.float(does === 'stick' ? 1 : 0),
      };
    })
    .reduce((a, b) => {
      const sooner = b.part.lt(a.part);
      const which = (k: 'part' | 'lift' | 'dies' | 'sticks'): Expr => sooner.select(b[k], a[k]);
      const vector = (k: 'spot' | 'ridden' | 'normal' | 'velocity' | 'flow' | 'pull'): Vec3 =>
        Vec3.select(sooner, b[k], a[k]);
      return {
        part: which('part'),
        lift: which('lift'),
        dies: which('dies'),
        sticks: which('sticks'),
        spot: vector('spot'),
        ridden: vector('ridden'),
        normal: vector('normal'),
        velocity: vector('velocity'),
        flow: vector('flow'),
        pull: vector('pull'),
      };
    });
}

/**
 * Whatever is inside of a solid at the end of the step, as what was born there, is put out on its
 * surface, and its speed further into it is taken away.
 */
function pushOut(
  { step }: Step,
  solids: readonly Solid[],
  near: readonly Expr[],
  met: readonly Expr[],
): Expr[] {
  const g = step.graph;
  let [position, velocity] = [vec(met, 0), vec(met, 3)];
  let [dies, sticks] = [met[6]!, met[7]!];
  solids.forEach(({ dial, surface, doubt, after, velocity: wall }, i) => {
    const place = after.placeBack(position);
    const first = surface(place);
    const inside = near[i]!.and(first.distance.lt(doubt.neg()));
    const out = (p: Vec3, d: Expr, normal: Vec3): Vec3 =>
      p.add(
        normal.scale(
          d
            .neg()
            .max(0)
            .add(TOUCH / 4),
        ),
      );
    const once = out(place, first.distance, first.normal);
    // Twice along the slope: a field that is read from a grid is not exact at once.
    const second = surface(once);
    const twice = out(once, second.distance, second.normal);
    const spot = Vec3.select(second.distance.lt(0), twice, once);
    const normal = after.direction(first.normal);
    const into = velocity.sub(wall(place, step)).dot(normal).min(0);
    const touch = dial.choice('touch');
    const stopped = touch === 'stick' ? velocity.scale(0) : velocity.sub(normal.scale(into));
    position = Vec3.select(inside, after.place(spot), position);
    velocity = Vec3.select(inside, stopped, velocity);
    if (touch === 'die') dies = inside.select(g.float(1), dies);
    if (touch === 'stick') sticks = inside.select(g.float(1), sticks);
  });
  return [...position.parts, ...velocity.parts, dies, sticks];
}
