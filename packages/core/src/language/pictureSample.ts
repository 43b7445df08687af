import { Vec3, type Expr } from '@vast-swarm/kernel';
import { lightOf, LIGHT_OF_BYTE } from '../stock/places/pictureParts';
import type { MovingPicture, Picture } from '../stock/types';
import type { KernelBuilder } from './builder';
import { MediumReader } from './mediumSample';
import type { MediumSpace } from './mediumSpace';
import { sampledMoving } from '../stock/clip/pixels';
import { seenTrack } from './track';

export interface PictureSample {
  /** Linear light, multiplied by opacity. */
  colour: Vec3;
  opacity: Expr;
}

/** Sources of light by place: a picture, a moving one, or a medium. */
export type Sampled = Picture | MovingPicture | MediumSpace;

/** Size of a picture as it is sampled, in pixels; of a medium in cells. */
export function sampledSize(picture: Sampled): { width: number; height: number } {
  if (picture.type === 'medium') return { width: picture.columns, height: picture.lines };
  if (picture.type === 'moving') return sampledMoving(picture);
  const { width, height } = lightOf(picture);
  return { width, height };
}

/** A part of a side, 0 to 1, in pixels: in the outer half of its outer pixels a picture is as in their middles. */
export function pixelAt(part: Expr, size: number): Expr {
  return part.mul(size).clamp(0.5, size - 0.5);
}

/** A picture at a place in pixels, straight between the middles of its pixels; nothing outside. */
export function pictureSample(
  builder: KernelBuilder,
  picture: Sampled,
  x: Expr,
  y: Expr,
): PictureSample {
  const g = builder.graph;
  if (picture.type === 'medium') {
    const medium = new MediumReader(builder, picture);
    const spot = { x: x.add(0.5), y: g.float(picture.lines + 0.5).sub(y) };
    return { colour: medium.light(spot), opacity: medium.inside(spot).select(1, g.float(0)) };
  }
  const { width, height } = sampledSize(picture);
  const channelAt = channelsOf(builder, picture);
  const [px, py] = [x.sub(0.5), y.sub(0.5)];
  const [fx, fy] = [px.floor(), py.floor()];
  const corner = (ox: number, oy: number): Expr[] => {
    const [cx, cy] = [fx.add(ox), fy.add(oy)];
    const inside = cx.ge(0).and(cx.lt(width)).and(cy.ge(0)).and(cy.lt(height));
    const row = cy
      .clamp(0, height - 1)
      .toInt()
      .mul(width);
    const channel = channelAt(row.add(cx.clamp(0, width - 1).toInt()));
    const alpha = inside.select(channel(3), g.float(0));
    return [channel(0).mul(alpha), channel(1).mul(alpha), channel(2).mul(alpha), alpha];
  };
  const [tx, ty] = [px.sub(fx), py.sub(fy)];
  const mixed = (a: Expr[], b: Expr[], t: Expr): Expr[] =>
    a.map((v, i) => v.add(b[i]!.sub(v).mul(t)));
  const row = (oy: number): Expr[] => mixed(corner(0, oy), corner(1, oy), tx);
  const [r, green, b, alpha] = mixed(row(0), row(1), ty);
  return { colour: new Vec3(r!, green!, b!), opacity: alpha! };
}

/** Reads linear light (0 to 2) and opacity (3) of a pixel by its number. */
function channelsOf(
  builder: KernelBuilder,
  picture: Picture | MovingPicture,
): (pixel: Expr) => (channel: number) => Expr {
  if (picture.type === 'picture') {
    const { light } = lightOf(picture);
    return (pixel) => (k) => builder.block(light, pixel.mul(4).add(k));
  }
  const { width, height } = sampledMoving(picture);
  const track = seenTrack(picture, 'pixels', width * height, { find: 'pixels' });
  return (pixel) => {
    const word = builder.track(track, pixel, 'i32');
    return (k) => {
      const byte = word.shl(24 - 8 * k).shrU(24);
      return k === 3 ? byte.toFloat().mul(1 / 255) : builder.block(LIGHT_OF_BYTE, byte);
    };
  };
}
