import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { FieldKind } from '../../sections/kinds';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { FRAME } from '../../language/names';
import { loadVec } from '../../language/state';
import { influenceOf } from '../../piece/influence';
import { pushingIn, type Pushing } from '../../piece/pushing';
import type { Piece } from '../../piece/types';
import type { CellSort } from '../motion/neighbourGrid';
import { SEEN } from '../motion/seenVelocity';
import { partReader } from '../readers';
import type { PlanPart } from '../cache';
import type { Scene, SceneBuilder } from '../scene';
import { boxOf, cellCountOf, cellIn, keptBuffer, leftBuffer, type FieldBox } from './fieldCells';

/** Gathering of a swarm's particles into a field at every frame. */
export interface FieldGather {
  swarm: string;
  sort: CellSort;
  /** Over cells: adds what the swarm's particles leave to the buffers of `left`. */
  add: PlanKernel;
}

/**
 * State that belongs to no swarm: numbers in the cells of a box. It is born empty. At the start of a frame
 * swarms leave in it what they were at the end of the frame before, it takes its step, and then the swarms'
 * motion may read it.
 */
export interface FieldPlan {
  /** That of the part that it belongs to. */
  id: string;
  cells: number;
  /** Buffers of numbers that cells keep from frame to frame. */
  kept: readonly string[];
  /** Buffers of numbers that are added up within a frame; all 0 behind a step. */
  left: readonly string[];
  gathers: readonly FieldGather[];
  /** Over cells: from what was kept and left to what is kept. */
  step: PlanKernel;
}

/** The swarms whose particles leave something in a force's field; null where it has none. */
export function gatheredBy(piece: Piece, { part, kind }: Pushing): string[] | null {
  if (!kind.field) return null;
  const from = kind.field.from(part.dials);
  return piece.swarms.filter((s) => s.on && (from === '' || s.id === from)).map((s) => s.id);
}

/** Whether a swarm's particles leave something in a field that is read. */
export function leavesInFields(piece: Piece, id: string): boolean {
  return pushingIn(piece).some(
    (force) =>
      force.part.on &&
      gatheredBy(piece, force)?.includes(id) &&
      piece.swarms.some((s) => s.on && influenceOf(piece, force.part.id, s.id) !== 0),
  );
}

/** The part of a swarm's plan that a field needs. */
interface Giver {
  id: string;
  capacity: number;
  state: readonly string[];
  bake: unknown;
}

export const fieldsPart: PlanPart<{ scene: Scene; swarms: readonly Giver[] }, FieldPlan[]> = {
  name: 'fields',
  dependsOn: ({ scene: { piece, signalled }, swarms }) => [
    piece.seed,
    piece.frame.rate,
    pushingIn(piece).map(({ part, list }) => [list, part]),
    piece.influence,
    piece.media,
    signalled,
    piece.swarms.map((s) => [s.id, s.on]),
    swarms.map((s) => [s.id, s.capacity, s.bake === null, isSeen(s)]),
  ],
  make: fieldPlans,
};

/** The fields that are read by something that is simulated; what nobody reads is not worked out. */
function fieldPlans({ scene, swarms }: { scene: Scene; swarms: readonly Giver[] }): FieldPlan[] {
  const { piece } = scene;
  return pushingIn(piece).flatMap((force) => {
    const { part, kind } = force;
    const feels = (id: string): boolean => influenceOf(piece, part.id, id) !== 0;
    const read =
      swarms.some((s) => !s.bake && feels(s.id)) || piece.media.some((m) => m.on && feels(m.id));
    if (!kind.field || !part.on || !read) return [];
    const gathered = gatheredBy(piece, force)!;
    const givers = swarms.filter((s) => gathered.includes(s.id));
    return [fieldPlan(scene, force, kind.field, givers)];
  });
}

const isSeen = ({ state }: Giver): boolean => state.includes(SEEN[0]!);

function fieldPlan(
  scene: Scene,
  force: Pushing,
  kind: FieldKind,
  givers: readonly Giver[],
): FieldPlan {
  const cells = cellCountOf(kind, force.part);
  const gathers = givers.map((swarm) => gather(scene, force, kind, swarm, cells));
  const kept = kind.keeps.map((name) => keptBuffer(force.part.id, name));
  const left = kind.gathers.map((name) => leftBuffer(force.part.id, name));
  return { id: force.part.id, cells, kept, left, gathers, step: stepKernel(scene, force, kind) };
}

function boxIn(builder: SceneBuilder, force: Pushing, kind: FieldKind): FieldBox {
  return boxOf(kind, force.part, partReader(builder, force.list, force.part, null));
}

/** Sorts the slots by the cells they stand in, and adds up in each cell in the order of slots. */
function gather(
  scene: Scene,
  force: Pushing,
  kind: FieldKind,
  giver: Giver,
  cells: number,
): FieldGather {
  const first = new KernelBuilder(scene);
  const { graph } = first;
  const age = graph.load('age', graph.lane());
  const alive = age.ge(0).and(age.lt(graph.load('life', graph.lane())));
  const { index, inside } = cellIn(boxIn(first, force, kind), loadVec(first, 0));
  graph.store('near.cell', alive.and(inside).select(index, graph.int(cells)));
  return {
    swarm: giver.id,
    sort: { cellsOf: first, cells },
    add: addKernel(scene, force, kind, giver, cells),
  };
}

/** As a particle is seen to move: what carries it is part of that. */
function velocityOf(builder: SceneBuilder, giver: Giver, slot: Expr): Vec3 {
  if (!isSeen(giver)) return loadVec(builder, 3, slot);
  const [x, y, z] = SEEN.map((name) => builder.graph.load(name, slot));
  return new Vec3(x!, y!, z!);
}

function addKernel(
  scene: Scene,
  force: Pushing,
  kind: FieldKind,
  giver: Giver,
  cells: number,
): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const last = builder.uniform(FRAME.own('lastSlot'), giver.capacity - 1, 'i32');
  const start = g.load('near.start', g.lane(), 'i32');
  const held = g.load('near.start', g.lane().add(1), 'i32').sub(start);
  // Lanes run on to a multiple of four.
  const count = g.lane().lt(cells).select(held, 0);
  const before = kind.gathers.map((name) => g.load(leftBuffer(force.part.id, name), g.lane()));
  const sums = g.loop(count, before, (turn, carried) => {
    // Lanes that have done with their cell go on with the busiest one, and read what is dropped.
    const place = start.add(turn).max(0).min(last);
    const slot = g.load('near.order', place, 'i32').max(0).min(last);
    const velocity = velocityOf(builder, giver, slot);
    const leaves = kind.leaves({ position: loadVec(builder, 0, slot), velocity });
    return carried.map((sum, i) => sum.add(leaves[kind.gathers[i]!]!));
  });
  sums.forEach((sum, i) => g.store(leftBuffer(force.part.id, kind.gathers[i]!), sum));
  return builder;
}

function stepKernel(scene: Scene, force: Pushing, kind: FieldKind): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const dial = partReader(builder, force.list, force.part, null);
  const step = builder.uniform(FRAME.own('step'), 1 / scene.rate);
  const load = (buffer: string) => g.load(buffer, g.lane());
  const next = kind.step(dial, {
    step,
    kept: (name) => load(keptBuffer(force.part.id, name)),
    left: (name) => load(leftBuffer(force.part.id, name)),
  });
  for (const name of kind.keeps) g.store(keptBuffer(force.part.id, name), next[name]!);
  // What was left is taken in; the next frame begins with nothing.
  for (const name of kind.gathers) g.store(leftBuffer(force.part.id, name), g.float(0));
  const { samples, blocks } = builder.data;
  if (samples.length > 0 || blocks.size > 0) {
    throw new Error(
      `The field of '${force.part.kind}' reads a curve or a list, which fields have none of`,
    );
  }
  return builder;
}
