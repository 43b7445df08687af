import type { Mesh } from '../../stock/types';
import { painted, surface } from './surface';

const TURNS = 5.5;
/** How much larger each whorl is than the one above it. */
const WHORL = 1.62;

/**
 * A sea shell: a drop-shaped outline that grows as it winds round and down an axis (H. Moseley, "On
 * the Geometrical Forms of Turbinated and Discoid Shells", Phil. Trans. 1838), with knobs on the
 * shoulder, a long canal below and a lip that flares.
 */
export function conch(): Mesh {
  const shell = surface(
    72,
    520,
    (u, v) => {
      const turn = v * TURNS * 2 * Math.PI;
      const size = WHORL ** (TURNS * (v - 1));
      const lip = Math.max(0, (v - 0.93) / 0.07) ** 2;
      const around = 2 * Math.PI * u;
      const [out, up] = [Math.cos(around), Math.sin(around)];
      const shoulder = Math.max(0, Math.cos(around - 0.75)) ** 6;
      const knob = shoulder * Math.max(0, Math.sin(turn * 4.5)) ** 3;
      const ridge = 1 + 0.012 * Math.sin(around * 22);
      // Below it narrows towards the axis, which makes the canal.
      const narrow = up < 0 ? 1 - 0.82 * up ** 2 : 1;
      const reach = 0.42 + 0.5 * out * ridge * narrow - 0.36 * (1 - narrow);
      const far = size * (Math.max(0.015, reach) + 0.24 * knob + 0.4 * lip * Math.max(0, out));
      const height = size * (up < 0 ? 1.45 : 0.62) * up * ridge;
      const y = 1.62 - 1.92 * size + height + 0.1 * size * knob;
      return [far * Math.cos(turn), y, far * Math.sin(turn)];
    },
    { round: true, caps: true },
  );
  // Cream, banded along its growth, rose towards the canal.
  return painted(shell, (x, y, z) => {
    const rose = Math.min(1, Math.max(0, 0.35 - 0.42 * y));
    const band = 0.5 + 0.5 * Math.sin(14 * y + 3 * Math.sin(3 * Math.atan2(z, x)));
    const shade = 0.72 + 0.28 * band;
    return [0.95 * shade, (0.74 - 0.46 * rose) * shade, (0.52 - 0.2 * rose) * shade];
  });
}
