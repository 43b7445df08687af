import { flatsOf, type CameraPose, type Draw, type DrawMode, type Lamps } from '@vast-swarm/core';
import { bitonic, floatWord, listGroups } from './lists';
import { DEPTH_FORMAT, TARGET_FORMAT } from './formats';
import { SORT } from './shaders';
import { LINKING, LINK_LIMIT } from './shaders/linking';
import { FACES, LINKS, MEANS, MESHES, TRAILS } from './shaders/solids';
import { DISCS, MARKS } from './shaders/sprites';
import type { SwarmMemory } from './swarmMemory';
import type { Pipelines, Work } from './work';

const one = { operation: 'add', srcFactor: 'one' } as const;
const over = { ...one, dstFactor: 'one' } as const;
/** The draw modes as blending: see the CPU engine's blend.ts for their formulas. */
const BLENDS: Record<DrawMode, GPUBlendState | undefined> = {
  add: { color: over, alpha: over },
  screen: { color: { ...one, dstFactor: 'one-minus-src' }, alpha: over },
  normal: { color: { ...one, dstFactor: 'one-minus-src-alpha' }, alpha: over },
  multiply: { color: { operation: 'add', srcFactor: 'dst', dstFactor: 'zero' }, alpha: over },
  lighten: { color: { operation: 'max', srcFactor: 'one', dstFactor: 'one' }, alpha: over },
  opaque: undefined,
};
const MODES: Record<DrawMode, number> = {
  add: 0,
  screen: 1,
  normal: 2,
  multiply: 3,
  lighten: 4,
  opaque: 5,
};
/** Where a draw's own words begin. */
const OWN = 8;
const WORDS = 160;

/** What is drawn into. */
export interface Canvas {
  width: number;
  height: number;
  view: GPUTextureView;
  depth: GPUTextureView;
  /** Whether there are opaque things. */
  solid: boolean;
  camera: CameraPose;
  lamps: Lamps;
  time: number;
}

interface Items {
  shader: string;
  count: number;
  vertices: 3 | 6;
  /** Words by number. */
  own: Record<number, number>;
  /** Finds the items' depths where nothing else tells them. */
  means?: string;
}

/** Draws bodies into the target. */
export class Painter {
  private readonly orders = new Map<string, GPUBuffer>();
  /** What the search for the limit of links counts in. */
  private counts: GPUBuffer | null = null;

  constructor(private readonly pipelines: Pipelines) {}

  /** Draws a body from the `count` entries of the buffers that its kernel filled. */
  paint(work: Work, draw: Draw, memory: SwarmMemory, count: number, canvas: Canvas): void {
    for (const items of this.itemsOf(draw, memory, count, canvas)) {
      this.run(work, draw, memory, items, canvas);
    }
  }

  private itemsOf(draw: Draw, memory: SwarmMemory, count: number, canvas: Canvas): Items[] {
    const at = draw.outputs.map(memory.address);
    const own: Record<number, number> = {};
    at.forEach((a, i) => (own[OWN + i] = a));
    switch (draw.shape) {
      case 'discs':
        own[16] = floatWord(draw.edge);
        return [{ shader: DISCS, count, vertices: 6, own }];
      case 'marks':
        return [
          {
            shader: MARKS,
            count,
            vertices: 6,
            own: { ...own, ...markWords(draw, memory, canvas) },
          },
        ];
      case 'meshes': {
        const words = { ...own, ...meshWords(draw, memory, canvas) };
        const items = count * draw.triangles;
        return [{ shader: MESHES, count: items, vertices: 3, own: words, means: MEANS.meshes }];
      }
      case 'trails': {
        Object.assign(own, { 21: draw.rows, 22: (count + 3) & ~3, 23: count });
        const items = count * (draw.rows - 1);
        return [{ shader: TRAILS, count: items, vertices: 6, own, means: MEANS.trails }];
      }
      case 'links': {
        const words = { ...own, ...linkWords(draw, memory, canvas) };
        const { most } = draw;
        const lines = { shader: LINKS, vertices: 6, own: words, means: MEANS.links } as const;
        const faces = { shader: FACES, vertices: 3, own: words, means: MEANS.faces } as const;
        const filled = draw.fill(canvas.time) > 0 && most > 1;
        return [
          ...(filled ? [{ ...faces, count: count * most * most }] : []),
          { ...lines, count: count * most },
        ];
      }
    }
  }

  private run(work: Work, draw: Draw, memory: SwarmMemory, items: Items, canvas: Canvas): void {
    const { mode } = draw;
    const soft = draw.soft(canvas.time);
    const sorted = mode === 'normal';
    const opaque = mode === 'opaque';
    const words = new Array<number>(WORDS).fill(0);
    const shared = [
      ...[canvas.width, canvas.height, sorted ? 1 : 0, floatWord(soft > 0 ? 1 / soft : 0)],
      ...[canvas.solid ? 1 : 0, canvas.camera.perspective ? 1 : 0, MODES[mode], items.count],
    ];
    shared.forEach((w, i) => (words[i] = w));
    for (const [i, w] of Object.entries(items.own)) words[Number(i)] = w;
    const order = this.order(
      `${memory.id}/${draw.id}/${items.shader.length}`,
      sorted ? items.count : 1,
    );
    if (sorted) this.sort(work, memory, items, order, words);
    const state = { blend: BLENDS[mode], depth: opaque ? DEPTH_FORMAT : undefined };
    const pipeline = this.pipelines.render(
      items.shader,
      opaque ? 'opaque' : 'blended',
      TARGET_FORMAT,
      state,
    );
    const more = opaque ? [{ buffer: order }] : [{ buffer: order }, canvas.depth];
    work.draw(pipeline, canvas.view, false, memory.buffer, words, items.vertices * items.count, {
      more,
      depth: opaque ? canvas.depth : undefined,
    });
  }

  /** Brings the items far to near into an order. */
  private sort(
    work: Work,
    memory: SwarmMemory,
    items: Items,
    order: GPUBuffer,
    words: number[],
  ): void {
    const size = order.size / 4;
    let depths = items.means ? memory.address('means') : 0;
    if (items.means) {
      words[33] = depths;
      work.run(items.means, 'means', memory.buffer, words, listGroups(items.count));
    } else depths = memory.address('depth');
    bitonic(size, (k, j, groups) => {
      work.run(SORT, 'exchange', memory.buffer, [depths, 0, items.count, k, j], groups, [
        { buffer: order },
      ]);
    });
  }

  /** A buffer for the order of items: a power of two that takes them. */
  order(name: string, count: number): GPUBuffer {
    const size = 4 * 2 ** Math.ceil(Math.log2(Math.max(64, count)));
    const known = this.orders.get(name);
    if (known && known.size === size) return known;
    known?.destroy();
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_DST;
    const { device } = this.pipelines;
    const made = device.createBuffer({ size, usage });
    device.queue.writeBuffer(
      made,
      0,
      Uint32Array.from({ length: size / 4 }, (_, i) => i),
    );
    this.orders.set(name, made);
    return made;
  }

  /** Which particles are linked; to be drawn by `paint`, as often as the swarm is repeated. */
  findLinks(work: Work, draw: Draw & { shape: 'links' }, memory: SwarmMemory, count: number): void {
    const at = memory.address;
    const words = [
      ...[count, ...['px', 'py', 'pz', 'near.order', 'near.start'].map(at)],
      ...[draw.grid.cells - 1, floatWord(1 / draw.radius), floatWord(draw.radius)],
      ...[
        draw.most,
        draw.total,
        ...['ranks', 'ends', 'pairs', 'kept'].map((n) => at(`links.${n}`)),
      ],
      ...[at('age'), at('life'), at('links.limit'), 0],
    ];
    const groups = listGroups(count);
    work.run(LINKING, 'rankLinks', memory.buffer, words, groups);
    work.run(LINKING, 'keepLinks', memory.buffer, words, groups);
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_DST;
    this.counts ??= this.pipelines.device.createBuffer({ size: 4 * 260, usage });
    const counts = { buffer: this.counts };
    work.clear(this.counts);
    for (const shift of [24, 16, 8, 0]) {
      words[18] = shift;
      work.run(LINK_LIMIT, 'histogram', memory.buffer, words, groups, [counts]);
      work.run(LINK_LIMIT, 'choose', memory.buffer, words, [1, 1], [counts]);
    }
  }
}

function markWords(
  { pattern, param, lens, pictures }: Draw & { shape: 'marks' },
  memory: SwarmMemory,
  { camera }: Canvas,
): Record<number, number> {
  const { blades, turn, ratio } = camera.lens;
  const words: Record<number, number> = {
    24: pattern,
    25: floatWord(param),
    26: lens ? blades : -1,
    27: floatWord(Math.max(1, ratio)),
    28: floatWord(Math.max(1, 1 / ratio)),
  };
  flatsOf(blades, turn).forEach((v, i) => (words[34 + i] = floatWord(v)));
  if (pictures) {
    const { width, height, frames } = pictures;
    Object.assign(words, { 29: memory.address(pictures.block), 30: width, 31: height, 32: frames });
  }
  return words;
}

function meshWords(
  draw: Draw & { shape: 'meshes' },
  memory: SwarmMemory,
  { camera, lamps, height, time }: Canvas,
): Record<number, number> {
  const words: Record<number, number> = {
    24: memory.address(draw.mesh),
    25: draw.triangles,
    26: draw.cull ? 1 : 0,
    27: floatWord(camera.focal * height),
    28: floatWord(draw.gloss(time)),
    29: lamps.lamps.length,
  };
  lamps.ambient.forEach((v, i) => (words[30 + i] = floatWord(v)));
  lamps.lamps.forEach(({ direction, colour, rim }, k) => {
    [...direction, ...colour, rim ? 1 : 0].forEach(
      (v, i) => (words[36 + 8 * k + i] = floatWord(v)),
    );
  });
  return words;
}

function linkWords(
  draw: Draw & { shape: 'links' },
  memory: SwarmMemory,
  { time }: Canvas,
): Record<number, number> {
  const at = memory.address;
  return {
    17: draw.most,
    18: at('links.ends'),
    19: at('links.pairs'),
    20: at('links.kept'),
    21: at('links.limit'),
    22: at('px'),
    23: at('py'),
    24: at('pz'),
    25: floatWord(draw.radius),
    26: floatWord(draw.fill(time)),
  };
}
