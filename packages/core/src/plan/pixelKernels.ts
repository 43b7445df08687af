import { hash, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../catalogue';
import type { Pixel, PixelFinishKind } from '../catalogue/kinds';
import type { Part } from '../piece/schema';
import { DialReader } from './dialReader';
import { KernelBuilder, type PlanKernel } from './kernelBuilder';
import type { Scene } from './scene';

/** The frame's planes of linear light; a row takes `stride` lanes, a multiple of 4. */
export const PLANES = ['r', 'g', 'b'] as const;

/** Lanes of one row of a frame. */
export function strideOf(width: number): number {
  return (width + 3) & ~3;
}

export type FinishStep =
  { type: 'pixels'; kernel: PlanKernel } | { type: 'bloom'; at: (time: number) => Bloom };

/** Bloom's dials at a time. */
export interface Bloom {
  amount: number;
  threshold: number;
  radius: number;
}

function pixelOf(builder: KernelBuilder): Pixel {
  const g = builder.graph;
  const lane = g.lane();
  const stride = builder.uniform('stride', (f) => strideOf(f.width), 'i32');
  const inverse = builder.uniform('inverseStride', (f) => 1 / strideOf(f.width));
  // The quotient in single precision is at most one off; the rest tells which way.
  const guess = lane.toFloat().mul(inverse).floor().toInt();
  const rest = lane.sub(guess.mul(stride));
  const row = rest.lt(0).select(guess.sub(1), rest.ge(stride).select(guess.add(1), guess));
  const column = lane.sub(row.mul(stride));
  return {
    x: column.toFloat().add(0.5),
    y: row.toFloat().add(0.5),
    width: builder.uniform('width', (f) => f.width),
    height: builder.uniform('height', (f) => f.height),
    key: hash(row.shl(16).xor(column).xor(builder.frameKey())),
  };
}

function readerOf(
  builder: KernelBuilder,
  scope: string,
  shelf: 'finish' | 'backdrops',
  part: Pick<Part, 'kind' | 'dials'>,
): DialReader {
  return new DialReader(builder, scope, kindOf(shelf, part.kind).dials, part.dials);
}

/** Fills the frame's planes. */
export function backdropKernel(scene: Scene): PlanKernel {
  const builder = new KernelBuilder(scene);
  const { backdrop } = scene.piece;
  const kind = kindOf('backdrops', backdrop.kind);
  const reader = readerOf(builder, 'backdrop', 'backdrops', backdrop);
  const colour = kind.build(reader, pixelOf(builder));
  colour.parts.forEach((e, i) => builder.graph.store(PLANES[i]!, e));
  return builder;
}

/** The finish chain: neighbours that look at single pixels share one kernel; the last one encodes. */
export function finishSteps(scene: Scene): FinishStep[] {
  const steps: FinishStep[] = [];
  let pending: Part[] = [];
  const flush = (last: boolean): void => {
    if (pending.length > 0 || last) {
      steps.push({ type: 'pixels', kernel: pixelsKernel(scene, pending, last) });
    }
    pending = [];
  };
  for (const part of scene.piece.finish.filter((p) => p.on)) {
    if (kindOf('finish', part.kind).type === 'pixel') {
      pending.push(part);
      continue;
    }
    flush(false);
    const at = (key: string, time: number): number => scene.number(part.dials[key], time);
    steps.push({
      type: 'bloom',
      at: (time) => ({
        amount: at('amount', time),
        threshold: at('threshold', time),
        radius: at('radius', time),
      }),
    });
  }
  flush(true);
  return steps;
}

function pixelsKernel(scene: Scene, parts: readonly Part[], last: boolean): PlanKernel {
  const builder = new KernelBuilder(scene);
  const g = builder.graph;
  const pixel = pixelOf(builder);
  const read = (plane: string): Expr => g.load(plane, g.lane());
  let colour = new Vec3(read('r'), read('g'), read('b'));
  for (const part of parts) {
    const kind = kindOf('finish', part.kind) as PixelFinishKind;
    colour = kind.build(readerOf(builder, part.id, 'finish', part), colour, pixel);
  }
  if (last) g.store('out', encode(colour, pixel));
  else colour.parts.forEach((e, i) => g.store(PLANES[i]!, e));
  return builder;
}

/**
 * Linear light to one word of sRGB, red in the low byte, with a triangle of dither one step wide to
 * each side, which keeps dark gradients free of bands.
 */
function encode(colour: Vec3, pixel: Pixel): Expr {
  const g = colour.x.graph;
  const part = (low: number): Expr =>
    pixel.key
      .shrU(low)
      .and(0xffff)
      .toFloat()
      .mul(2 ** -16);
  const dither = part(0).add(part(16)).sub(1);
  const byte = (c: Expr): Expr =>
    srgb(c.clamp(0, 1)).mul(255).add(dither).add(0.5).clamp(0, 255).toInt();
  const [r, green, b] = colour.parts.map(byte);
  return r!.or(green!.shl(8)).or(b!.shl(16)).or(g.int(0xff000000));
}

/**
 * The transfer curve of sRGB (IEC 61966-2-1). Above its straight foot it is a polynomial in the
 * square root of light, fitted by least squares: within 0.15 of an 8-bit step (measured in
 * test/pixels.test.ts), at a tenth of the cost of a power.
 */
export function srgb(light: Expr): Expr {
  const s = light.sqrt();
  const curve = SRGB_CURVE.reduce<Expr>((sum, c) => sum.mul(s).add(c), s.graph.float(0));
  return light.le(0.0031308).select(light.mul(12.92), curve);
}

/** Highest power first. */
const SRGB_CURVE = [0.41563908, -1.35468264, 1.77517765, -1.29699826, 1.50029702, -0.0392552859];
