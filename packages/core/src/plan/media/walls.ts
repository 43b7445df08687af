import type { Expr } from '@vast-swarm/kernel';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { MediumPlane } from '../../language/mediumPlane';
import type { MediumSpace } from '../../language/mediumSpace';
import { FRAME } from '../../language/names';
import type { Part } from '../../piece/types';
import { standings } from '../motion/contact/solid';
import { collidersOn, feltOf } from '../motion/felt';
import type { Scene } from '../scene';
import { Cells } from './cells';
import { cellParticle } from './cellParticle';
import { faceMask } from './faces';

/** Half the diagonal of a cell: what a surface goes through is solid, so that nothing slips through by a corner. */
const TOUCHED = Math.SQRT1_2;

/** Cells that colliders touch: 1 in `solid`, with their velocity along the plane in `wall.x` and `wall.y`, in m/s. */
function solidKernel(
  builder: KernelBuilder<Scene>,
  space: MediumSpace,
  parts: readonly Part[],
): PlanKernel {
  const cells = new Cells(builder, space.edges);
  const g = builder.graph;
  const plane = new MediumPlane(builder, space);
  const place = plane.placeOf(cells.spot);
  const step = builder.uniform(FRAME.own('step'), 1 / builder.scene.rate);
  const particle = cellParticle(builder, space.id, place);
  const touched = plane.cell.mul(TOUCHED);
  let [solid, x, y]: Expr[] = [g.float(0), g.float(0), g.float(0)];
  for (const part of parts) {
    const felt = feltOf(builder, part, space.id);
    for (const standing of standings(builder, part, particle, { from: place, to: place })) {
      const spot = standing.after.placeBack(place);
      const there = standing.surface(spot).distance.lt(touched).and(felt.gt(0));
      const wall = plane.along(standing.velocity(spot, step));
      solid = there.select(1, solid!);
      x = there.select(wall.x, x!);
      y = there.select(wall.y, y!);
    }
  }
  g.store('solid', solid!, cells.inside);
  g.store('wall.x', x!, cells.inside);
  g.store('wall.y', y!, cells.inside);
  return builder;
}

/** Which faces are open, and which cells are free. */
function openKernel(scene: Scene, { edges }: MediumSpace, walls: boolean): PlanKernel {
  const builder = new KernelBuilder(scene);
  const cells = new Cells(builder, edges);
  const g = builder.graph;
  const free = (dx: number, dy: number): Expr =>
    walls ? g.float(1).sub(cells.around('solid', dx, dy)) : g.float(1);
  const own = free(0, 0);
  const open = (axis: 'x' | 'y'): Expr => {
    const [at, most] = axis === 'x' ? [cells.column, cells.columns] : [cells.line, cells.lines];
    const inner = at.eq(1).select(own, axis === 'x' ? free(-1, 0) : free(0, -1));
    const both = own.mul(axis === 'x' ? free(-1, 0) : free(0, -1));
    // What is beyond an open edge has no pressure: it is half a cell away.
    const rim = { closed: g.float(0), open: inner.mul(2), wrap: both }[edges];
    const edge = at.eq(1).or(at.gt(most));
    return faceMask(cells, axis).select(edge.select(rim, both), g.float(0));
  };
  g.store('open.x', open('x'));
  g.store('open.y', open('y'));
  g.store('free', cells.inside.select(own, g.float(edges === 'open' ? 1 : 0)));
  return builder;
}

export interface WallKernels {
  /** Null where nothing is solid: then faces stay as they are. */
  solid: PlanKernel | null;
  open: PlanKernel;
}

/** @param builder for what solids read, which is the medium's: tables, tracks, blocks */
export function wallKernels(builder: KernelBuilder<Scene>, space: MediumSpace): WallKernels {
  const { scene } = builder;
  const parts = collidersOn(scene.piece, space.id, 'solid');
  const solid = parts.length > 0 ? solidKernel(builder, space, parts) : null;
  return { solid, open: openKernel(scene, space, solid !== null) };
}
