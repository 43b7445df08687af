import type { Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { MediumPlane } from '../../language/mediumPlane';
import type { MediumSpace } from '../../language/mediumSpace';
import { Cells } from './cells';
import type { MediumDial, Taken } from './taken';

/** Part of a medium's height that eddies are kept at, so that more lines do not change how strongly. */
const EDDY = 1 / 256;

/**
 * Vorticity confinement: a push round the places where it turns most (J. Steinhoff, D. Underhill 1994; R. Fedkiw,
 * J. Stam, H. W. Jensen, "Visual Simulation of Smoke", 2001).
 */
export function swirl(
  cells: Cells,
  plane: MediumPlane,
  space: MediumSpace,
  dial: MediumDial,
  taken: Taken,
): void {
  const g = cells.graph;
  const turn = (dx: number, dy: number): Expr => cells.around('curl', dx, dy).abs();
  const across = turn(1, 0).sub(turn(-1, 0));
  const up = turn(0, 1).sub(turn(0, -1));
  const steep = across.mul(across).add(up.mul(up)).sqrt();
  const by = steep.gt(1e-6).select(g.float(1).div(steep.max(1e-6)), 0);
  const size = plane.cell.mul(space.lines * EDDY);
  const push = dial.number('swirl').mul(size).mul(cells.load('curl')).mul(by);
  taken.x = taken.x.add(up.mul(push));
  taken.y = taken.y.sub(across.mul(push));
}

/** How much the medium turns in the middle of each cell, in 1/s; nothing at edges that do not go round. */
export function curlKernel(builder: KernelBuilder, space: MediumSpace): PlanKernel {
  const cells = new Cells(builder, space.edges);
  const g = builder.graph;
  const { cell } = new MediumPlane(builder, space);
  const both = (name: 'u' | 'v', dx: number, dy: number): Expr => {
    const next = name === 'u' ? cells.around(name, dx + 1, dy) : cells.around(name, dx, dy + 1);
    return cells.around(name, dx, dy).add(next);
  };
  const turn = both('v', 1, 0)
    .sub(both('v', -1, 0))
    .sub(both('u', 0, 1))
    .add(both('u', 0, -1));
  const { column, columns, line, lines } = cells;
  const inner = column.gt(1).and(column.lt(columns)).and(line.gt(1)).and(line.lt(lines));
  const value = turn.mul(0.25).div(cell);
  g.store('curl', space.edges === 'wrap' ? value : inner.select(value, 0), cells.inside);
  return builder;
}
