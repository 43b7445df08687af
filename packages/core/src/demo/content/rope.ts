import type { Curve, Outline } from '../../stock/types';

/** Three strands that wind round each other along a rope that hangs between two posts. */
export function rope(): Outline {
  const strand = (k: number): Curve => {
    const points: number[] = [];
    for (let i = 0; i <= 900; i++) {
      const t = i / 900;
      const x = (t - 0.5) * 5;
      const sag = 0.5 * (2 * t - 1) ** 2 - 0.25;
      const turn = t * 26 * Math.PI + (k * 2 * Math.PI) / 3;
      points.push(x, sag + 0.1 * Math.cos(turn), 0.1 * Math.sin(turn));
    }
    return { points: Float32Array.from(points), closed: false };
  };
  return { type: 'outline', curves: [0, 1, 2].map(strand) };
}
