import {
  bloomLevels,
  blurLevels,
  type Bloom,
  type BloomLevel,
  type Plan,
} from '@vast-swarm/core/plan';
import { PLANES, strideOf, type BlockTrack } from '@vast-swarm/core/kinds';
import { floatWord, listGroups } from './lists';
import { DEPTH_FORMAT, TARGET_FORMAT } from './formats';
import {
  ADD,
  BLOOM,
  DEPTH_TO_PLANE,
  FINE_DEPTH,
  PLANES_TO_TARGET,
  TARGET_TO_PLANES,
} from './shaders';
import { blockLayout, blockName } from './swarmMemory';
import type { Pipelines, Work } from './work';

/** Planes of linear light in the frame's memory. */
export interface Planes {
  width: number;
  height: number;
  stride: number;
  /** Words where red, green, blue begin. */
  at: [number, number, number];
}

/** Samples of a pixel by which opaque things are drawn. */
const SAMPLES = 4;

/** Target of opaque things. */
export interface Fine {
  view: GPUTextureView;
  depth: GPUTextureView;
  samples: number;
}

type Layout = [name: string, words: number][];

/** Layout of the frame's memory, in order: sets of planes, words, tables and blocks. */
function layoutOf(plan: Plan, width: number, height: number): Layout {
  const plane = strideOf(width) * height;
  const { steps, tables, blocks, tracks } = plan.finish;
  const remembered = steps.flatMap((s) => (s.type === 'remember' ? [s.id] : []));
  const sets = [
    // Nothing is ever written into 'black': it stays as the buffer was made.
    'frame',
    'sum',
    'was',
    'turn',
    'black',
    ...(plan.shadows ? ['shadow'] : []),
    ...[...plan.layers.keys()].map((id) => `layer/${id}`),
    ...remembered.flatMap((id) => [`memory/${id}/a`, `memory/${id}/b`]),
  ];
  return [
    ...sets.map((name): [string, number] => [name, 3 * plane]),
    ['out', plane],
    ...(plan.solidLens ? ([['near', plane]] as Layout) : []),
    // All levels of bloom together take a third of the frame, and some rounding up.
    ['levels', plane + 12 * (strideOf(width) + height + 64) * 4],
    ...[...tracks].map(([name, { words }]): [string, number] => [name, words]),
    ...new Map([...plan.finish.fields, ...plan.mediumLayers.fields]),
    ['tables', Math.max(4, tables.length)],
    ['layerTables', Math.max(4, plan.mediumLayers.tables.length)],
    ...blockLayout(blocks),
  ];
}

/** The frame: a target that is drawn into, and all that backdrop and finish need in one buffer. */
export class FrameMemory {
  readonly buffer: GPUBuffer;
  readonly target: GPUTexture;
  /** Of opaque things: a texture of one pixel until there are any. */
  depth: GPUTexture;
  private fine: { target: GPUTexture; depth: GPUTexture } | null = null;
  private readonly places = new Map<string, number>();
  private readonly layout: string;
  private readonly written = new Map<string, Float32Array>();

  constructor(
    private readonly device: GPUDevice,
    plan: Plan,
    readonly width: number,
    readonly height: number,
  ) {
    const layout = layoutOf(plan, width, height);
    this.layout = JSON.stringify(layout);
    let words = 0;
    for (const [name, size] of layout) {
      this.places.set(name, words);
      words += size;
    }
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    this.buffer = device.createBuffer({ size: 4 * words, usage });
    this.target = device.createTexture({
      size: [width, height],
      format: TARGET_FORMAT,
      usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING,
    });
    this.depth = this.depthOf(1, 1);
  }

  fits(plan: Plan, width: number, height: number): boolean {
    if (width !== this.width || height !== this.height) return false;
    return JSON.stringify(layoutOf(plan, width, height)) === this.layout;
  }

  /**
   * Brings over tables, and data that is not there yet.
   *
   * @param take what a track is in the frame that is drawn
   */
  write({ finish, mediumLayers }: Plan, take: (track: BlockTrack) => Float32Array): void {
    const put = (name: string, values: Float32Array): void => {
      if (values.length === 0 || this.written.get(name) === values) return;
      this.written.set(name, values);
      const at = 4 * this.place(name);
      this.device.queue.writeBuffer(this.buffer, at, values as Float32Array<ArrayBuffer>);
    };
    for (const [name, track] of finish.tracks) put(name, take(track));
    put('tables', finish.tables);
    put('layerTables', mediumLayers.tables);
    [...finish.blocks].forEach(([name, values], i) => {
      this.places.set(name, this.place(blockName(i)));
      put(blockName(i), values);
    });
  }

  destroy(): void {
    this.buffer.destroy();
    this.target.destroy();
    this.depth.destroy();
    this.fine?.target.destroy();
    this.fine?.depth.destroy();
  }

  /** Word where something begins. */
  place(name: string): number {
    const at = this.places.get(name);
    if (at === undefined) throw new Error(`gpu: the frame has no '${name}'`);
    return at;
  }

  planes(name: string): Planes {
    const { width, height } = this;
    const stride = strideOf(width);
    const [at, plane] = [this.place(name), stride * height];
    return { width, height, stride, at: [at, at + plane, at + 2 * plane] };
  }

  private depthOf(width: number, height: number): GPUTexture {
    return this.device.createTexture({
      size: [width, height],
      format: DEPTH_FORMAT,
      usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING,
    });
  }

  /**
   * Readies what opaque things are drawn into, by several samples a pixel: the light of a set of planes, and
   * depths to begin with.
   */
  beginSolids(work: Work, set: string, pipelines: Pipelines): Fine {
    if (!this.fine) {
      const size = [this.width, this.height];
      const usage = GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING;
      const make = (format: GPUTextureFormat): GPUTexture =>
        this.device.createTexture({ size, format, usage, sampleCount: SAMPLES });
      this.fine = { target: make(TARGET_FORMAT), depth: make(DEPTH_FORMAT) };
      // Commands that are not on their way yet may still name the small one: it is only let go.
      this.depth = this.depthOf(this.width, this.height);
    }
    const view = this.fine.target.createView();
    const depth = this.fine.depth.createView();
    const fill = pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT, { samples: SAMPLES });
    work.draw(fill, view, true, this.buffer, this.words(set), 3);
    work.clearDepth(depth);
    return { view, depth, samples: SAMPLES };
  }

  /** Brings opaque things to the target, and their depths to where others look them up. */
  endSolids(work: Work, { view, depth }: Fine, pipelines: Pipelines): void {
    work.resolve(view, this.target.createView());
    const to = this.depth.createView();
    work.clearDepth(to);
    const pipeline = pipelines.render(FINE_DEPTH, 'nearest', null, { depth: DEPTH_FORMAT });
    work.draw(pipeline, null, false, this.buffer, [], 3, { more: [depth], depth: to });
  }

  /** Where a kernel over the planes of a set finds its buffers. */
  address(set: string): (name: string) => number {
    const { at } = this.planes(set);
    return (name) => at[PLANES.indexOf(name as 'r')] ?? this.place(name);
  }

  /** Words for the shaders that know planes: three planes, stride, out, size. */
  words(set: string): number[] {
    const { at, stride } = this.planes(set);
    return [...at, stride, this.place('out'), this.width, this.height];
  }

  private groups(width: number, height: number): [number, number] {
    return [Math.ceil(width / 8), Math.ceil(height / 8)];
  }

  targetToPlanes(work: Work, set: string): void {
    const groups = this.groups(this.width, this.height);
    const view = this.target.createView();
    work.run(TARGET_TO_PLANES, 'main', this.buffer, this.words(set), groups, [view]);
  }

  /** Distances of opaque things in metres into the plane `near`. */
  depthToPlane(work: Work, perspective: boolean): void {
    const words = [this.place('near'), strideOf(this.width), this.width, this.height];
    const groups = this.groups(this.width, this.height);
    work.run(DEPTH_TO_PLANE, 'main', this.buffer, [...words, perspective ? 1 : 0], groups, [
      this.depth.createView(),
    ]);
  }

  /** to = keep · to + gain · from, of whole sets of planes. */
  add(work: Work, from: string, to: string, keep: number, gain: number): void {
    const count = 3 * strideOf(this.width) * this.height;
    const words = [this.place(from), this.place(to), count, floatWord(keep), floatWord(gain)];
    work.run(ADD, 'main', this.buffer, words, listGroups(count));
  }

  private pyramid(levels: readonly BloomLevel[]): Planes[] {
    let top = this.place('levels');
    return levels.map(({ width, height, stride }) => {
      const plane = stride * height;
      const at: Planes['at'] = [top, top + plane, top + 2 * plane];
      top += 3 * plane;
      return { width, height, stride, at };
    });
  }

  private between(work: Work, from: Planes, to: Planes, entry: string, a: number, b: number): void {
    const part = (p: Planes): number[] => [...p.at, p.width, p.height, p.stride];
    const words = [...part(from), ...part(to), floatWord(a), floatWord(b)];
    work.run(BLOOM, entry, this.buffer, words, this.groups(to.width, to.height));
  }

  /** Down the pyramid and up again; the frame keeps `own` of itself. */
  private spread(
    work: Work,
    set: string,
    levels: readonly BloomLevel[],
    threshold: number,
    own: number,
    amount: number,
  ): void {
    const frame = this.planes(set);
    const pyramid = this.pyramid(levels);
    pyramid.forEach((to, i) => {
      this.between(work, pyramid[i - 1] ?? frame, to, 'halve', i === 0 ? threshold : 0, 0);
    });
    let gain = levels.at(-1)!.weight;
    for (let i = levels.length - 2; i >= 0; i--) {
      this.between(work, pyramid[i + 1]!, pyramid[i]!, 'addDoubled', levels[i]!.weight, gain);
      gain = 1;
    }
    this.between(work, pyramid[0]!, frame, 'addDoubled', own, gain * amount);
  }

  bloom(work: Work, set: string, { radius, threshold, amount }: Bloom): void {
    this.spread(work, set, bloomLevels(this.width, this.height, radius), threshold, 1, amount);
  }

  blur(work: Work, set: string, radius: number): void {
    const { levels, own } = blurLevels(this.width, this.height, radius);
    if (levels.length > 0) this.spread(work, set, levels, 0, own, 1);
  }
}
