import { boundsOf } from '../points';

/** Places that are asked for their nearest: enough that the middle of them hardly changes. */
const ASKED = 500;

/**
 * The distance from a place to the nearest other one, in the middle of many: that of the places which have
 * as many nearer as farther. Places in one spot are one.
 *
 * @param points x, y, z of each place in turn, in metres
 * @returns metres; 0 where there are fewer than two places
 */
export function spacingOf(points: Float32Array): number {
  const count = points.length / 3;
  const grid = new Cells(points);
  const found: number[] = [];
  const step = Math.max(1, Math.floor(count / ASKED));
  for (let i = 0; i < count && found.length < ASKED; i += step) {
    const nearest = grid.nearest(i);
    if (nearest < Infinity) found.push(nearest);
  }
  found.sort((a, b) => a - b);
  return found[found.length >> 1] ?? 0;
}

/** Places sorted into cells, as lists: the first of each cell, and who comes behind whom. */
class Cells {
  private readonly first: Int32Array;
  private readonly next: Int32Array;
  private readonly low: number[];
  private readonly side: number;
  private readonly size: number[];

  constructor(private readonly points: Float32Array) {
    const count = points.length / 3;
    const [low, high] = boundsOf(points);
    this.low = low;
    const spans = high.map((h, k) => h - low[k]!);
    const longest = Math.max(...spans, 1e-30);
    // As many cells as places, counted along the sides that are not flat.
    const broad = spans.filter((s) => s > longest * 1e-3);
    const volume = broad.reduce((product, s) => product * s, 1);
    this.side = Math.max((volume / Math.max(1, count)) ** (1 / Math.max(1, broad.length)), 1e-30);
    this.size = spans.map((s) => Math.floor(s / this.side) + 1);
    this.first = new Int32Array(this.size.reduce((product, n) => product * n, 1)).fill(-1);
    this.next = new Int32Array(count);
    for (let i = 0; i < count; i++) {
      const cell = this.number(this.cellOf(i));
      this.next[i] = this.first[cell]!;
      this.first[cell] = i;
    }
  }

  private cellOf(i: number): number[] {
    return this.low.map((low, k) =>
      Math.min(this.size[k]! - 1, Math.floor((this.points[3 * i + k]! - low) / this.side)),
    );
  }

  private number([x, y, z]: number[]): number {
    return (z! * this.size[1]! + y!) * this.size[0]! + x!;
  }

  /** Metres from a place to the nearest that is not in the same spot. */
  nearest(i: number): number {
    const middle = this.cellOf(i);
    const most = Math.max(...this.size);
    let best = Infinity;
    // Rings of cells round the place, until none nearer can come.
    for (let ring = 0; ring <= most && best > (ring - 1) * this.side; ring++) {
      const reach = (k: number): [number, number] => [
        Math.max(0, middle[k]! - ring),
        Math.min(this.size[k]! - 1, middle[k]! + ring),
      ];
      const [[x0, x1], [y0, y1], [z0, z1]] = [reach(0), reach(1), reach(2)];
      for (let z = z0; z <= z1; z++) {
        for (let y = y0; y <= y1; y++) {
          const inside = Math.max(Math.abs(z - middle[2]!), Math.abs(y - middle[1]!)) < ring;
          for (let x = x0; x <= x1; x++) {
            if (inside && Math.abs(x - middle[0]!) < ring) continue;
            best = Math.min(best, this.nearestIn(this.number([x, y, z]), i));
          }
        }
      }
    }
    return best;
  }

  private nearestIn(cell: number, i: number): number {
    let best = Infinity;
    for (let j = this.first[cell]!; j >= 0; j = this.next[j]!) {
      const part = (k: number): number => this.points[3 * i + k]! - this.points[3 * j + k]!;
      const distance = Math.hypot(part(0), part(1), part(2));
      if (distance > 0) best = Math.min(best, distance);
    }
    return best;
  }
}
