import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { CONTENT } from '../../language/mediumSpace';
import { given } from '../../language/names';
import type { Scene } from '../scene';

/**
 * Carrying light and amount along does not keep their sums by itself; where nothing can flow out they are scaled to
 * what they were. Sums go column by column, each from below, and then from the left.
 */

/** Over the lanes of one row: the sum of each column. */
function columnSums(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const stride = g.uniform(given('grid.stride'), 'i32');
  const lines = g.uniform(given('grid.lines'), 'i32');
  const sums = g.loop(
    lines,
    CONTENT.map(() => g.float(0)),
    (turn, carried) => {
      const row = turn.add(1).mul(stride);
      return carried.map((sum, i) => sum.add(g.load(CONTENT[i]!, g.lane().add(row))));
    },
  );
  sums.forEach((sum, i) => {
    g.store(`sums.${CONTENT[i]!}`, sum);
  });
  return builder;
}

/** Over one group of lanes: the sum of all, or what brings it back to the one before. */
function total(scene: Scene, after: boolean): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const columns = g.uniform(given('grid.columns'), 'i32');
  const all = g.loop(
    columns,
    CONTENT.map(() => g.float(0)),
    (turn, carried) => carried.map((sum, i) => sum.add(g.load(`sums.${CONTENT[i]!}`, turn.add(1)))),
  );
  all.forEach((sum, i) => {
    const name = CONTENT[i]!;
    if (!after) g.store(`total.${name}`, sum);
    else {
      const before = g.load(`total.${name}`, g.lane());
      // Where next to nothing is there, there is nothing to bring back.
      const gain = before.div(sum.max(1e-6)).max(0.5).min(2);
      g.store(`gain.${name}`, sum.gt(1e-6).select(gain, 1));
    }
  });
  return builder;
}

export interface KeepingKernels {
  columns: PlanKernel;
  before: PlanKernel;
  after: PlanKernel;
}

export function keepingKernels(scene: Scene): KeepingKernels {
  return { columns: columnSums(scene), before: total(scene, false), after: total(scene, true) };
}
