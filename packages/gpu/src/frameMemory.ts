import { bloomLevels, PLANES, strideOf, type Bloom, type BloomLevel } from '@vast-swarm/core';
import { BLOOM, TARGET_TO_PLANES } from './shaders';
import type { Work } from './work';

export const TARGET_FORMAT: GPUTextureFormat = 'rgba16float';

interface Planes {
  width: number;
  height: number;
  stride: number;
  /** Words where red, green, blue begin. */
  at: [number, number, number];
}

const bits = new DataView(new ArrayBuffer(4));
export function floatWord(value: number): number {
  bits.setFloat32(0, value);
  return bits.getInt32(0);
}

/** The frame: a target that is drawn into, and planes for backdrop and finish in one buffer. */
export class FrameMemory {
  readonly buffer: GPUBuffer;
  readonly target: GPUTexture;
  readonly planes: Planes;
  readonly out: number;
  private readonly levelsAt: number;

  constructor(
    device: GPUDevice,
    readonly width: number,
    readonly height: number,
  ) {
    const stride = strideOf(width);
    const plane = stride * height;
    this.planes = { width, height, stride, at: [0, plane, 2 * plane] };
    this.out = 3 * plane;
    this.levelsAt = 4 * plane;
    // All levels of bloom together take a third of the frame, and some rounding up.
    const size = 4 * (5 * plane + 3 * 4 * (stride + height + 64) * 4);
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    this.buffer = device.createBuffer({ size, usage });
    this.target = device.createTexture({
      size: [width, height],
      format: TARGET_FORMAT,
      usage: GPUTextureUsage.RENDER_ATTACHMENT | GPUTextureUsage.TEXTURE_BINDING,
    });
  }

  destroy(): void {
    this.buffer.destroy();
    this.target.destroy();
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
