import {
  DISC,
  flatsOf,
  LINK,
  MARK,
  TRAIL,
  type CameraPose,
  type Draw,
  type DrawMode,
  type Lamps,
} from '@vast-swarm/core';
import type { Planes, Rasteriser } from './rasteriser';

const TILE_W = 64;
const TILE_H = 32;
const CHUNK = 8192;
const SCRATCH_PER_THREAD = 8192;
/** Bytes of what stands in lists and rooms, see assembly/bins.ts and triangles.ts. */
const DISC_ENTRY = 32;
const TRIANGLE = 88;
const BAND = 96;
/** Triangles or bands that a chunk has room for, about. */
const ROOM = 16_384;

const MODES: Record<DrawMode, number> = {
  add: 0,
  screen: 1,
  normal: 2,
  multiply: 3,
  lighten: 4,
  opaque: 5,
};
const SHAPES = { discs: 0, marks: 1, triangles: 2, bands: 3 } as const;

/** Numbers of the words in assembly/args.ts. */
const WORD = {
  ...{ COUNT: 0, WIDTH: 1, HEIGHT: 2, STRIDE: 3, PLANES: 4, COUNTS: 7, STARTS: 8, LIST: 9 },
  ...{ ORDER: 10, SPARE: 11, SCRATCH: 12, TILES_X: 13, TILES_Y: 14, MODE: 15, TOTAL: 16 },
  ...{ CHUNKS: 17, SHAPE: 18, NEAREST: 19, SOFT: 20, INVERSE: 21, ITEMS: 22, ROOM: 23 },
  ...{ ARRAYS: 24, EDGE: 40, PATTERN: 41, PARAM: 42, BLADES: 43, ASPECT: 44, PICTURE: 45 },
  ...{ PICTURE_W: 46, PICTURE_H: 47, FRAMES: 48, ASPECT_U: 49, FLATS: 50, FILLED: 68 },
};

/** What is drawn into. */
export interface Canvas {
  planes: Planes;
  /** Address of the distances of opaque things, in metres; 0 where there are none. */
  nearest: number;
  camera: CameraPose;
  lamps: Lamps;
  time: number;
}

type Address = (buffer: string) => number;
type Words = Record<number, number>;

/** Draws bodies into planes of linear light, with all threads. */
export class Painter {
  constructor(private readonly rasteriser: Rasteriser) {}

  private buffer(name: string, bytes: number): number {
    return this.rasteriser.arena.buffer(name, Math.max(16, bytes));
  }

  /** The words that all shapes share, with the draw's own. */
  private words(draw: Draw, canvas: Canvas, own: Words): number[] {
    const { planes, nearest, camera } = canvas;
    const words = new Array<number>(70).fill(0);
    const set = { [WORD.WIDTH]: planes.width, [WORD.HEIGHT]: planes.height, ...own };
    words[WORD.STRIDE] = planes.stride;
    planes.at.forEach((at, i) => (words[WORD.PLANES + i] = at));
    words[WORD.MODE] = MODES[draw.mode];
    words[WORD.NEAREST] = nearest;
    words[WORD.INVERSE] = camera.perspective ? 1 : 0;
    for (const [word, value] of Object.entries(set)) words[Number(word)] = value;
    return words;
  }

  /** Sorts what the words describe into tiles, and draws the tiles. */
  private tiles(draw: Draw, canvas: Canvas, chunks: number, own: Words, floats: Words): void {
    const { pool } = this.rasteriser;
    const { width, height } = canvas.planes;
    const [tilesX, tilesY] = [Math.ceil(width / TILE_W), Math.ceil(height / TILE_H)];
    const count = tilesX * tilesY;
    const soft = draw.soft(canvas.time);
    const numbers = { ...floats, [WORD.SOFT]: soft > 0 ? 1 / soft : 0 };
    const words = this.words(draw, canvas, {
      ...own,
      [WORD.CHUNKS]: chunks,
      [WORD.COUNTS]: this.buffer('tile.counts', 4 * count * chunks),
      [WORD.STARTS]: this.buffer('tile.starts', 4 * (count + 1)),
      [WORD.SCRATCH]: this.buffer('tile.scratch', SCRATCH_PER_THREAD * pool.threads),
      [WORD.TILES_X]: tilesX,
      [WORD.TILES_Y]: tilesY,
    });
    let args = this.rasteriser.args(words, numbers);
    pool.raster('countTiles', chunks, args);
    pool.raster('placeTiles', 1, args);
    const total = new Int32Array(pool.memory.buffer, args, 70)[WORD.TOTAL]!;
    if (total === 0) return;
    const entry = words[WORD.SHAPE] === SHAPES.discs ? DISC_ENTRY : 4;
    words[WORD.LIST] = this.buffer('tile.list', entry * total);
    if (draw.mode === 'normal') {
      words[WORD.SPARE] = this.buffer('tile.spare', 4 * total);
      words[WORD.ORDER] = this.buffer('tile.order', 4 * total);
    }
    args = this.rasteriser.args(words, numbers);
    pool.raster('fillTiles', chunks, args);
    // Filling moved the counts on, but the starts still tell where lists begin.
    pool.raster('drawTile', count, args);
  }

  /** Draws a body from the `count` entries of the buffers that its kernel filled. */
  paint(draw: Draw, address: Address, count: number, canvas: Canvas): void {
    switch (draw.shape) {
      case 'discs': {
        this.discs(draw, address, count, canvas);
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

  private discs(draw: Draw & { shape: 'discs' }, address: Address, count: number, canvas: Canvas) {
    const at = DISC.map(address);
    // A disc's radius stands for both its extents.
    const arrays = [at[0]!, at[1]!, at[2]!, at[2]!, ...at.slice(3)];
    const own: Words = { [WORD.COUNT]: count, [WORD.SHAPE]: SHAPES.discs };
    arrays.forEach((a, i) => (own[WORD.ARRAYS + i] = a));
    this.tiles(draw, canvas, Math.ceil(count / CHUNK), own, { [WORD.EDGE]: draw.edge });
  }

  private marks(draw: Draw & { shape: 'marks' }, address: Address, count: number, canvas: Canvas) {
    const { pictures, pattern, param, lens } = draw;
    const { blades, turn, ratio } = canvas.camera.lens;
    const own: Words = {
      [WORD.COUNT]: count,
      [WORD.SHAPE]: SHAPES.marks,
      [WORD.PATTERN]: pattern,
      [WORD.BLADES]: lens ? blades : -1,
    };
    MARK.map(address).forEach((a, i) => (own[WORD.ARRAYS + i] = a));
    const floats: Words = {
      [WORD.PARAM]: param,
      [WORD.ASPECT]: Math.max(1, ratio),
      [WORD.ASPECT_U]: Math.max(1, 1 / ratio),
    };
    flatsOf(blades, turn).forEach((v, i) => (floats[WORD.FLATS + i] = v));
    if (pictures) {
      own[WORD.PICTURE] = address(pictures.block);
      own[WORD.PICTURE_W] = pictures.width;
      own[WORD.PICTURE_H] = pictures.height;
      own[WORD.FRAMES] = pictures.frames;
    }
    this.tiles(draw, canvas, Math.ceil(count / CHUNK), own, floats);
  }

  /** Lets `run` fill the rooms of chunks with triangles or bands, and draws them. */
  private made(
    draw: Draw,
    canvas: Canvas,
    shape: 'triangles' | 'bands',
    each: number,
    count: number,
    fill: (items: number, filled: number, per: number, room: number) => void,
  ): void {
    const per = Math.max(1, Math.floor(ROOM / each));
    const chunks = Math.ceil(count / per);
    const room = per * each;
    const size = shape === 'triangles' ? TRIANGLE : BAND;
    const items = this.buffer('items', size * room * chunks);
    const filled = this.buffer('items.filled', 4 * chunks);
    fill(items, filled, per, room);
    const own = {
      [WORD.SHAPE]: SHAPES[shape],
      [WORD.ITEMS]: items,
      [WORD.ROOM]: room,
      [WORD.FILLED]: filled,
    };
    this.tiles(draw, canvas, chunks, own, {});
  }

  private meshes(
    draw: Draw & { shape: 'meshes' },
    address: Address,
    count: number,
    canvas: Canvas,
  ) {
    const { pool } = this.rasteriser;
    const { planes, camera, lamps } = canvas;
    const lights = this.buffer('lamps', 32 * lamps.lamps.length);
    const view = new Float32Array(pool.memory.buffer, lights, 8 * lamps.lamps.length);
    lamps.lamps.forEach(({ direction, colour, rim }, i) => {
      view.set([...direction, ...colour, rim ? 1 : 0], 8 * i);
    });
    this.made(draw, canvas, 'triangles', draw.triangles, count, (items, filled, per, room) => {
      const words = [
        ...[count, items, filled, per, room, planes.width, planes.height, 0],
        ...[camera.perspective ? 1 : 0, address(draw.mesh), draw.triangles, draw.cull ? 1 : 0],
        ...draw.outputs.map(address),
        ...[lights, lamps.lamps.length],
      ];
      const floats = { 7: camera.focal * planes.height, 30: draw.gloss(canvas.time) };
      lamps.ambient.forEach((v, i) => Object.assign(floats, { [31 + i]: v }));
      const args = this.rasteriser.args(words, floats);
      pool.raster('fillMeshes', Math.ceil(count / per), args);
    });
  }

  private trails(
    draw: Draw & { shape: 'trails' },
    address: Address,
    count: number,
    canvas: Canvas,
  ) {
    const { pool } = this.rasteriser;
    const lanes = (count + 3) & ~3;
    this.made(draw, canvas, 'bands', draw.rows - 1, count, (items, filled, per, room) => {
      const words = [count, items, filled, per, room, draw.rows, lanes, ...TRAIL.map(address)];
      pool.raster('fillTrails', Math.ceil(count / per), this.rasteriser.args(words));
    });
  }

  /** Which particles are linked; to be drawn by `paint`, as often as the swarm is repeated. */
  findLinks(draw: Draw & { shape: 'links' }, address: Address, count: number): void {
    const { pool } = this.rasteriser;
    const args = this.linkArgs(draw, address, count);
    const chunks = Math.ceil(count / LINK_CHUNK);
    pool.raster('rankLinks', chunks, args);
    pool.raster('keepLinks', chunks, args);
    pool.raster('limitLinks', 1, args);
  }

  private linkArgs(
    draw: Draw & { shape: 'links' },
    address: Address,
    count: number,
    drawn: { words: number[]; floats: Words } = { words: [], floats: {} },
  ): number {
    const { radius, most, total, grid } = draw;
    const own = (name: string, words: number): number => this.buffer(`links.${name}`, 4 * words);
    const words = [
      ...[count, ...['px', 'py', 'pz', 'near.order', 'near.start'].map(address)],
      ...[grid.cells - 1, 0, 0, most, total, own('ranks', count), own('ends', count * most)],
      ...[own('pairs', count * most), own('kept', count), LINK_CHUNK, ...drawn.words],
    ];
    while (words.length < 30) words.push(0);
    words.push(address('age'), address('life'));
    words.push(this.buffer('tile.scratch', SCRATCH_PER_THREAD * this.rasteriser.pool.threads));
    return this.rasteriser.args(words, { 7: 1 / radius, 8: radius, ...drawn.floats });
  }

  private links(draw: Draw & { shape: 'links' }, address: Address, count: number, canvas: Canvas) {
    const { pool } = this.rasteriser;
    const fill = draw.fill(canvas.time);
    const make = (shape: 'triangles' | 'bands', each: number): void => {
      this.made(draw, canvas, shape, each, count, (items, filled, per, room) => {
        const words = [
          items,
          filled,
          room,
          ...LINK.map(address),
          0,
          canvas.camera.perspective ? 1 : 0,
        ];
        const args = this.linkArgs(draw, address, count, { words, floats: { 28: fill } });
        new Int32Array(pool.memory.buffer, args, 16)[15] = per;
        pool.raster(shape === 'bands' ? 'fillLinks' : 'fillFaces', Math.ceil(count / per), args);
      });
    };
    if (fill > 0 && draw.most > 1) make('triangles', (draw.most * (draw.most - 1)) / 2);
    make('bands', draw.most);
  }
}

/** Slots in a task of the search for links. */
const LINK_CHUNK = 512;
