import { modulo } from '../feeds/loop';
import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from './builder';
import { SWARM } from './names';
import { STATE, type ParticleInputs } from './particle';

/** Slots are used in turn: the id in a slot is the youngest born that falls on it; below 0: none. */
export function idInSlot(builder: KernelBuilder, capacity: number): Expr {
  const g = builder.graph;
  const wrap = builder.uniform(SWARM.own('wrap'), (f) => f.born % capacity, 'i32');
  const base = builder.uniform(SWARM.own('base'), (f) => f.born - (f.born % capacity), 'i32');
  const lane = g.lane();
  const size = builder.uniform(SWARM.own('capacity'), capacity, 'i32');
  return lane.add(lane.lt(wrap).select(base, base.sub(size)));
}

/**
 * The number that chance and order go by, of the particle in the lane's slot: its id, or where the piece comes round its number
 * among those of one round, which is the same in each.
 */
export function ownNumber({ graph: g, data }: KernelBuilder, id: Expr): Expr {
  if (!data.turns) return id;
  const { ids, count } = data.turns;
  let number = g.lane();
  for (let turn = 1; turn < count; turn++) {
    number = g
      .lane()
      .ge(turn * ids)
      .select(g.lane().sub(turn * ids), number);
  }
  return number;
}

/** How many rounds of a loop ago particles in a slot were born; null where those of all rounds are alike. */
export function roundsAgo(builder: KernelBuilder, slot: Expr): Expr | null {
  const { graph: g, data, scene } = builder;
  if (!data.turns || data.turns.count === 1) return null;
  const { ids, count } = data.turns;
  const now = builder.uniform(
    SWARM.own('round'),
    (f) => modulo(scene.round(f.frame), count),
    'i32',
  );
  let turn: Expr = g.int(0);
  for (let k = 1; k < count; k++) turn = slot.ge(k * ids).select(g.int(k), turn);
  return turn.gt(now).select(now.sub(turn).add(count), now.sub(turn));
}

/** Three states from the one of that number on, of the lane's own slot or of another. */
export function loadVec({ graph }: KernelBuilder, from: number, slot = graph.lane()): Vec3 {
  const part = (i: number): Expr => graph.load(STATE[from + i]!, slot);
  return new Vec3(part(0), part(1), part(2));
}

/** Inputs of feeds from a particle that is alive, at an age in seconds. */
export function livingParticle(
  builder: KernelBuilder,
  swarm: string,
  capacity: number,
  age: Expr,
): ParticleInputs {
  const g = builder.graph;
  const life = g.load('life', g.lane());
  return {
    swarm,
    id: ownNumber(builder, idInSlot(builder, capacity)),
    life: age.div(life.max(1e-6)).clamp(0, 1),
    readings: { age, life, position: loadVec(builder, 0), velocity: loadVec(builder, 3) },
    kept: (name) => g.load(name, g.lane()),
  };
}
