import { Owner } from '../../language/names';
import { random, Vec3, type Expr } from '@vast-swarm/kernel';
import type { Neighbours } from '../../sections/kinds';
import { KernelBuilder, type KernelData } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { Scene } from '../scene';
import { loadVec, roundsAgo } from '../../language/state';
import { STATE } from '../../language/particle';

/**
 * Neighbours by a hashed grid (M. Teschner et al., "Optimized Spatial Hashing for Collision
 * Detection of Deformable Objects", VMV 2003). The engine sorts the slots by cell, equal cells by
 * slot, so that the order does not depend on threads; places and velocities are copied in that order
 * before anything moves.
 */
export interface GridPlan extends CellSort {
  /** Copies places and velocities in sorted order: `near.order` to `near.px` and so on. */
  gather: PlanKernel;
}

/** How slots are sorted by cells. */
export interface CellSort {
  /** Gives each slot its cell: buffer `near.cell` (i32). Those in none go to cell `cells`. */
  cellsOf: PlanKernel;
  cells: number;
}

/** Words behind the last: what reads four at once reads beyond it. */
const BEYOND = 4;

/** Buffers of the grid by name, with how many words each has for a capacity and number of cells. */
export const GRID_BUFFERS = (capacity: number, cells: number): Record<string, number> => ({
  'near.cell': capacity,
  'near.order': capacity + BEYOND,
  // Where each cell begins; one more for the dead, one more for the end.
  'near.start': cells + 4,
  ...Object.fromEntries(COPIED.map((name) => [`near.${name}`, capacity + BEYOND])),
});

const GRID = new Owner('grid');
const COPIED = STATE.slice(0, 6);
/** Most neighbours that are looked at in one cell. */
const MOST = 24;
const PRIMES = [73856093, 19349663, 83492791];

export function cellCount(capacity: number): number {
  return 2 ** Math.min(20, Math.max(8, Math.ceil(Math.log2(capacity))));
}

/**
 * The cell of a place in the table of all cells.
 *
 * @param ago rounds of a loop since its particles were born; null where there are none
 */
function hashOf(
  builder: KernelBuilder,
  cell: readonly Expr[],
  cells: number,
  ago: Expr | null,
): Expr {
  const [x, y, z] = cell.map((c, i) => c.mul(PRIMES[i]!));
  const place = x!.xor(y!).xor(z!);
  if (!ago) return place.and(cells - 1);
  // Each round has a share of its own: what crowds one is no matter of another.
  const share = cells / 2 ** Math.ceil(Math.log2(builder.data.turns!.count));
  return place.and(share - 1).add(ago.mul(share));
}

function cellOf(place: Vec3, inverse: Expr): Expr[] {
  return place.parts.map((c) => c.mul(inverse).floor().clamp(-1e6, 1e6).toInt());
}

/** @param apart whether each round of a loop has cells of its own, see `neighbours` */
export function gridPlan(
  scene: Scene,
  capacity: number,
  side: number,
  data: KernelData,
  apart: boolean,
): GridPlan {
  const cells = cellCount(capacity);
  const first = new KernelBuilder(scene, data);
  const g = first.graph;
  const age = g.load('age', g.lane());
  const alive = age.ge(0).and(age.lt(g.load('life', g.lane())));
  const cell = cellOf(loadVec(first, 0), first.uniform(GRID.own('inverse'), 1 / side));
  const ago = apart ? roundsAgo(first, g.lane()) : null;
  g.store('near.cell', alive.select(hashOf(first, cell, cells, ago), g.int(cells)));
  const second = new KernelBuilder(scene, data);
  // Lanes behind the last slot find what was there before.
  const last = second.uniform(GRID.own('last'), capacity - 1, 'i32');
  const found = second.graph.load('near.order', second.graph.lane(), 'i32');
  const slot = found.max(0).min(last);
  for (const name of COPIED) second.graph.store(`near.${name}`, second.graph.load(name, slot));
  return { cellsOf: first, gather: second, cells };
}

/**
 * Sums over the neighbours of a particle. Where the piece comes round they are of its own round: what one round does
 * to the next, and that to the one behind it, would go on for ever, and no frame would be there again.
 */
export function neighbours(
  builder: KernelBuilder,
  position: Vec3,
  velocity: Vec3,
  capacity: number,
  side: number,
): Neighbours {
  const g = builder.graph;
  const cells = cellCount(capacity);
  const inverse = builder.uniform(GRID.own('inverse'), 1 / side);
  const middle = cellOf(position, inverse);
  const last = builder.uniform(GRID.own('last'), capacity - 1, 'i32');
  const read = (name: string, at: Expr): Expr => g.load(`near.${name}`, at);
  const ago = roundsAgo(builder, g.lane());
  return {
    sum(zero, add) {
      return g.loop(g.int(27), zero, (turn, sums) => {
        // turn = 9 k + 3 j + i; thirds by multiplication are exact below 2^16.
        const ninth = turn.mul(7282).shrU(16);
        const rest = turn.sub(ninth.mul(9));
        const third = rest.mul(21846).shrU(16);
        const offsets = [rest.sub(third.mul(3)), third, ninth];
        const cell = middle.map((c, i) => c.add(offsets[i]!).sub(1));
        const hash = hashOf(builder, cell, cells, ago);
        const start = g.load('near.start', hash, 'i32');
        const end = g.load('near.start', hash.add(1), 'i32');
        const held = end.sub(start);
        const count = held.min(MOST);
        // Of a cell that holds more, so many are looked at all over it, others in every frame, and
        // each counts for those between.
        const stride = held.toFloat().div(count.max(1).toFloat());
        const from = random(hash, builder.frameKey()).mul(stride);
        const looked = g.loop(count, sums, (k, before) => {
          const nth = k.toFloat().mul(stride).add(from).toInt();
          const at = start.add(nth).min(last);
          const place = new Vec3(read('px', at), read('py', at), read('pz', at));
          const speed = new Vec3(read('vx', at), read('vy', at), read('vz', at));
          const offset = place.sub(position);
          // Other cells can share the hash, and a particle is no neighbour of its own.
          const there = cellOf(place, inverse)
            .map((c, i) => c.eq(cell[i]!))
            .reduce((a, b) => a.and(b));
          const counts = there.and(offset.dot(offset).gt(1e-14));
          const next = add(offset, speed.sub(velocity), before);
          return next.map((e, i) => counts.select(e, before[i]!));
        });
        const crowded = stride.gt(1);
        return looked.map((sum, i) => {
          const more = sums[i]!.add(sum.sub(sums[i]!).mul(stride));
          return crowded.select(more, sum);
        });
      });
    },
  };
}
