import { bloomLevels, PLANES, strideOf, type Bloom, type BloomLevel } from '@vast-swarm/core';
import { floatWord, listGroups } from './lists';
import { DEPTH_FORMAT } from './painter';
import { ADD, BLOOM, TARGET_TO_PLANES } from './shaders';
import type { Work } from './work';

export const TARGET_FORMAT: GPUTextureFormat = 'rgba16float';

interface Planes {
  width: number;
  height: number;
  stride: number;
  /** Words where red, green, blue begin. */
  at: [number, number, number];
}

/** The frame: a target that is drawn into, and planes for backdrop and finish in one buffer. */
export class FrameMemory {
  readonly buffer: GPUBuffer;
  readonly target: GPUTexture;
  /** Of opaque things: a texture of one pixel until there are any. */
  depth: GPUTexture;
  readonly planes: Planes;
  readonly out: number;
  private readonly levelsAt: number;

  constructor(
    private readonly device: GPUDevice,
    readonly width: number,
    readonly height: number,
  ) {
    const stride = strideOf(width);
    const plane = stride * height;
    this.planes = { width, height, stride, at: [0, plane, 2 * plane] };
    this.out = 3 * plane;
    // Behind the planes and the words: planes for sums over moments, then the levels of bloom.
    this.levelsAt = 7 * plane;
    // All levels of bloom together take a third of the frame, and some rounding up.
    const size = 4 * (8 * plane + 3 * 4 * (stride + height + 64) * 4);
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    this.buffer = device.createBuffer({ size, usage });
    this.target = device.createTexture({
      size: [width, height],
      format: TARGET_FORMAT,
      usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING,
    });
    this.depth = this.depthOf(1, 1);
  }

  private depthOf(width: number, height: number): GPUTexture {
    return this.device.createTexture({
      size: [width, height],
      format: DEPTH_FORMAT,
      usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING,
    });
  }

  /** Readies the depths of opaque things. */
  clearDepth(work: Work): void {
    if (this.depth.width !== this.width || this.depth.height !== this.height) {
      this.depth.destroy();
      this.depth = this.depthOf(this.width, this.height);
    }
    work.clearDepth(this.depth.createView());
  }

  /** sum = keep · sum + gain · planes, or the other way round. */
  private addPlanes(work: Work, from: number, to: number, keep: number, gain: number): void {
    const count = 3 * this.planes.stride * this.height;
    const words = [from, to, count, floatWord(keep), floatWord(gain)];
    work.run(ADD, 'main', this.buffer, words, listGroups(count));
  }

  /** Adds a moment's planes to their sum; the first one begins it. */
  addMoment(work: Work, first: boolean, part: number): void {
    this.addPlanes(work, 0, this.out + this.planes.stride * this.height, first ? 0 : 1, part);
  }

  takeSum(work: Work): void {
    this.addPlanes(work, this.out + this.planes.stride * this.height, 0, 0, 1);
  }

  destroy(): void {
    this.buffer.destroy();
    this.target.destroy();
    this.depth.destroy();
  }

  address = (name: string): number =>
    name === 'out' ? this.out : this.planes.at[PLANES.indexOf(name as 'r')]!;

  /** Words for the shaders that know planes: three planes, stride, out, size. */
  get words(): number[] {
    return [...this.planes.at, this.planes.stride, this.out, this.width, this.height];
  }

  private groups(width: number, height: number): [number, number] {
    return [Math.ceil(width / 8), Math.ceil(height / 8)];
  }

  targetToPlanes(work: Work): void {
    const groups = this.groups(this.width, this.height);
    work.run(TARGET_TO_PLANES, 'main', this.buffer, this.words, groups, [this.target.createView()]);
  }

  bloom(work: Work, step: Bloom): void {
    const levels = bloomLevels(this.width, this.height, step.radius);
    let top = this.levelsAt;
    const pyramid = levels.map(({ width, height, stride }: BloomLevel): Planes => {
      const plane = stride * height;
      const at: Planes['at'] = [top, top + plane, top + 2 * plane];
      top += 3 * plane;
      return { width, height, stride, at };
    });
    const between = (from: Planes, to: Planes, entry: string, a: number, b: number): void => {
      const part = (p: Planes): number[] => [...p.at, p.width, p.height, p.stride];
      const words = [...part(from), ...part(to), floatWord(a), floatWord(b)];
      work.run(BLOOM, entry, this.buffer, words, this.groups(to.width, to.height));
    };
    pyramid.forEach((to, i) => {
      between(pyramid[i - 1] ?? this.planes, to, 'halve', i === 0 ? step.threshold : 0, 0);
    });
    let gain = levels.at(-1)!.weight;
    for (let i = levels.length - 2; i >= 0; i--) {
      between(pyramid[i + 1]!, pyramid[i]!, 'addDoubled', levels[i]!.weight, gain);
      gain = 1;
    }
    between(pyramid[0]!, this.planes, 'addDoubled', 1, gain * step.amount);
  }
}
