import {
  flatsOf,
  itemsOf,
  lampNumbers,
  MODES,
  outputsOf,
  putLevels,
  Words,
  type Draw,
  type Layout,
} from '@vast-swarm/core/plan';
import type { CameraPose, Lamps } from '@vast-swarm/core/kinds';
import type { Planes, Rasteriser } from './rasteriser';
import { SHAPES, SIZES, WORDS } from './words';

/** Triangles or bands that a chunk has room for, about. */
const ROOM = 16_384;
/** Copies of heavy meshes in a chunk. */
const HEAVY_CHUNK = 256;
/** Bytes of a thing in a tile's list, where that is more than its number. */
const ENTRY_BYTES: Partial<Record<(typeof SHAPES)[number], number>> = {
  discs: SIZES.discBytes,
  copies: SIZES.copyBytes,
};

/** Targets of the drawing. */
export interface Canvas {
  planes: Planes;
  /** Address of the distances of opaque things, in metres; 0 where there are none. */
  nearest: number;
  /** The words of what is opaque and not drawn yet. */
  solids: Int32Array[];
  camera: CameraPose;
  lamps: Lamps;
  time: number;
}

type Address = (buffer: string) => number;
type TileWords = Words<keyof typeof WORDS.tiles.at>;
type FillWords = Words<'count' | 'items' | 'filled' | 'per' | 'room' | 'scratch'>;

/** Draws bodies into planes of linear light, with all threads. */
export class Painter {
  constructor(private readonly rasteriser: Rasteriser) {}

  private buffer(name: string, bytes: number): number {
    return this.rasteriser.arena.buffer(name, Math.max(16, bytes));
  }

  /** A buffer that a draw has to itself where it is opaque: that is drawn together with others, later. */
  private own({ mode }: Draw, { solids }: Canvas, name: string, bytes: number): number {
    return this.buffer(mode === 'opaque' ? `solid${String(solids.length)}.${name}` : name, bytes);
  }

  private get scratch(): number {
    return this.buffer('tile.scratch', SIZES.scratchBytes * this.rasteriser.pool.threads);
  }

  /** Runs a function for each tile of the rows that are there. */
  private overTiles(
    name: 'drawTile' | 'drawSolids',
    { width, from, to }: Planes,
    args: number,
  ): void {
    const tilesX = Math.ceil(width / SIZES.tileW);
    const [first, last] = [from / SIZES.tileH, Math.ceil(to / SIZES.tileH)];
    this.rasteriser.pool.raster(name, tilesX * (last - first), args, false, tilesX * first);
  }

  /** Sorts what the words describe into tiles, and draws the tiles. */
  private tiles(
    draw: Draw,
    canvas: Canvas,
    chunks: number,
    shape: (typeof SHAPES)[number],
    words: TileWords,
  ): void {
    const { pool } = this.rasteriser;
    const { planes, nearest, camera } = canvas;
    const { width, height, stride } = planes;
    const [tilesX, tilesY] = [Math.ceil(width / SIZES.tileW), Math.ceil(height / SIZES.tileH)];
    const count = tilesX * tilesY;
    const own = (name: string, bytes: number): number =>
      this.own(draw, canvas, `tile.${name}`, bytes);
    const soft = draw.soft(canvas.time);
    words.real({ soft: soft > 0 ? 1 / soft : 0, scale: 1 }).whole({
      width,
      height,
      stride,
      plane: planes.at,
      tilesX,
      tilesY,
      chunks,
      nearest,
      mode: MODES.indexOf(draw.mode),
      shape: SHAPES.indexOf(shape),
      inverse: camera.perspective ? 1 : 0,
      spanW: SIZES.tileW,
      spanH: SIZES.tileH,
      scratch: this.scratch,
      counts: this.buffer('tile.counts', 4 * count * chunks),
      starts: own('starts', 4 * (count + 1)),
    });
    let args = this.rasteriser.args(words.words);
    pool.raster('countTiles', chunks, args);
    pool.raster('placeTiles', 1, args);
    const { size, at } = words.layout;
    const total = new Int32Array(pool.memory.buffer, args, size)[at.total]!;
    if (total === 0) return;
    words.whole({ list: own('list', (ENTRY_BYTES[shape] ?? 4) * total) });
    const opaque = draw.mode === 'opaque';
    if (draw.mode === 'normal' || opaque) {
      words.whole({ spare: own('spare', 4 * total), order: own('order', 4 * total) });
    }
    args = this.rasteriser.args(words.words);
    pool.raster('fillTiles', chunks, args);
    // Filling moved the counts on, but the starts still tell where lists begin.
    if (opaque) canvas.solids.push(Int32Array.from(words.words));
    else this.overTiles('drawTile', planes, args);
  }

  /** Draws the opaque things that have gathered, each pixel by so many samples along its sides. */
  drawSolids({ planes, nearest, solids }: Canvas, samples: number): void {
    const { pool } = this.rasteriser;
    if (solids.length === 0) return;
    const { width, height, stride } = planes;
    const tilesX = Math.ceil(width / SIZES.tileW);
    const stretch = SIZES.tileW * samples + SIZES.rowGap;
    const plane = 4 * stretch * SIZES.tileH * samples + SIZES.planeGapBytes;
    const fineBytes = 4 * SIZES.args + 4 * plane;
    const room = this.buffer('solids.words', 4 * SIZES.args * solids.length);
    const draws = this.buffer('solids.draws', 4 * solids.length);
    const words = new Words(WORDS.solids).whole({
      width,
      height,
      stride,
      plane: planes.at,
      nearest,
      tilesX,
      samples,
      draws,
      drawCount: solids.length,
      fineBytes,
      fine: this.buffer('solids.fine', fineBytes * pool.threads),
    });
    const memory = new Int32Array(pool.memory.buffer);
    solids.forEach((draw, i) => {
      memory.set(draw, room / 4 + SIZES.args * i);
      memory[draws / 4 + i] = room + 4 * SIZES.args * i;
    });
    this.overTiles('drawSolids', planes, this.rasteriser.args(words.words));
    solids.length = 0;
  }

  /** The words of a draw, with where its kernel's outputs stand. */
  private wordsOf<N extends string>(layout: Layout<N>, draw: Draw, address: Address): Words<N> {
    const outputs = outputsOf(draw).map((name) => [name, address(name)]);
    return new Words(layout).whole(Object.fromEntries(outputs) as Record<N, number>);
  }

  /** Draws a body from the `count` entries of the buffers that its kernel filled. */
  paint(draw: Draw, address: Address, count: number, canvas: Canvas): void {
    switch (draw.shape) {
      case 'discs': {
        const words = this.wordsOf(WORDS.discs, draw, address);
        words.whole({ count }).real({ edge: draw.edge });
        this.tiles(draw, canvas, Math.ceil(count / SIZES.chunk), 'discs', words);
        return;
      }
      case 'marks': {
        this.marks(draw, address, count, canvas);
        return;
      }
      case 'meshes': {
        this.meshes(draw, address, count, canvas);
        return;
      }
      case 'trails': {
        this.trails(draw, address, count, canvas);
        return;
      }
      case 'links': {
        this.links(draw, address, count, canvas);
        return;
      }
    }
  }

  private marks(draw: Draw & { shape: 'marks' }, address: Address, count: number, canvas: Canvas) {
    const { pictures, pattern, param, lens, measured } = draw;
    const { blades, turn, ratio } = canvas.camera.lens;
    const words = this.wordsOf(WORDS.marks, draw, address)
      .whole({ count, pattern, blades: lens ? blades : -1, measured: measured ? 1 : 0 })
      .real({
        param,
        aspect: Math.max(1, ratio),
        aspectU: Math.max(1, 1 / ratio),
        flats: flatsOf(blades, turn),
      });
    if (pictures) {
      const { block, width, height, frames } = pictures;
      words.whole({ picture: address(block), pictureW: width, pictureH: height, frames });
    }
    this.tiles(draw, canvas, Math.ceil(count / SIZES.chunk), 'marks', words);
  }

  /**
   * Lets a function of the rasteriser fill the rooms of chunks with triangles or bands, and draws them.
   *
   * @param each most that one particle gives
   */
  private made(
    draw: Draw,
    canvas: Canvas,
    shape: 'triangles' | 'bands',
    each: number,
    count: number,
    words: FillWords,
    fill: 'fillMeshes' | 'fillTrails' | 'fillLinks' | 'fillFaces',
  ): void {
    const per = Math.max(1, Math.floor(ROOM / each));
    const chunks = Math.ceil(count / per);
    const room = per * each;
    const size = shape === 'triangles' ? SIZES.triangleBytes : SIZES.bandBytes;
    const items = this.own(draw, canvas, 'items', size * room * chunks);
    const filled = this.buffer('items.filled', 4 * chunks);
    words.whole({ count, items, filled, per, room });
    this.rasteriser.pool.raster(fill, chunks, this.rasteriser.args(words.words));
    const tiles = new Words(WORDS.tiles).whole({ items, room, filled });
    this.tiles(draw, canvas, chunks, shape, tiles);
  }

  private meshes(
    draw: Draw & { shape: 'meshes' },
    address: Address,
    count: number,
    canvas: Canvas,
  ) {
    const { planes, camera, lamps } = canvas;
    const { width, height } = planes;
    const words = this.wordsOf(WORDS.meshes, draw, address)
      .whole({
        width,
        height,
        perspective: camera.perspective ? 1 : 0,
        mesh: address(draw.mesh),
        faces: address(draw.faces),
        cull: draw.cull ? 1 : 0,
        measured: draw.measured ? 1 : 0,
        lights: this.lampsAt(lamps),
        lightCount: lamps.lamps.length,
        mode: MODES.indexOf(draw.mode),
        levelCount: draw.levels.length,
        scratch: this.scratch,
      })
      .real({
        zoom: camera.focal * height,
        gloss: draw.gloss(canvas.time),
        ambient: lamps.ambient,
      });
    putLevels(words.words, WORDS.meshes.at.levels, draw.levels);
    if (draw.mode !== 'opaque') {
      this.made(draw, canvas, 'triangles', itemsOf(draw), count, words, 'fillMeshes');
      return;
    }
    if (draw.levels.some((l) => l.count > SIZES.heavyTriangles))
      this.heavy(draw, canvas, count, words);
    const whole = this.own(draw, canvas, 'whole', SIZES.wholeBytes * count);
    words.whole({ count, whole });
    this.tiles(draw, canvas, Math.ceil(count / SIZES.chunk), 'copies', words);
  }

  /** Large copies of many triangles go to the screen as triangles, see assembly/levels.ts. */
  private heavy(
    draw: Draw & { shape: 'meshes' },
    canvas: Canvas,
    count: number,
    words: Words<keyof typeof WORDS.meshes.at>,
  ): void {
    const { pool } = this.rasteriser;
    const chunks = Math.ceil(count / HEAVY_CHUNK);
    const filled = this.buffer('items.filled', 4 * chunks);
    words.whole({ count, filled, per: HEAVY_CHUNK });
    pool.raster('countMeshes', chunks, this.rasteriser.args(words.words));
    const counts = new Int32Array(pool.memory.buffer, filled, chunks);
    const room = counts.reduce((a, b) => Math.max(a, b), 0);
    if (room === 0) return;
    const items = this.own(draw, canvas, 'items', SIZES.triangleBytes * room * chunks);
    words.whole({ items, room });
    pool.raster('fillMeshes', chunks, this.rasteriser.args(words.words));
    const tiles = new Words(WORDS.tiles).whole({ items, room, filled });
    this.tiles(draw, canvas, chunks, 'triangles', tiles);
  }

  /** Writes lamps as the rasteriser reads them; gives where they stand. */
  private lampsAt({ lamps }: Lamps): number {
    const at = this.buffer('lamps', 32 * lamps.length);
    const view = new Float32Array(this.rasteriser.pool.memory.buffer, at, 8 * lamps.length);
    lamps.forEach((lamp, i) => {
      view.set(lampNumbers(lamp), 8 * i);
    });
    return at;
  }

  private trails(
    draw: Draw & { shape: 'trails' },
    address: Address,
    count: number,
    canvas: Canvas,
  ) {
    const words = this.wordsOf(WORDS.trails, draw, address);
    words.whole({ rows: draw.rows, lanes: (count + 3) & ~3 });
    this.made(draw, canvas, 'bands', itemsOf(draw), count, words, 'fillTrails');
  }

  /** Which particles are linked; to be drawn by `paint`, as often as the swarm is repeated. */
  findLinks(draw: Draw & { shape: 'links' }, address: Address, count: number): void {
    const { pool } = this.rasteriser;
    const words = this.linkWords(draw, address, count, new Words(WORDS.links));
    const args = this.rasteriser.args(words.whole({ count, per: LINK_CHUNK }).words);
    const chunks = Math.ceil(count / LINK_CHUNK);
    pool.raster('rankLinks', chunks, args);
    pool.raster('keepLinks', chunks, args);
    pool.raster('limitLinks', 1, args);
  }

  private linkWords(
    { radius, most, total, grid, roundIds }: Draw & { shape: 'links' },
    address: Address,
    count: number,
    words: Words<keyof typeof WORDS.links.at>,
  ): Words<keyof typeof WORDS.links.at> {
    const own = (name: string, size: number): number => this.buffer(`links.${name}`, 4 * size);
    const [px, py, pz, age, life] = ['px', 'py', 'pz', 'age', 'life'].map(address);
    const [nearX, nearY, nearZ] = ['near.px', 'near.py', 'near.pz'].map(address);
    return words.real({ inverseSide: 1 / radius, radius }).whole({
      px,
      py,
      pz,
      age,
      life,
      mask: grid.cells - 1,
      most,
      totalLinks: total,
      roundIds,
      order: address('near.order'),
      start: address('near.start'),
      nearX,
      nearY,
      nearZ,
      scratch: this.scratch,
      ranks: own('ranks', count),
      kept: own('kept', count),
      ends: own('ends', count * most),
      pairRanks: own('pairs', count * most),
    });
  }

  private links(draw: Draw & { shape: 'links' }, address: Address, count: number, canvas: Canvas) {
    const { most } = draw;
    const fill = draw.fill(canvas.time);
    const perspective = canvas.camera.perspective ? 1 : 0;
    const words = this.wordsOf(WORDS.links, draw, address);
    this.linkWords(draw, address, count, words).whole({ perspective }).real({ fill });
    const pairs = (most * (most - 1)) / 2;
    if (fill > 0 && most > 1)
      this.made(draw, canvas, 'triangles', pairs, count, words, 'fillFaces');
    this.made(draw, canvas, 'bands', most, count, words, 'fillLinks');
  }
}

/** Slots in a task of the search for links. */
const LINK_CHUNK = 512;
