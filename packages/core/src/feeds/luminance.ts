import type { Expr, Vec3 } from '@vast-swarm/kernel';

/** Weights of red, green and blue in relative luminance (ITU-R BT.709). */
const WEIGHTS = [0.2126, 0.7152, 0.0722] as const;

/** Relative luminance of linear light, as arithmetic. */
export function luminance({ x, y, z }: Vec3): Expr {
  return x.mul(WEIGHTS[0]).add(y.mul(WEIGHTS[1])).add(z.mul(WEIGHTS[2]));
}

/** The same in plain numbers. */
export function luminanceOf([r, g, b]: readonly [number, number, number]): number {
  return WEIGHTS[0] * r + WEIGHTS[1] * g + WEIGHTS[2] * b;
}
