import type { Mesh } from '../../stock/types';
import { painted, surface } from './surface';

/** Radius of the buoy at heights from below the water to its light, in metres. */
const OUTLINE: [number, number][] = [
  [-1.5, 0.02],
  [-1.35, 0.35],
  [-0.75, 1.02],
  [-0.35, 1.12],
  [-0.25, 1.0],
  [-0.2, 0.62],
  [0.55, 0.36],
  [0.95, 0.26],
  [1.0, 0.46],
  [1.08, 0.46],
  [1.12, 0.2],
  [1.5, 0.2],
  [1.62, 0.12],
  [1.7, 0.01],
];

/** A harbour buoy, turned on a lathe, with eight panels in its mast. */
export function buoy(): Mesh {
  const body = surface(
    72,
    240,
    (u, v) => {
      const at = v * (OUTLINE.length - 1);
      const i = Math.min(OUTLINE.length - 2, Math.floor(at));
      const [a, b] = [OUTLINE[i]!, OUTLINE[i + 1]!];
      const t = at - i;
      const y = a[0] + (b[0] - a[0]) * t;
      const r = a[1] + (b[1] - a[1]) * t;
      const panel = y > -0.2 && y < 0.95 ? 1 - 0.12 * Math.abs(Math.sin(8 * Math.PI * u)) : 1;
      const turn = -2 * Math.PI * u;
      return [r * panel * Math.cos(turn), y, r * panel * Math.sin(turn)];
    },
    { round: true, caps: true },
  );
  // Bands of coral and white; the lantern is amber.
  return painted(body, (_, y) => {
    if (y > 1) return [1, 0.6, 0.15];
    return Math.floor((y + 3) / 0.42) % 2 === 0 ? [0.9, 0.13, 0.09] : [0.85, 0.88, 0.9];
  });
}
