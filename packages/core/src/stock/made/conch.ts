import type { Mesh } from '../stock';
import { painted, surface } from './surface';

const TURNS = 3.6;

/**
 * A sea shell: a circle that grows as it winds round and down an axis (H. Moseley, "On the
 * Geometrical Forms of Turbinated and Discoid Shells", Phil. Trans. 1838), with ribs.
 */
export function conch(): Mesh {
  const shell = surface(
    64,
    420,
    (u, v) => {
      const turn = v * TURNS * 2 * Math.PI;
      // The opening at the end flares out like a bell.
      const flare = 1 + 0.9 * Math.max(0, (v - 0.86) / 0.14) ** 2;
      const growth = Math.exp(0.155 * (turn - TURNS * 2 * Math.PI));
      const around = 2 * Math.PI * u;
      const rib = 1 + 0.055 * Math.sin(turn * 9) + 0.03 * Math.sin(around * 7);
      const tube = 0.62 * growth * rib * flare;
      const way = 0.6 * growth + tube * Math.cos(around) * 0.9;
      const y = 1.35 - 2.05 * growth + tube * Math.sin(around) * 1.25;
      return [way * Math.cos(turn), y, way * Math.sin(turn)];
    },
    { round: true, caps: true },
  );
  // Cream outside, rose towards the opening.
  return painted(shell, (x, y, z) => {
    const t = Math.min(1, Math.max(0, 0.5 - 0.45 * y + 0.12 * Math.sin(9 * x + 7 * z)));
    return [0.95, 0.75 - 0.5 * t, 0.55 - 0.25 * t];
  });
}
