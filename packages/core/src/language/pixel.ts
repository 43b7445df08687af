import { hash, Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from './builder';
import type { UniformSource } from './frame';
import { FRAME } from './names';
import { luminance } from '../feeds/luminance';
import { pictureSample, pixelAt, sampledSize, type Sampled } from './pictureSample';
import { PLANES, strideOf } from './planes';
import { rowOf } from './rows';

/** The pixel that a kernel of the finish works on, and the frame around it. */
export interface Pixel {
  /** Pixel centre, in pixels, from the left and the top. */
  x: Expr;
  y: Expr;
  width: Expr;
  height: Expr;
  /** A number that differs by pixel and frame, i32. */
  key: Expr;
  /** The frame as it came to this treatment, straight between its pixels; its border goes on outside. */
  sample(x: Expr, y: Expr): Vec3;
  /** The same at the nearest pixel. */
  nearest(x: Expr, y: Expr): Vec3;
}

/** Planes that can be read anywhere, with their size. */
export interface Surface {
  planes: readonly string[];
  width: Expr;
  height: Expr;
  stride: Expr;
}

export function frameSurface(builder: KernelBuilder): Surface {
  const size = (name: string, of: UniformSource, type: 'f32' | 'i32' = 'f32'): Expr =>
    builder.uniform(FRAME.own(name), of, type);
  return {
    planes: PLANES,
    width: size('width', (f) => f.width),
    height: size('height', (f) => f.height),
    stride: size('stride', (f) => strideOf(f.width), 'i32'),
  };
}

/** Reads a surface at a whole pixel, its border going on outside. */
function texel(surface: Surface, x: Expr, y: Expr): Vec3 {
  const g = x.graph;
  const column = x.max(0).min(surface.width.sub(1)).toInt();
  const row = y.max(0).min(surface.height.sub(1)).toInt();
  const at = row.mul(surface.stride).add(column);
  const [r, green, b] = surface.planes.map((p) => g.load(p, at));
  return new Vec3(r!, green!, b!);
}

/** At a place in pixels of the surface, straight between the middles of its pixels. */
export function sampled(surface: Surface, x: Expr, y: Expr): Vec3 {
  const [px, py] = [x.sub(0.5), y.sub(0.5)];
  const [fx, fy] = [px.floor(), py.floor()];
  const [tx, ty] = [px.sub(fx), py.sub(fy)];
  const corner = (dx: number, dy: number): Vec3 => texel(surface, fx.add(dx), fy.add(dy));
  const row = (dy: number): Vec3 => Vec3.mix(corner(0, dy), corner(1, dy), tx);
  return Vec3.mix(row(0), row(1), ty);
}

export function pixelOf(builder: KernelBuilder): Pixel {
  const g = builder.graph;
  const lane = g.lane();
  const surface = frameSurface(builder);
  const { stride } = surface;
  const inverse = builder.uniform(FRAME.own('inverseStride'), (f) => 1 / strideOf(f.width));
  const { row, column } = rowOf(lane, stride, inverse);
  return {
    x: column.toFloat().add(0.5),
    y: row.toFloat().add(0.5),
    width: surface.width,
    height: surface.height,
    key: hash(row.shl(16).xor(column).xor(builder.frameKey())),
    sample: (x, y) => sampled(surface, x, y),
    nearest: (x, y) => texel(surface, x.floor(), y.floor()),
  };
}

/** This pixel of some planes. */
export function own(builder: KernelBuilder, planes: readonly string[]): Vec3 {
  const g = builder.graph;
  const [r, green, b] = planes.map((p) => g.load(p, g.lane()));
  return new Vec3(r!, green!, b!);
}

/** How bright a picture is at a pixel, where it is laid over the whole frame. */
export function brightnessOver(builder: KernelBuilder, picture: Sampled, pixel: Pixel): Expr {
  const { width, height } = sampledSize(picture);
  const x = pixelAt(pixel.x.div(pixel.width), width);
  const y = pixelAt(pixel.y.div(pixel.height), height);
  return luminance(pictureSample(builder, picture, x, y).colour);
}
