import { itemsOf, MODES, sortsByMean, Words, type Draw } from '@vast-swarm/core/plan';
import type { DrawMode } from '@vast-swarm/core/kinds';
import { linkWords, markWords, meshWords, placeLinks, wordsOf, type Canvas } from './drawWords';
import { bitonic, LEAST_SORTED, listGroups } from './lists';
import { DEPTH_FORMAT, TARGET_FORMAT } from './formats';
import { SORT } from './shaders';
import { LINKING, LINK_LIMIT } from './shaders/linking';
import { COPIES, COPY_LISTS, MESHES, POINTS } from './shaders/copies';
import { FACES, LINKS, MEANS, TRAILS } from './shaders/solids';
import { DISCS, MARKS } from './shaders/sprites';
import type { SwarmMemory } from './swarmMemory';
import { WORDS } from './words';
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
type SharedWords = Words<keyof typeof WORDS.shared.at>;

interface Items {
  shader: string;
  count: number;
  vertices: 3 | 6;
  words: SharedWords;
  /** Finds the items' depths where nothing else tells them. */
  means?: string;
}

/** Constants of the shaders that draw: values that are fixed while a body is drawn need not be asked at each pixel. */
function constantsOf({ mode }: Draw, { fine }: Canvas): Record<string, number> {
  return { drawMode: MODES.indexOf(mode), sorted: mode === 'normal' ? 1 : 0, solid: fine ? 1 : 0 };
}

/** Draws bodies into the target. */
export class Painter {
  private readonly orders = new Map<string, GPUBuffer>();
  /** Counters of the search for the limit of links. */
  private counts: GPUBuffer | null = null;

  constructor(private readonly pipelines: Pipelines) {}

  /** Draws a body from the `count` entries of the buffers that its kernel filled. */
  paint(work: Work, draw: Draw, memory: SwarmMemory, count: number, canvas: Canvas): void {
    if (draw.shape === 'meshes' && draw.mode === 'opaque') {
      this.copies(work, draw, memory, count, canvas);
      return;
    }
    for (const items of this.thingsOf(draw, memory, count, canvas)) {
      this.run(work, draw, memory, items, canvas);
    }
  }

  private thingsOf(draw: Draw, memory: SwarmMemory, count: number, canvas: Canvas): Items[] {
    switch (draw.shape) {
      case 'discs': {
        const words = wordsOf(WORDS.discs, draw, memory).real({ edge: draw.edge });
        return [{ shader: DISCS, count, vertices: 6, words }];
      }
      case 'marks': {
        const words = markWords(draw, memory, canvas);
        return [{ shader: MARKS, count, vertices: 6, words }];
      }
      case 'meshes': {
        const words = meshWords(draw, memory, canvas);
        const items = count * itemsOf(draw);
        return [{ shader: MESHES, count: items, vertices: 3, words, means: MEANS.meshes }];
      }
      case 'trails': {
        const words = wordsOf(WORDS.trails, draw, memory);
        words.whole({ rows: draw.rows, lanes: (count + 3) & ~3 });
        const items = count * itemsOf(draw);
        return [{ shader: TRAILS, count: items, vertices: 6, words, means: MEANS.trails }];
      }
      case 'links': {
        const words = linkWords(draw, memory, canvas);
        const { most } = draw;
        const lines = { shader: LINKS, vertices: 6, words, means: MEANS.links } as const;
        const faces = { shader: FACES, vertices: 3, words, means: MEANS.faces } as const;
        const filled = draw.fill(canvas.time) > 0 && most > 1;
        return [
          ...(filled ? [{ ...faces, count: count * itemsOf(draw) }] : []),
          { ...lines, count: count * most },
        ];
      }
    }
  }

  /** Opaque copies: each in a form as fine as it is large, so that small ones cost little. */
  private copies(
    work: Work,
    draw: Draw & { shape: 'meshes' },
    memory: SwarmMemory,
    count: number,
    canvas: Canvas,
  ): void {
    const { width, height, camera } = canvas;
    const words = meshWords(draw, memory, canvas).whole({
      width,
      height,
      items: count,
      inverse: camera.perspective ? 1 : 0,
    });
    const lists = draw.levels.length + 1;
    const order = this.storage(`${memory.id}/${draw.id}/copies`, 4 * lists * count);
    const calls = this.storage(`${memory.id}/${draw.id}/calls`, 16 * lists);
    work.clear(calls);
    work.run(COPY_LISTS, 'main', memory.buffer, words.words, listGroups(count), [
      { buffer: calls },
      { buffer: order },
    ]);
    const { view, depth, samples } = canvas.fine!;
    const state = { depth: DEPTH_FORMAT, samples, constants: constantsOf(draw, canvas) };
    for (let list = 0; list < lists; list++) {
      const shader = list < lists - 1 ? COPIES : POINTS;
      const pipeline = this.pipelines.render(shader, 'opaque', TARGET_FORMAT, state);
      words.whole({ list });
      work.draw(pipeline, view, false, memory.buffer, words.words, 0, {
        more: [{ buffer: order }],
        depth,
        indirect: { buffer: calls, offset: 16 * list },
      });
    }
  }

  /** A buffer of that name with room for so many bytes. */
  private storage(name: string, size: number): GPUBuffer {
    const known = this.orders.get(name);
    if (known && known.size >= size) return known;
    known?.destroy();
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_DST | GPUBufferUsage.INDIRECT;
    const made = this.pipelines.device.createBuffer({ size: Math.max(16, size), usage });
    this.orders.set(name, made);
    return made;
  }

  private run(work: Work, draw: Draw, memory: SwarmMemory, items: Items, canvas: Canvas): void {
    const { mode } = draw;
    const soft = draw.soft(canvas.time);
    const sorted = mode === 'normal';
    const opaque = mode === 'opaque';
    const { width, height, fine, camera } = canvas;
    items.words.real({ soft: soft > 0 ? 1 / soft : 0 }).whole({
      width,
      height,
      items: items.count,
      inverse: camera.perspective ? 1 : 0,
      means: sortsByMean(draw) ? memory.address('means') : 0,
    });
    const { words } = items.words;
    const order = this.order(
      `${memory.id}/${draw.id}/${items.shader.length}`,
      sorted ? items.count : 1,
    );
    if (sorted) this.sort(work, draw, memory, items, order);
    const samples = opaque ? fine!.samples : 1;
    const constants = constantsOf(draw, canvas);
    const depth = opaque ? DEPTH_FORMAT : undefined;
    const state = { blend: BLENDS[mode], depth, samples, constants };
    const pipeline = this.pipelines.render(
      items.shader,
      opaque ? 'opaque' : 'blended',
      TARGET_FORMAT,
      state,
    );
    const more = opaque ? [{ buffer: order }] : [{ buffer: order }, canvas.depth];
    const view = opaque ? fine!.view : canvas.view;
    work.draw(pipeline, view, false, memory.buffer, words, items.vertices * items.count, {
      more,
      depth: opaque ? fine!.depth : undefined,
    });
  }

  /** Brings the items far to near into an order. */
  private sort(
    work: Work,
    draw: Draw,
    memory: SwarmMemory,
    { count, means, words }: Items,
    order: GPUBuffer,
  ): void {
    const depths = memory.address(sortsByMean(draw) ? 'means' : 'depth');
    if (means) work.run(means, 'means', memory.buffer, words.words, listGroups(count));
    bitonic(order.size / 4, (stages, k, j, groups) => {
      const about = [depths, 0, count, k, j];
      work.run(SORT, `stages${String(stages)}`, memory.buffer, about, groups, [{ buffer: order }]);
    });
  }

  /** A buffer for the order of items: a power of two that takes them, `LEAST_SORTED` at least. */
  order(name: string, count: number): GPUBuffer {
    const size = 4 * 2 ** Math.ceil(Math.log2(Math.max(LEAST_SORTED, count)));
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
    const words = new Words(WORDS.links).whole({ items: count });
    const { words: block } = placeLinks(words, draw, memory);
    const groups = listGroups(count);
    work.run(LINKING, 'rankLinks', memory.buffer, block, groups);
    work.run(LINKING, 'keepLinks', memory.buffer, block, groups);
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_DST;
    this.counts ??= this.pipelines.device.createBuffer({ size: 4 * 260, usage });
    const counts = { buffer: this.counts };
    work.clear(this.counts);
    for (const shift of [24, 16, 8, 0]) {
      words.whole({ shift });
      work.run(LINK_LIMIT, 'histogram', memory.buffer, block, groups, [counts]);
      work.run(LINK_LIMIT, 'choose', memory.buffer, block, [1, 1], [counts]);
    }
  }
}
