import type { Expr } from '@vast-swarm/kernel';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel } from '../../language/frame';
import { given } from '../../language/names';
import type { Scene } from '../scene';
import { Cells, sum } from './cells';
import { faceMask } from './faces';
import type { Edges } from './levels';

/**
 * The pressure that keeps a medium from being squeezed: the Poisson equation on faces that are open or closed, solved
 * by multigrid (A. Brandt 1977; with cells that are solid as in A. McAdams, E. Sifakis, J. Teran, "A parallel multigrid
 * Poisson solver for fluids simulation on large grids", 2010). Faces of a coarse cell are open by the mean of those of
 * the two finer cells there, so that walls are seen on every grid.
 *
 * Planes of each grid: `open.x` and `open.y` of the faces to the left and below (0 to 1, 2 at an open edge), `free` (1
 * where a cell has an open face), `round` and `share` (what is open round a cell in all, and 1 / that), `p`, `rhs`, `rest`.
 */

type Make = (builder: KernelBuilder, cells: Cells) => void;

function kernel(scene: Scene, edges: Edges, make: Make): PlanKernel {
  const builder = new KernelBuilder(scene);
  make(builder, new Cells(builder, edges));
  return builder;
}

/** Faces with what is open of them, and the pressures behind them. */
function facesOf(cells: Cells): { open: Expr[]; pressure: Expr[] } {
  return {
    open: [
      cells.load('open.x'),
      cells.load('open.x', 1),
      cells.load('open.y'),
      cells.load('open.y', 0, 1),
    ],
    pressure: around(cells),
  };
}

const LEAST = 1e-6;

/** Pressures round a cell; the rim has none. */
function around(cells: Cells): Expr[] {
  return [
    [-1, 0],
    [1, 0],
    [0, -1],
    [0, 1],
  ].map(([dx, dy]) => cells.around('p', dx!, dy!));
}

/** Pressures round each cell, each by how open the face to it is, less the right-hand side: what a relaxation goes to. */
function askedOf(cells: Cells, plain: boolean): Expr {
  if (plain) return sum(around(cells)).sub(cells.load('rhs'));
  const { open, pressure } = facesOf(cells);
  return sum(open.map((part, i) => part.mul(pressure[i]!))).sub(cells.load('rhs'));
}

/**
 * Each cell goes some way towards what its neighbours ask (Jacobi), from `p` to `next.p`; passes take turns. Written
 * beside, no cell waits for the one before it, which halves the time that a pass in place takes.
 */
function relax(scene: Scene, edges: Edges, plain: boolean): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const own = cells.load('p');
    const wanted = askedOf(cells, plain).mul(cells.load('share'));
    g.store('next.p', own.add(wanted.sub(own).mul(g.uniform(given('grid.weight')))));
  });
}

/**
 * How far passes go, so that all errors between two eigenvalues of the cells' own equation become small at once
 * (Chebyshev iteration: Y. Saad, "Iterative Methods for Sparse Linear Systems", 2003, 12.3).
 */
export function weightsFor(passes: number, low: number, high: number): number[] {
  const root = (k: number): number => Math.cos((Math.PI * (2 * k + 1)) / (2 * passes));
  const weights = Array.from({ length: passes }, (_, k) => {
    return 2 / (high + low + (high - low) * root(k));
  });
  // Small and large ones in turn, so that nothing grows on the way.
  return weights.map((_, i) => weights[i % 2 === 0 ? i / 2 : passes - (i + 1) / 2]!);
}

/** Residual of the pressure equation in each cell. */
function rest(scene: Scene, edges: Edges, plain: boolean): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const all = cells.load('round');
    const missing = cells.load('p').mul(all).sub(askedOf(cells, plain));
    g.store('rest', all.gt(0).select(missing, 0));
  });
}

/** How much is open round each cell, and the share that each of its neighbours has in it. */
function rounds(scene: Scene, edges: Edges): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const all = cells.inside.select(sum(facesOf(cells).open), 0);
    g.store('round', all);
    g.store('share', all.gt(LEAST).select(g.float(1).div(all.max(LEAST)), 0));
  });
}

/** The first of the two finer columns (or lines) that a coarse one is over. */
const firstOf = (at: Expr): Expr => at.add(at).sub(1);

/** A cell of the finer grid, whose planes are `fine.…`, held within its rim. */
function finer(cells: Cells): (name: string, column: Expr, line: Expr) => Expr {
  const g = cells.graph;
  const size = (name: 'columns' | 'lines'): Expr =>
    g.uniform(given(`coarse.${name}`), 'i32').add(1);
  const [columns, lines] = [size('columns'), size('lines')];
  const stride = g.uniform(given('coarse.stride'), 'i32');
  return (name, column, line) =>
    g.load(`fine.${name}`, line.max(0).min(lines).mul(stride).add(column.max(0).min(columns)));
}

/** Residual summed over the four finer cells (restriction); the coarse pressure begins with 0. */
function gather(scene: Scene, edges: Edges): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const fine = finer(cells);
    const [x, y] = [firstOf(cells.column), firstOf(cells.line)];
    const parts = [0, 1].flatMap((dy) => [0, 1].map((dx) => fine('rest', x.add(dx), y.add(dy))));
    g.store('rhs', sum(parts), cells.inside);
    g.store('p', g.float(0), cells.inside);
  });
}

/** Faces of the coarser grid. */
function coarserFaces(scene: Scene, edges: Edges): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const fine = finer(cells);
    const [x, y] = [firstOf(cells.column), firstOf(cells.line)];
    // Beyond the last cell stands the face that closes it, also where half a coarse cell hangs over.
    const last = (name: 'columns' | 'lines'): Expr =>
      g.uniform(given(`coarse.${name}`), 'i32').add(1);
    const left = x.min(last('columns'));
    const below = y.min(last('lines'));
    const openX = fine('open.x', left, y)
      .add(fine('open.x', left, y.add(1)))
      .mul(0.5);
    const openY = fine('open.y', x, below)
      .add(fine('open.y', x.add(1), below))
      .mul(0.5);
    const rows = cells.line.le(cells.lines);
    const columns = cells.column.le(cells.columns);
    const some = cells.column.ge(1).and(cells.line.ge(1));
    g.store('open.x', some.and(rows).select(openX, g.float(0)));
    g.store('open.y', some.and(columns).select(openY, g.float(0)));
    const parts = [0, 1].flatMap((dy) => [0, 1].map((dx) => fine('free', x.add(dx), y.add(dy))));
    const beyond = g.float(edges === 'open' ? 1 : 0);
    g.store(
      'free',
      cells.inside.select(
        parts.reduce((a, b) => a.max(b)),
        beyond,
      ),
    );
  });
}

/** Adds the coarse pressure, straight between the middles of coarse cells; those without open faces do not count. */
function bringBack(scene: Scene, edges: Edges, plain: boolean): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const stride = g.uniform(given('coarse.stride'), 'i32');
    const size = (name: 'columns' | 'lines'): Expr => g.uniform(given(`coarse.${name}`), 'i32');
    const along = (at: Expr, most: Expr): [near: Expr, far: Expr] => {
      const near = at.add(1).shrS(1);
      const far = near.add(at.and(1).eq(1).select(g.int(-1), 1));
      // Beyond an open edge is the rim, which has no pressure.
      if (edges === 'open') return [near, far];
      if (edges === 'closed') return [near, far.max(1).min(most)];
      return [near, far.lt(1).select(most, far.gt(most).select(g.int(1), far))];
    };
    const [nearX, farX] = along(cells.column, size('columns'));
    const [nearY, farY] = along(cells.line, size('lines'));
    const taps = [
      [nearX, nearY, 9],
      [farX, nearY, 3],
      [nearX, farY, 3],
      [farX, farY, 1],
    ] as const;
    if (plain) {
      const found = taps.map(([x, y, share]) =>
        g.load('coarse.p', y.mul(stride).add(x)).mul(share / 16),
      );
      g.store('p', cells.load('p').add(sum(found)), cells.inside);
      return;
    }
    const parts = taps.map(([x, y, share]) => {
      const place = y.mul(stride).add(x);
      const weight = g.load('coarse.free', place).mul(share / 16);
      return { weight, value: g.load('coarse.p', place).mul(weight) };
    });
    const all = sum(parts.map((p) => p.weight));
    const found = sum(parts.map((p) => p.value)).div(all.max(LEAST));
    const counts = cells.inside.and(cells.load('free').gt(0)).and(all.gt(LEAST));
    g.store('p', cells.load('p').add(found), counts);
  });
}

/** Divergence of each cell, times its side: it has to be taken away; the pressure begins with 0. */
function outflow(scene: Scene, edges: Edges): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const out = sum([
      cells.load('u', 1).sub(cells.load('u')),
      cells.load('v', 0, 1).sub(cells.load('v')),
    ]);
    g.store('rhs', cells.load('round').gt(0).select(out, 0));
    g.store('p', g.float(0));
  });
}

/** Faces take away the slope of the pressure. */
function release(scene: Scene, edges: Edges): PlanKernel {
  return kernel(scene, edges, ({ graph: g }, cells) => {
    const own = cells.around('p', 0, 0);
    const slope = (dx: number, dy: number): Expr => own.sub(cells.around('p', dx, dy));
    const u = cells.load('u').sub(slope(-1, 0).mul(cells.load('open.x')));
    const v = cells.load('v').sub(slope(0, -1).mul(cells.load('open.y')));
    g.store('u', u, faceMask(cells, 'x'));
    g.store('v', v, faceMask(cells, 'y'));
  });
}

/** The kernels of the solver; `plain` for grids on which nothing is solid and no cell hangs over. */
export interface PressureKernels {
  outflow: PlanKernel;
  relax: (plain: boolean) => PlanKernel;
  rest: (plain: boolean) => PlanKernel;
  gather: PlanKernel;
  bringBack: (plain: boolean) => PlanKernel;
  release: PlanKernel;
  coarserFaces: PlanKernel;
  rounds: PlanKernel;
}

export function pressureKernels(scene: Scene, edges: Edges): PressureKernels {
  const both = (make: typeof relax): ((plain: boolean) => PlanKernel) => {
    const [faces, plain] = [make(scene, edges, false), make(scene, edges, true)];
    return (wanted) => (wanted ? plain : faces);
  };
  return {
    outflow: outflow(scene, edges),
    relax: both(relax),
    rest: both(rest),
    gather: gather(scene, edges),
    bringBack: both(bringBack),
    release: release(scene, edges),
    coarserFaces: coarserFaces(scene, edges),
    rounds: rounds(scene, edges),
  };
}
