import { fromLinear, linearRgb } from '@vast-swarm/core/feeds';
import { makeChoice, type Piece } from '@vast-swarm/core/piece';
import { sceneInputs } from '@vast-swarm/core/play';
import type { Plan } from '@vast-swarm/core/plan';
import type { GpuEngine } from '@vast-swarm/gpu';
import type { Size } from '../library/render';
import { LIGHT, type BareDevice } from './bareDevice';
import type { Sides } from './contest';

export const SIZE: Size = { width: 960, height: 540 };
export const BACKDROP = '#05090b';

/** Camera and frame, which all is drawn with; and what a swarm looks like, as `lookWords` has it. */
export const VIEW = /* wgsl */ `
struct Look { colour: vec3f, opacity: f32, size: f32 }
struct View { eye: vec3f, focal: f32, right: vec3f, near: f32, up: vec3f, width: f32, forward: vec3f, height: f32 }
@group(0) @binding(0) var<uniform> view: View;
/** Pixels from the upper left, and metres from the camera. */
fn seen(place: vec3f) -> vec3f {
  let way = place - view.eye;
  let depth = dot(way, view.forward);
  let scale = view.focal * view.height / max(depth, 1e-4);
  return vec3f(
    0.5 * view.width + dot(way, view.right) * scale,
    0.5 * view.height - dot(way, view.up) * scale,
    depth,
  );
}
fn onScreen(pixel: vec2f) -> vec4f {
  return vec4f(pixel.x / view.width * 2.0 - 1.0, 1.0 - pixel.y / view.height * 2.0, 0.0, 1.0);
}
`;

/** A corner of a band between two places, and its light: soft edges as hard as bodies have them. */
export const BAND = /* wgsl */ `
const EDGE = 6.76;
struct Corner {
  @builtin(position) at: vec4f,
  @location(0) across: f32,
  @location(1) light: vec3f,
  @location(2) @interpolate(flat) edge: f32,
}
/** Of six vertices: whether it is at the band's end, and on which side. */
fn atEnd(k: u32) -> bool { return k == 2u || k == 3u || k == 5u; }
fn sideOf(k: u32) -> f32 { return select(-1.0, 1.0, k == 1u || k == 4u || k == 5u); }
fn edgeOf(half: f32) -> f32 { return min(max(0.6 * half, 1.0), EDGE); }
@fragment fn light(in: Corner) -> @location(0) vec4f {
  let t = min((1.0 - in.across * in.across) * in.edge, 1.0);
  return vec4f(in.light * (t * t), 1.0);
}
`;

export const ADDED: GPUBlendComponent = { operation: 'add', srcFactor: 'one', dstFactor: 'one' };

/** In front of the backdrop that is drawn by hand. */
export function before(piece: Piece): void {
  piece.backdrop = makeChoice('backdrops', 'flat');
  piece.backdrop.dials.colour = BACKDROP;
}

export function lookWords({ swarms }: Piece): Float32Array {
  const { colour, opacity, size } = swarms[0]!.dials as {
    colour: string;
    opacity: number;
    size: number;
  };
  return Float32Array.from([...linearRgb(colour), opacity, size, 0, 0, 0]);
}

export function viewWords(plan: Plan, frame: number): Float32Array {
  const { camera } = sceneInputs(plan, frame, SIZE, 0);
  const { eye, right, up, forward, focal, near } = camera;
  return Float32Array.from([
    ...eye,
    focal,
    ...right,
    near,
    ...up,
    SIZE.width,
    ...forward,
    SIZE.height,
  ]);
}

const FINISH = /* wgsl */ `
@group(0) @binding(0) var target_: texture_2d<f32>;
@vertex fn corner(@builtin(vertex_index) i: u32) -> @builtin(position) vec4f {
  return vec4f(f32(i & 1u) * 4.0 - 1.0, f32(i >> 1u) * 4.0 - 1.0, 0.0, 1.0);
}
fn hash(x: u32) -> u32 {
  var h = (x ^ (x >> 16u)) * 0x7feb352du;
  h = (h ^ (h >> 15u)) * 0x846ca68bu;
  return h ^ (h >> 16u);
}
@fragment fn light(@builtin(position) at: vec4f) -> @location(0) vec4f {
  let pixel = vec2u(at.xy);
  let c = clamp(textureLoad(target_, pixel, 0).rgb, vec3f(0.0), vec3f(1.0));
  let coded = select(1.055 * pow(c, vec3f(1.0 / 2.4)) - 0.055, c * 12.92, c <= vec3f(0.0031308));
  let h = hash((pixel.y << 16u) ^ pixel.x);
  let dither = (f32(h & 0xffffu) + f32(h >> 16u)) / 65536.0 - 1.0;
  return vec4f(coded + dither / 255.0, 1.0);
}
`;

/** A frame by hand: bodies over a flat backdrop in linear light, then dither and the curve of sRGB. */
export class Frame {
  readonly target: GPUTexture;
  private readonly shown: GPUTexture;
  private readonly finish: GPURenderPipeline;
  private readonly out: GPUBuffer;

  constructor(private readonly bare: BareDevice) {
    this.target = bare.texture(SIZE, LIGHT);
    this.shown = bare.texture(SIZE, 'rgba8unorm');
    this.finish = bare.render(FINISH, 'rgba8unorm');
    this.out = bare.buffer(4 * SIZE.width * SIZE.height, GPUBufferUsage.COPY_SRC);
  }

  /** Bodies alone, over what is there or over the backdrop. */
  bodies(encoder: GPUCommandEncoder, draw: Drawn, over: 'all' | 'backdrop' = 'backdrop'): void {
    const [r, g, b] = linearRgb(BACKDROP);
    const loadOp = over === 'all' ? 'load' : 'clear';
    const pass = begin(encoder, this.target, loadOp, { r, g, b, a: 1 });
    draw(pass);
    pass.end();
  }

  /** All of a frame, brought over. */
  draw(draw: Drawn, before: (encoder: GPUCommandEncoder) => void = () => undefined) {
    this.bare.submit((encoder) => {
      before(encoder);
      this.bodies(encoder, draw);
      this.show(encoder, this.target);
    });
    return this.bare.read(this.out);
  }

  /** What stands in a target, finished and brought over. */
  pictureOf(target: GPUTexture): Promise<ArrayBuffer> {
    this.bare.submit((encoder) => {
      this.show(encoder, target);
    });
    return this.bare.read(this.out);
  }

  private show(encoder: GPUCommandEncoder, target: GPUTexture): void {
    const pass = begin(encoder, this.shown, 'clear', { r: 0, g: 0, b: 0, a: 1 });
    pass.setPipeline(this.finish);
    pass.setBindGroup(0, this.bare.bind(this.finish, { 0: target.createView() }));
    pass.draw(3);
    pass.end();
    const to = { buffer: this.out, bytesPerRow: 4 * SIZE.width };
    encoder.copyTextureToBuffer({ texture: this.shown }, to, [SIZE.width, SIZE.height]);
  }
}

export type Drawn = (pass: GPURenderPassEncoder) => void;

function begin(
  encoder: GPUCommandEncoder,
  to: GPUTexture,
  loadOp: GPULoadOp,
  clearValue: GPUColorDict,
): GPURenderPassEncoder {
  const attachment = { view: to.createView(), clearValue, loadOp, storeOp: 'store' } as const;
  return encoder.beginRenderPass({ colorAttachments: [attachment] });
}

/** All of a frame by the engine, and by hand from what draws its bodies. */
export function wholeFrames(
  engine: GpuEngine,
  bare: BareDevice,
  draw: Drawn,
  before?: (encoder: GPUCommandEncoder) => void,
): Sides {
  const frame = new Frame(bare);
  const ours = (): Promise<Uint8ClampedArray> => engine.readFrame(SIZE.width, SIZE.height);
  const byHand = (): Promise<ArrayBuffer> => frame.draw(draw, before);
  const agree = async (): Promise<void> => {
    agreed((await ours()).buffer, await byHand());
  };
  return { ours, byHand, agree };
}

/**
 * Throws where two pictures are farther apart than their dithers, in steps of 255 in the mean; or where the
 * bodies of one have more light than those of the other.
 */
export function agreed(ours: ArrayBufferLike, byHand: ArrayBufferLike): void {
  const [one, other] = [new Uint8Array(ours), new Uint8Array(byHand)];
  const meanOf = (of: (i: number) => number): number =>
    one.reduce((sum, _, i) => sum + of(i), 0) / one.length;
  const apart = meanOf((i) => Math.abs(one[i]! - other[i]!));
  if (!(apart < 1)) throw new Error(`the pictures are ${String(apart)} of 255 apart in the mean`);
  const ground = linearRgb(BACKDROP).map((light) => 255 * fromLinear(light));
  const above = (i: number): number => (i % 4 === 3 ? 0 : ground[i % 4]!);
  const [lit, otherLit] = [one, other].map((all) =>
    meanOf((i) => (i % 4 === 3 ? 0 : all[i]! - above(i))),
  ) as [number, number];
  if (!(lit > 1)) throw new Error(`there is nothing in the picture (${String(lit)} of 255)`);
  if (Math.abs(lit / otherLit - 1) < 0.03) return;
  throw new Error(`bodies have light of ${String(lit)} in the mean, by hand ${String(otherLit)}`);
}
