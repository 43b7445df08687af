import type { Expr } from '@vast-swarm/kernel';
import { KernelBuilder } from '../../language/builder';
import type { PlanKernel, UniformSource } from '../../language/frame';
import { CONTENT, type KEPT } from '../../language/mediumSpace';
import type { Owner } from '../../language/names';
import type { Scene } from '../scene';
import type { Lattice, Spot } from '../../language/taps';
import { Cells, type Sample } from './cells';
import type { Edges } from './levels';
import { faceMask } from './faces';

/**
 * A medium carries itself along: each place takes what was where it comes from (semi-Lagrangian: J. Stam, "Stable
 * Fluids", 1999), with the error that a way there and back shows taken off (A. Selle, R. Fedkiw, B. Kim, Y. Liu,
 * J. Rossignac, "An unconditionally stable MacCormack method", 2008), and never outside of what was there. Ways are
 * found with the velocity in their middle (second order), in the middles of cells; faces take the mean of two.
 */
export interface Advection {
  scene: Scene;
  edges: Edges;
  owner: Owner;
  /** Cells a second that 1 m/s is, times the length of the step. */
  cellsPerSpeed: UniformSource;
  /** Whether some cells are solid; see walls.ts. */
  walls: boolean;
  /** Whether some force carries the medium beside its own velocity: planes `carry.x` and `carry.y`, in m/s. */
  carried: boolean;
}

type Axis = 'x' | 'y';

/** Looks on a way for what is solid, and most of them. */
const LOOKS_A_CELL = 2;
const MOST_LOOKS = 64;

function velocityAt(cells: Cells, { carried }: Advection, spot: Spot): Spot {
  const own = (axis: Axis): Expr => {
    const name = axis === 'x' ? 'u' : 'v';
    const { value } = cells.sampler(spot, axis === 'x' ? 'left' : 'below')(name);
    return carried ? value.add(cells.sampler(spot, 'middle')(`carry.${axis}`).value) : value;
  };
  return { x: own('x'), y: own('y') };
}

/** The velocity in the middle of the lane's own cell. */
export function ownVelocity(cells: Cells): Spot {
  return {
    x: cells.load('u').add(cells.load('u', 1)).mul(0.5),
    y: cells
      .load('v')
      .add(cells.load('v', 0, 1))
      .mul(0.5),
  };
}

const moved = ({ x, y }: Spot, way: Spot, by: number): Spot => ({
  x: x.add(way.x.mul(by)),
  y: y.add(way.y.mul(by)),
});

/** The part of a way up to where something solid begins. */
function freePart(cells: Cells, from: Spot, way: Spot): Expr {
  const g = cells.graph;
  const length = way.x.abs().max(way.y.abs());
  const looks = length.mul(LOOKS_A_CELL).min(MOST_LOOKS).toInt().add(1);
  const step = g.float(1).div(looks.toFloat());
  const [most] = g.loopWhile(looks, [g.float(0)], (turn, [before]) => {
    const part = turn.add(1).toFloat().mul(step);
    const at = (start: Expr, along: Expr, size: Expr): Expr =>
      start.add(along.mul(part)).nearest().toInt().max(0).min(size.add(1));
    const column = at(from.x, way.x, cells.columns);
    const line = at(from.y, way.y, cells.lines);
    const solid = cells.at('solid', column, line).gt(0.5);
    return { next: [solid.select(before!, part)], goOn: solid.not() };
  });
  return most!;
}

/** Ways in cells, from the middle of each cell back to where it comes from, and on to where it goes. */
function ways(about: Advection): PlanKernel {
  const builder = new KernelBuilder(about.scene);
  const cells = new Cells(builder, about.edges);
  const g = builder.graph;
  const scale = builder.uniform(about.owner.own('cellsPerSpeed'), about.cellsPerSpeed);
  const here = cells.spot;
  const speed = ownVelocity(cells);
  const start = about.carried
    ? { x: speed.x.add(cells.load('carry.x')), y: speed.y.add(cells.load('carry.y')) }
    : speed;
  const own: Spot = { x: start.x.mul(scale), y: start.y.mul(scale) };
  const middle = velocityAt(cells, about, moved(here, own, -0.5));
  const back: Spot = { x: middle.x.mul(scale).neg(), y: middle.y.mul(scale).neg() };
  // As much beyond the own velocity as the way back is short of it.
  const on = moved(back, own, 2);
  for (const [name, way] of [
    ['back', back],
    ['on', on],
  ] as const) {
    const part = about.walls ? freePart(cells, here, way) : g.float(1);
    g.store(`${name}.x`, way.x.mul(part), cells.inside);
    g.store(`${name}.y`, way.y.mul(part), cells.inside);
  }
  return builder;
}

interface Carried {
  names: readonly (typeof KEPT)[number][];
  lattice: Lattice;
  /** The lane's own place on that lattice. */
  spot: Spot;
  mask: Expr;
}

function latticesOf(cells: Cells): Carried[] {
  const { x, y } = cells.spot;
  return [
    { names: ['u'], lattice: 'left', spot: { x: x.sub(0.5), y }, mask: faceMask(cells, 'x') },
    { names: ['v'], lattice: 'below', spot: { x, y: y.sub(0.5) }, mask: faceMask(cells, 'y') },
    { names: CONTENT, lattice: 'middle', spot: { x, y }, mask: cells.inside },
  ];
}

/** A way from a place of a lattice: on faces the mean of the ways from the cells at both sides. */
function wayFrom(cells: Cells, name: 'back' | 'on', lattice: Lattice): Spot {
  const axis = (a: Axis): Expr => {
    const own = cells.load(`${name}.${a}`);
    if (lattice === 'middle') return own;
    const other = cells.around(
      `${name}.${a}`,
      lattice === 'left' ? -1 : 0,
      lattice === 'below' ? -1 : 0,
    );
    const here = cells.around(`${name}.${a}`, 0, 0);
    return here.add(other).mul(0.5);
  };
  return { x: axis('x'), y: axis('y') };
}

function samplerOf(
  cells: Cells,
  { walls }: Advection,
  { lattice }: Carried,
  spot: Spot,
): (name: string) => Sample {
  const content = lattice === 'middle';
  const empty = content && cells.edges === 'open';
  return cells.sampler(spot, lattice, { empty, ...(content && walls ? { free: 'free' } : {}) });
}

/** A kernel over all that is carried: `write` gets a reader of where a place's way leads to. */
function carrying(
  about: Advection,
  way: 'back' | 'on',
  write: (cells: Cells, carried: Carried, read: (name: string) => Sample) => void,
): PlanKernel {
  const builder = new KernelBuilder(about.scene);
  const cells = new Cells(builder, about.edges);
  for (const carried of latticesOf(cells)) {
    const spot = moved(carried.spot, wayFrom(cells, way, carried.lattice), 1);
    write(cells, carried, samplerOf(cells, about, carried, spot));
  }
  return builder;
}

/**
 * First kernel of advection: the content at the place each cell's flow comes from, with the least and the most around
 * it (semi-Lagrangian, after A. Selle et al., "An Unconditionally Stable MacCormack Method", 2008).
 */
function first(about: Advection): PlanKernel {
  return carrying(about, 'back', ({ graph: g }, { names, mask }, read) => {
    for (const name of names) {
      const { value, low, high } = read(name);
      g.store(`came.${name}`, value, mask);
      g.store(`low.${name}`, low, mask);
      g.store(`high.${name}`, high, mask);
    }
  });
}

/** Less half of what the way there and back gets wrong. */
function second(about: Advection): PlanKernel {
  return carrying(about, 'on', (cells, { names, mask }, read) => {
    for (const name of names) {
      const came = cells.load(`came.${name}`);
      const back = read(`came.${name}`).value;
      const better = came.add(cells.load(name).sub(back).mul(0.5));
      const held = better.max(cells.load(`low.${name}`)).min(cells.load(`high.${name}`));
      cells.graph.store(name, held, mask);
    }
  });
}

/** Kernels of one step, in order. Beside the kept planes: `back`, `on`, `came`, `low`, `high`. */
export function advectionKernels(about: Advection): PlanKernel[] {
  return [ways(about), first(about), second(about)];
}
