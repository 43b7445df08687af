import type { Expr } from '@vast-swarm/kernel';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel, UniformSource } from '../../language/frame';
import { CONTENT } from '../../language/mediumSpace';
import type { Owner } from '../../language/names';
import type { Scene } from '../scene';
import { Cells, sum } from './cells';
import type { Edges } from './levels';
import { faceMask } from './faces';

/**
 * Spreading goes in equal passes, each by what flows through open faces: so it keeps the sum exactly. A pass may take
 * up to this part of the difference between neighbours to stay smooth (explicit diffusion is stable up to 1/4).
 */
const MOST_A_PASS = 0.22;
/** Passes in a frame at the most, an even number: planes and copies of them take turns. */
const MOST_PASSES = 16;
/** Most that a frame can spread, in cells². */
export const MOST_SPREAD = MOST_PASSES * MOST_A_PASS;

/** Passes that spread by `share` cells² a frame, and what each takes. */
export function passesFor(share: number): { passes: number; each: number } {
  if (share <= 0) return { passes: 0, each: 0 };
  const passes = Math.min(MOST_PASSES, 2 * Math.ceil(share / MOST_A_PASS / 2));
  return { passes, each: Math.min(MOST_A_PASS, share / passes) };
}

interface Spread {
  scene: Scene;
  edges: Edges;
  owner: Owner;
  /** Cells² a frame. */
  share: (time: number) => number;
}

const each = ({ share }: Spread): UniformSource => {
  return (f) => passesFor(share(f.time)).each;
};

/** Light and amount: from their planes to `next.…`. */
export function spreadContent(about: Spread): PlanKernel {
  const builder = new KernelBuilder(about.scene);
  const cells = new Cells(builder, about.edges);
  const g = builder.graph;
  const part = builder.uniform(about.owner.own('spread content'), each(about));
  const open = [
    cells.load('open.x'),
    cells.load('open.x', 1),
    cells.load('open.y'),
    cells.load('open.y', 0, 1),
  ];
  for (const name of CONTENT) {
    const own = cells.load(name);
    const beside = [
      cells.around(name, -1, 0),
      cells.around(name, 1, 0),
      cells.around(name, 0, -1),
      cells.around(name, 0, 1),
    ];
    const flow = sum(beside.map((other, i) => other.sub(own).mul(open[i]!)));
    g.store(`next.${name}`, own.add(flow.mul(part)), cells.inside);
  }
  return builder;
}

/** The velocity on faces, each part by itself: walls beside it do not hold it back. */
export function spreadVelocity(about: Spread): PlanKernel {
  const builder = new KernelBuilder(about.scene);
  const cells = new Cells(builder, about.edges);
  const { graph: g, columns, lines } = cells;
  const part = builder.uniform(about.owner.own('spread velocity'), each(about));
  const ways = [
    [-1, 0],
    [1, 0],
    [0, -1],
    [0, 1],
  ] as const;
  for (const [name, axis] of [
    ['u', 'x'],
    ['v', 'y'],
  ] as const) {
    const own = cells.around(name, 0, 0);
    const flow = sum(
      ways.map(([dx, dy]): Expr => {
        const other = cells.around(name, dx, dy).sub(own);
        if (about.edges === 'wrap') return other;
        const [column, line] = [cells.column.add(dx), cells.line.add(dy)];
        return faceMask({ columns, lines, column, line }, axis).select(other, 0);
      }),
    );
    g.store(`next.${name}`, own.add(flow.mul(part)), faceMask(cells, axis));
  }
  return builder;
}
