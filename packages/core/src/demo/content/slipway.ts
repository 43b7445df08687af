import type { Mesh } from '../../stock/types';
import { surface } from './surface';

/** A slipway: a ramp of stone steps that goes down into a basin with a curved wall. An open sheet. */
export function slipway(): Mesh {
  return surface(96, 64, (u, v) => {
    const x = (u - 0.5) * 6;
    const z = (v - 0.5) * 4;
    const slope = 0.9 - 0.42 * (x + 3);
    const step = Math.round(slope / 0.22) * 0.22;
    const ramp = 0.55 * slope + 0.45 * step;
    const floor = -1.05;
    const wall = Math.max(0, x - 1.9) ** 2 * 1.25;
    const side = 0.16 * Math.max(0, Math.abs(z) - 1.55) ** 1.2 * 5;
    return [x, Math.max(ramp, floor + wall) + side, z];
  });
}
