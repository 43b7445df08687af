import type { Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import type { MediumSpace } from '../../language/mediumSpace';
import { Cells } from './cells';

/** Faces of a medium: with those behind the last cells. */
export function faceMask(
  { column, line, columns, lines }: Pick<Cells, 'column' | 'line' | 'columns' | 'lines'>,
  axis: 'x' | 'y',
): Expr {
  const [along, most, across, width] =
    axis === 'x' ? [column, columns, line, lines] : [line, lines, column, columns];
  return along
    .ge(1)
    .and(along.le(most.add(1)))
    .and(across.ge(1))
    .and(across.le(width));
}

/** Faster than this nothing flows, in m/s. */
const FASTEST = 1000;

/** Brings changes to the faces; closed ones move as the wall that closes them. */
export function faceKernel(builder: KernelBuilder, space: MediumSpace, walls: boolean): PlanKernel {
  const cells = new Cells(builder, space.edges);
  const g = builder.graph;
  for (const [name, axis] of [
    ['u', 'x'],
    ['v', 'y'],
  ] as const) {
    const [dx, dy] = axis === 'x' ? [-1, 0] : [0, -1];
    const both = (plane: string): [Expr, Expr] => [
      cells.around(plane, 0, 0),
      cells.around(plane, dx, dy),
    ];
    const [here, other] = both(`change.${axis}`);
    const next = cells.load(name).add(here.add(other).mul(0.5));
    // What is no number comes to rest.
    const sound = next.eq(next).select(next.max(-FASTEST).min(FASTEST), 0);
    let closed: Expr = g.float(0);
    if (walls) {
      const [solid, beside] = both('solid');
      const [own, others] = both(`wall.${axis}`);
      closed = solid.gt(0.5).select(own, beside.gt(0.5).select(others, closed));
    }
    const open = cells.load(`open.${axis}`).gt(0.5);
    g.store(name, open.select(sound, closed), faceMask(cells, axis));
  }
  return builder;
}
