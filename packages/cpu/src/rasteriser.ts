import {
  bloomLevels,
  DRAWN,
  PLANES,
  strideOf,
  type Bloom,
  type BloomLevel,
  type DrawMode,
} from '@vast-swarm/core';
import type { Arena } from './arena';
import type { Pool } from './pool';

const TILE_W = 64;
const TILE_H = 32;
const CHUNK = 8192;
const MODES: Record<DrawMode, number> = { add: 0, screen: 1, normal: 2 };
/** Where the rasteriser leaves the number of list entries, in words of its arguments. */
const TOTAL = 24;
const SCRATCH_PER_THREAD = 8192;
/** Bytes of one disc in a tile's list. */
const ENTRY = 32;
/** Pixels of a pass that one thread does in less time than it takes to wake another. */
const SMALL = 12_000;

/** Planes of linear light in shared memory. */
export interface Planes {
  width: number;
  height: number;
  stride: number;
  /** Byte addresses of red, green, blue. */
  at: [number, number, number];
}

/** Draws discs into planes and works on planes, with all threads. */
export class Rasteriser {
  constructor(
    private readonly pool: Pool,
    private readonly arena: Arena,
  ) {}

  planes(name: string, width: number, height: number): Planes {
    const stride = strideOf(width);
    const bytes = 4 * stride * height;
    const at = PLANES.map((p) => this.arena.buffer(`${name}.${p}`, bytes));
    return { width, height, stride, at: at as [number, number, number] };
  }

  private args(values: readonly number[], floats: Readonly<Record<number, number>> = {}): number {
    const address = this.arena.buffer('args', 256);
    const words = new Int32Array(this.pool.memory.buffer, address, 64);
    words.set(values);
    const view = new Float32Array(this.pool.memory.buffer, address, 64);
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

  /** Draws `count` discs from the buffers that the look kernel filled. */
  discs(
    address: (buffer: string) => number,
    count: number,
    planes: Planes,
    mode: DrawMode,
    edge: number,
  ): void {
    const { arena, pool } = this;
    const [tilesX, tilesY] = [Math.ceil(planes.width / TILE_W), Math.ceil(planes.height / TILE_H)];
    const tiles = tilesX * tilesY;
    const chunks = Math.ceil(count / CHUNK);
    const counts = arena.buffer('tile.counts', 4 * tiles * chunks);
    const starts = arena.buffer('tile.starts', 4 * (tiles + 1));
    const scratch = arena.buffer('tile.scratch', SCRATCH_PER_THREAD * pool.threads);
    const values = (list: number, spare: number, order: number): number[] => [
      count,
      ...DRAWN.map(address),
      ...[planes.width, planes.height, planes.stride, ...planes.at],
      ...[counts, starts, list, spare, tilesX, tilesY, MODES[mode], 0, scratch, 0, chunks, order],
    ];
    const args = this.args(values(0, 0, 0), { 22: edge });
    pool.raster('countTiles', chunks, args);
    pool.raster('placeTiles', 1, args);
    const total = new Int32Array(pool.memory.buffer, args, 64)[TOTAL]!;
    if (total === 0) return;
    const list = arena.buffer('tile.list', ENTRY * total);
    const sorting = (name: string): number =>
      mode === 'normal' ? arena.buffer(name, 4 * total) : 0;
    this.args(values(list, sorting('tile.spare'), sorting('tile.order')), { 22: edge });
    pool.raster('fillTiles', chunks, args);
    // Filling moved the counts on, but the starts still tell where lists begin.
    pool.raster('drawTile', tiles, args);
  }

  private between(
    from: Planes,
    to: Planes,
    a: number,
    b: number,
    run: 'halve' | 'addDoubled',
  ): void {
    const temp = this.arena.buffer('row', 4 * (from.stride + 16) * this.pool.threads);
    const source = [...from.at, from.width, from.height, from.stride];
    const target = [...to.at, to.width, to.height, to.stride];
    const args = this.args([...source, ...target, 0, 0, temp], { 12: a, 13: b });
    this.pool.raster(run, to.height, args, to.width * to.height < SMALL);
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

  /** The mean of k × k pixels. */
  shrink(from: Planes, to: Planes, k: number): void {
    const source = [...from.at, from.width, from.height, from.stride];
    const target = [...to.at, to.width, to.height, to.stride];
    this.pool.raster('shrink', to.height, this.args([...source, ...target, 0, k]));
  }
}
