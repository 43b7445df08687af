import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../catalogue';
import { swarmDials } from '../catalogue/swarmDials';
import type { Effect, EmitterKind, ForceKind } from '../catalogue/kinds';
import type { Piece, Swarm } from '../piece/schema';
import { cameraAt, type CameraPose } from './cameraAt';
import { DialReader, type ParticleInputs } from './dialReader';
import { KernelBuilder, type FrameInputs, type PlanKernel, type Tables } from './kernelBuilder';

/** What a particle carries from frame to frame: place (m), velocity (m/s), age and life (s). */
export const STATE = ['px', 'py', 'pz', 'vx', 'vy', 'vz', 'age', 'life'] as const;

/**
 * What the look kernel gives to the drawing: place and radius in pixels (radius 0: not drawn),
 * light already multiplied by opacity, opacity, and distance along the view in metres.
 */
export const DRAWN = ['sx', 'sy', 'sr', 'cr', 'cg', 'cb', 'ca', 'depth'] as const;

/** Discs are drawn no smaller than this radius in pixels; a smaller one is dimmed instead. */
export const SMALLEST = 1.4;

/**
 * Births: runs over the slots of one event. The engine gives the uniforms `idOffset` (id minus
 * slot), `first`, `count`, `ageFirst` and `ageStep` (s): ages are 0 or less, and reach 0 inside the
 * step, so that the motion of the same step moves each particle just for the time it has lived.
 */
export function birthKernel(piece: Piece, swarm: Swarm, tables: Tables): PlanKernel {
  const builder = new KernelBuilder(piece.seed, tables);
  const g = builder.graph;
  const id = g.lane().add(g.uniform('idOffset', 'i32'));
  const order = id.sub(g.uniform('first', 'i32'));
  const born = order.ge(0).and(order.lt(g.uniform('count', 'i32')));
  const particle: ParticleInputs = { id, life: null };
  const emitter: EmitterKind = kindOf('emitters', swarm.emitter.kind);
  const launch = kindOf('launches', swarm.launch.kind);
  const reader = (part: string, specs: typeof swarmDials, dials: Swarm['dials']): DialReader =>
    new DialReader(builder, `${swarm.id}.${part}`, specs, dials, particle);
  const at = reader('emitter', emitter.dials, swarm.emitter.dials);
  const place = emitter.build(at);
  const throwing = reader('launch', launch.dials, swarm.launch.dials);
  const velocity = launch.build(throwing, place, at.vector('centre'));
  const own = reader('swarm', swarmDials, swarm.dials);
  place.position.parts.forEach((e, i) => g.store(STATE[i]!, e, born));
  velocity.parts.forEach((e, i) => g.store(STATE[3 + i]!, e, born));
  const age = g.uniform('ageFirst').sub(order.toFloat().mul(g.uniform('ageStep')));
  g.store('age', age, born);
  g.store('life', own.number('lifetime'), born);
  return builder;
}

/** Slots are used in turn: the id in a slot is the youngest born that falls on it; below 0: none. */
function idInSlot(builder: KernelBuilder, capacity: number): Expr {
  const g = builder.graph;
  const wrap = builder.uniform('slotWrap', (f) => f.born % capacity, 'i32');
  const base = builder.uniform('slotBase', (f) => f.born - (f.born % capacity), 'i32');
  const lane = g.lane();
  const size = builder.uniform('capacity', capacity, 'i32');
  return lane.add(lane.lt(wrap).select(base, base.sub(size)));
}

function loadVec(builder: KernelBuilder, from: number): Vec3 {
  const part = (i: number): Expr => builder.graph.load(STATE[from + i]!, builder.graph.lane());
  return new Vec3(part(0), part(1), part(2));
}

/**
 * One step of motion. Within the step acceleration a and drag k are constant, and the equation
 * v' = a - k v is solved exactly: v = v0 e^(-kh) + a φ1 and x = x0 + v0 φ1 + a φ2 with
 * φ1 = (1 - e^(-kh)) / k and φ2 = (h - φ1) / k (exponential integrator: M. Hochbruck,
 * A. Ostermann, "Exponential integrators", Acta Numerica 2010).
 */
export function motionKernel(
  piece: Piece,
  swarm: Swarm,
  capacity: number,
  tables: Tables,
): PlanKernel {
  const builder = new KernelBuilder(piece.seed, tables);
  const g = builder.graph;
  const dt = builder.uniform('dt', 1 / piece.frame.rate);
  const age = g.load('age', g.lane());
  const life = g.load('life', g.lane());
  const after = age.add(dt);
  const step = age.lt(0).select(after.max(0), dt);
  const position = loadVec(builder, 0);
  const velocity = loadVec(builder, 3);
  const lived = after.div(life.max(1e-6)).clamp(0, 1);
  const particle: ParticleInputs = { id: idInSlot(builder, capacity), life: lived };
  const moving = { position, velocity, step, time: builder.uniform('time', (f) => f.time) };
  const effects = piece.forces
    .filter((force) => force.on)
    .map((force): Effect => {
      const kind: ForceKind = kindOf('forces', force.kind);
      const scope = `force.${force.id}`;
      const reader = new DialReader(builder, scope, kind.dials, force.dials, particle);
      const felt = builder.uniform(`${scope}.felt`, influenceOf(piece, force.id, swarm.id));
      const { push, drag, carry } = kind.build(reader, moving);
      const effect: Effect = {};
      if (push) effect.push = push.scale(felt);
      if (drag) effect.drag = drag.mul(felt);
      if (carry) effect.carry = carry.scale(felt);
      return effect;
    });
  const total = <T>(parts: (T | undefined)[], add: (a: T, b: T) => T): T | undefined =>
    parts
      .filter((p) => p !== undefined)
      .reduce<T | undefined>((s, p) => (s ? add(s, p) : p), undefined);
  const push = total(
    effects.map((e) => e.push),
    (a, b) => a.add(b),
  );
  const drag = total(
    effects.map((e) => e.drag),
    (a, b) => a.add(b),
  );
  const carry = total(
    effects.map((e) => e.carry),
    (a, b) => a.add(b),
  );
  const { keep, one, two } = integrals(step, drag?.max(0));
  let next = position.add(velocity.scale(one));
  let speed = keep ? velocity.scale(keep) : velocity;
  if (push) {
    next = next.add(push.scale(two));
    speed = speed.add(push.scale(one));
  }
  if (carry) next = next.add(carry);
  next.parts.forEach((e, i) => g.store(STATE[i]!, e));
  speed.parts.forEach((e, i) => g.store(STATE[3 + i]!, e));
  g.store('age', after);
  return builder;
}

/** e^(-kh), φ1 and φ2; by their series where k h is small and the quotients would cancel. */
function integrals(h: Expr, k: Expr | undefined): { keep?: Expr; one: Expr; two: Expr } {
  const g = h.graph;
  if (!k) return { one: h, two: h.mul(h).mul(0.5) };
  const x = k.mul(h);
  const keep = exp(x.neg());
  const small = x.lt(0.2);
  const series = (coefficients: number[]): Expr =>
    coefficients.reduce<Expr>((s, c) => s.mul(x).add(c), g.float(0));
  const safe = k.max(1e-9);
  const near1 = h.mul(series([1 / 120, -1 / 24, 1 / 6, -1 / 2, 1]));
  const one = small.select(near1, g.float(1).sub(keep).div(safe));
  const near2 = h.mul(h).mul(series([1 / 720, -1 / 120, 1 / 24, -1 / 6, 1 / 2]));
  const two = small.select(near2, h.sub(one).div(safe));
  return { keep, one, two };
}

export function influenceOf(piece: Piece, force: string, swarm: string): number {
  return piece.influence[force]?.[swarm] ?? 1;
}

/** How a particle looks at this moment: diameter in metres, opacity, linear light. */
interface Styled {
  size: Expr;
  opacity: Expr;
  colour: Vec3;
  alive: Expr;
}

function styled(builder: KernelBuilder, swarm: Swarm, capacity: number): Styled {
  const g = builder.graph;
  const age = g.load('age', g.lane());
  const life = g.load('life', g.lane());
  const lived = age.div(life.max(1e-6)).clamp(0, 1);
  const particle: ParticleInputs = { id: idInSlot(builder, capacity), life: lived };
  const dial = new DialReader(builder, `${swarm.id}.swarm`, swarmDials, swarm.dials, particle);
  return {
    size: dial.number('size'),
    opacity: dial.number('opacity').clamp(0, 1),
    colour: dial.colour('colour').scale(dial.number('light')),
    alive: age.ge(0).and(age.lt(life)),
  };
}

/** What the readings kernel gives for files: diameter in metres, linear light, opacity. */
export const READINGS = ['size', 'red', 'green', 'blue', 'opacity'] as const;

export function readingsKernel(
  piece: Piece,
  swarm: Swarm,
  capacity: number,
  tables: Tables,
): PlanKernel {
  const builder = new KernelBuilder(piece.seed, tables);
  const { size, opacity, colour } = styled(builder, swarm, capacity);
  [size, ...colour.parts, opacity].forEach((e, i) => builder.graph.store(READINGS[i]!, e));
  return builder;
}

/** From state to what is drawn. Never touches the state: restyling needs no new simulation. */
export function lookKernel(
  piece: Piece,
  swarm: Swarm,
  capacity: number,
  tables: Tables,
): PlanKernel {
  const builder = new KernelBuilder(piece.seed, tables);
  const g = builder.graph;
  const look = styled(builder, swarm, capacity);

  const pose = (part: keyof Omit<CameraPose, 'focal'>): Vec3 => {
    const at = (i: number) => (f: FrameInputs) => cameraAt(piece.camera, f.time)[part][i]!;
    const component = (i: number): Expr => builder.uniform(`camera.${part}.${'xyz'[i]!}`, at(i));
    return new Vec3(component(0), component(1), component(2));
  };
  const offset = loadVec(builder, 0).sub(pose('eye'));
  const depth = offset.dot(pose('forward'));
  const focal = builder.uniform('focal', (f) => cameraAt(piece.camera, f.time).focal * f.height);
  const zoom = focal.div(depth.max(1e-4));
  const near = builder.uniform('near', piece.camera.dials.near as number);
  const fade = depth.div(near).sub(0.5).clamp(0, 1);

  const radius = look.size.mul(zoom).mul(0.5);
  const drawn = radius.max(SMALLEST);
  const dim = radius.div(drawn);
  const opacity = look.opacity.mul(dim).mul(dim).mul(fade);
  const seen = look.alive.and(depth.gt(1e-3)).and(opacity.gt(1e-6));
  const colour = look.colour.scale(opacity);
  const half = (size: 'width' | 'height'): Expr =>
    builder.uniform(`half.${size}`, (f) => f[size] / 2);
  g.store('sx', half('width').add(offset.dot(pose('right')).mul(zoom)));
  g.store('sy', half('height').sub(offset.dot(pose('up')).mul(zoom)));
  g.store('sr', seen.select(drawn, g.float(0)));
  g.store('cr', colour.x);
  g.store('cg', colour.y);
  g.store('cb', colour.z);
  g.store('ca', opacity);
  g.store('depth', depth);
  return builder;
}
