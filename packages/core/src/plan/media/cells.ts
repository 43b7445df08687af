import type { Expr, Graph } from '@vast-swarm/kernel';
import type { KernelBuilder } from '../../language/builder';
import { given } from '../../language/names';
import { rowOf } from '../../language/rows';
import { tapsAround, type Lattice, type Spot } from '../../language/taps';
import type { Edges } from './levels';

/** A reading at a spot, linear between the numbers around it, with the least and the most of these. */
export interface Sample {
  value: Expr;
  low: Expr;
  high: Expr;
}

/** The cells that a kernel runs over, one to a lane; the engine gives their grid with each run. */
export class Cells {
  readonly graph: Graph;
  readonly columns: Expr;
  readonly lines: Expr;
  readonly stride: Expr;
  /** Of the lane, from 1; 0 and one more than there are is the rim. */
  readonly column: Expr;
  readonly line: Expr;
  readonly inside: Expr;

  constructor(
    readonly builder: KernelBuilder,
    readonly edges: Edges,
  ) {
    const g = builder.graph;
    this.graph = g;
    this.columns = g.uniform(given('grid.columns'), 'i32');
    this.lines = g.uniform(given('grid.lines'), 'i32');
    this.stride = g.uniform(given('grid.stride'), 'i32');
    const { row, column } = rowOf(g.lane(), this.stride, g.uniform(given('grid.inverse')));
    [this.line, this.column] = [row, column];
    this.inside = within(column, this.columns).and(within(row, this.lines));
  }

  /** The number of the lane that is so many columns and lines away, whatever is there. */
  beside(dx: number, dy: number): Expr {
    const lane = this.graph.lane();
    if (dy === 0) return dx === 0 ? lane : lane.add(dx);
    return lane.add(this.stride.mul(dy).add(dx));
  }

  load(name: string, dx = 0, dy = 0): Expr {
    return this.graph.load(name, this.beside(dx, dy));
  }

  /** The same, where what is beyond an edge that wraps is at the other side. */
  around(name: string, dx: number, dy: number): Expr {
    if (this.edges !== 'wrap') return this.load(name, dx, dy);
    const column = wrapped(this.column.add(dx), this.columns);
    const line = wrapped(this.line.add(dy), this.lines);
    return this.graph.load(name, line.mul(this.stride).add(column));
  }

  /** The number in a cell of a column and line, both i32. */
  at(name: string, column: Expr, line: Expr): Expr {
    return this.graph.load(name, line.mul(this.stride).add(column));
  }

  /** The middle of the lane's cell. */
  get spot(): Spot {
    return { x: this.column.toFloat(), y: this.line.toFloat() };
  }

  /**
   * Reads planes of one lattice at a spot.
   *
   * @param empty beyond open edges there is nothing; else it is as at the edge
   * @param free where given, numbers of cells in which it is 0 do not count
   */
  sampler(
    spot: Spot,
    lattice: Lattice,
    { empty = false, free }: { empty?: boolean; free?: string } = {},
  ): (name: string) => Sample {
    const g = this.graph;
    const how = { lattice, wraps: this.edges === 'wrap', rim: empty };
    const { taps: places, shares } = tapsAround(spot, this, how);
    const counting = free === undefined ? null : this.counting(free, places, shares);
    const weights = counting?.weights ?? shares;
    return (name) => {
      const taps = places.map((place) => g.load(name, place));
      const mean = sum(taps.map((tap, i) => tap.mul(weights[i]!)));
      const value = counting ? mean.mul(counting.by) : mean;
      // What does not count is neither the least nor the most.
      const those = counting ? taps.map((tap, i) => counting.counts[i]!.select(tap, value)) : taps;
      return {
        value,
        low: those.reduce((a, b) => a.min(b)),
        high: those.reduce((a, b) => a.max(b)),
      };
    };
  }

  /** Shares of those places that count, which of them do, and what brings all shares to 1. */
  private counting(free: string, places: readonly Expr[], shares: readonly Expr[]) {
    const g = this.graph;
    const weights = shares.map((weight, i) => weight.mul(g.load(free, places[i]!)));
    const all = sum(weights);
    const by = all.gt(1e-6).select(g.float(1).div(all.max(1e-6)), g.float(0));
    return { weights, by, counts: weights.map((weight) => weight.gt(0)) };
  }
}

function within(at: Expr, most: Expr): Expr {
  return at.ge(1).and(at.le(most));
}

function wrapped(at: Expr, size: Expr): Expr {
  return at.lt(1).select(at.add(size), at.gt(size).select(at.sub(size), at));
}

export function sum(parts: readonly Expr[]): Expr {
  return parts.reduce((a, b) => a.add(b));
}
