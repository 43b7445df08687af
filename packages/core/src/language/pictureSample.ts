import { Vec3, type Expr } from '@vast-swarm/kernel';
import { lightOf } from '../stock/places/pictureParts';
import type { Picture } from '../stock/types';
import type { KernelBuilder } from './builder';

export interface PictureSample {
  /** Linear light, multiplied by opacity. */
  colour: Vec3;
  opacity: Expr;
}

/** Size of a picture as it is sampled, in pixels. */
export function sampledSize(picture: Picture): { width: number; height: number } {
  const { width, height } = lightOf(picture);
  return { width, height };
}

/** A picture at a place in pixels, straight between the middles of its pixels; nothing outside. */
export function pictureSample(
  builder: KernelBuilder,
  picture: Picture,
  x: Expr,
  y: Expr,
): PictureSample {
  const g = builder.graph;
  const { width, height, light } = lightOf(picture);
  const [px, py] = [x.sub(0.5), y.sub(0.5)];
  const [fx, fy] = [px.floor(), py.floor()];
  const corner = (ox: number, oy: number): Expr[] => {
    const [cx, cy] = [fx.add(ox), fy.add(oy)];
    const inside = cx.ge(0).and(cx.lt(width)).and(cy.ge(0)).and(cy.lt(height));
    const row = cy
      .clamp(0, height - 1)
      .toInt()
      .mul(width);
    const index = row.add(cx.clamp(0, width - 1).toInt()).mul(4);
    const channel = (k: number): Expr => builder.block(light, index.add(k));
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
