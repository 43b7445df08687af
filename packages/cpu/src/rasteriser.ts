import { bloomLevels, blurLevels, type Bloom, type BloomLevel } from '@vast-swarm/core/plan';
import { PLANES, strideOf } from '@vast-swarm/core/kinds';
import type { Arena } from './arena';
import type { Pool } from './pool';

const CHUNK = 8192;
/** Bytes by which rows may begin later in their buffer. */
const SPARE = 64;
/** Pixels of a pass that one thread does in less time than it takes to wake another. */
const SMALL = 12_000;
/** Words of a function's arguments. */
const ARGS = 128;

/** Planes of linear light in shared memory. */
export interface Planes {
  width: number;
  height: number;
  stride: number;
  /** Byte addresses of the first rows of red, green, blue; where that row is not there, of where it would be. */
  at: [number, number, number];
  /** The rows that are there: all, or a strip of them. */
  from: number;
  to: number;
}

/** Calls the functions of the rasteriser that work on planes and states, with all threads. */
export class Rasteriser {
  constructor(
    readonly pool: Pool,
    readonly arena: Arena,
  ) {}

  planes(name: string, width: number, height: number, rows = { from: 0, to: height }): Planes {
    const stride = strideOf(width);
    const { from, to } = rows;
    const at = PLANES.map((p) => this.rows(`${name}.${p}`, stride, rows));
    return { width, height, stride, at: at as [number, number, number], from, to };
  }

  /** The address of the first row of a plane of which only some rows are there. It is never 0. */
  rows(name: string, stride: number, { from, to }: { from: number; to: number }): number {
    const before = 4 * stride * from;
    const at = this.arena.buffer(name, 4 * stride * (to - from) + SPARE);
    return at === before ? SPARE : at - before;
  }

  /** Writes words, and numbers of single precision over some of them; gives where they stand. */
  args(values: ArrayLike<number>, floats: Readonly<Record<number, number>> = {}): number {
    const address = this.arena.buffer('args', 4 * ARGS);
    const words = new Int32Array(this.pool.memory.buffer, address, ARGS);
    words.set(values);
    const view = new Float32Array(this.pool.memory.buffer, address, ARGS);
    for (const [word, value] of Object.entries(floats)) view[Number(word)] = value;
    return address;
  }

  countAlive(age: number, life: number, count: number): number {
    const chunks = Math.ceil(count / CHUNK);
    const out = this.arena.buffer('alive', 4 * chunks);
    this.pool.raster('countAlive', chunks, this.args([count, age, life, out]));
    return new Int32Array(this.pool.memory.buffer, out, chunks).reduce((a, b) => a + b, 0);
  }

  /** Sorts slots by their cells, see assembly/cells.ts. */
  sortCells(address: (buffer: string) => number, count: number, cells: number): void {
    const values = ['near.cell', 'near.order', 'near.start'].map(address);
    this.pool.raster('sortCells', 1, this.args([count, ...values, cells]));
  }

  private between(
    from: Planes,
    to: Planes,
    a: number,
    b: number,
    run: 'halve' | 'addDoubled' | 'addPlanes',
  ): void {
    const temp = this.arena.buffer('row', 4 * (from.stride + 16) * this.pool.threads);
    const source = [...from.at, from.width, from.height, from.stride];
    const target = [...to.at, to.width, to.height, to.stride];
    const args = this.args([...source, ...target, 0, 0, temp], { 12: a, 13: b });
    const rows = to.to - to.from;
    this.pool.raster(run, rows, args, to.width * rows < SMALL, to.from);
  }

  /** Adds the light that spills over from what is brighter than the threshold. */
  bloom(frame: Planes, step: Bloom): void {
    const levels = bloomLevels(frame.width, frame.height, step.radius);
    const level = (l: BloomLevel, i: number): Planes =>
      this.planes(`bloom${String(i)}`, l.width, l.height);
    const pyramid = levels.map(level);
    pyramid.forEach((to, i) => {
      this.between(pyramid[i - 1] ?? frame, to, i === 0 ? step.threshold : 0, 0, 'halve');
    });
    let gain = levels.at(-1)!.weight;
    for (let i = levels.length - 2; i >= 0; i--) {
      this.between(pyramid[i + 1]!, pyramid[i]!, levels[i]!.weight, gain, 'addDoubled');
      gain = 1;
    }
    this.between(pyramid[0]!, frame, 1, gain * step.amount, 'addDoubled');
  }

  /** Spreads the light of a frame over about `radius` frame heights. */
  blur(frame: Planes, radius: number): void {
    const { levels, own } = blurLevels(frame.width, frame.height, radius);
    if (levels.length === 0) return;
    const pyramid = levels.map((l, i) => this.planes(`bloom${String(i)}`, l.width, l.height));
    pyramid.forEach((to, i) => {
      this.between(pyramid[i - 1] ?? frame, to, 0, 0, 'halve');
    });
    let gain = levels.at(-1)!.weight;
    for (let i = levels.length - 2; i >= 0; i--) {
      this.between(pyramid[i + 1]!, pyramid[i]!, levels[i]!.weight, gain, 'addDoubled');
      gain = 1;
    }
    this.between(pyramid[0]!, frame, own, gain, 'addDoubled');
  }

  /** target = keep · target + gain · source, of equal size. */
  add(from: Planes, to: Planes, keep: number, gain: number): void {
    this.between(from, to, keep, gain, 'addPlanes');
  }

  /** The mean of k × k pixels, of the rows that are there. */
  shrink(from: Planes, to: Planes, k: number): void {
    const source = [...from.at, from.width, from.height, from.stride];
    const target = [...to.at, to.width, to.height, to.stride];
    const args = this.args([...source, ...target, 0, k]);
    this.pool.raster('shrink', (from.to - from.from) / k, args, false, from.from / k);
  }
}
