import { luminanceOf } from '../../feeds/luminance';
import type { LookupTable } from '../../stock/types';

const SIZE = 17;

/** Evening over the harbour: shadows to sea green, lights to amber, a little less of all colour. */
export function dusk(): LookupTable {
  const values = new Float32Array(3 * SIZE ** 3);
  for (let i = 0; i < SIZE ** 3; i++) {
    const [r, g, b] = [i % SIZE, Math.floor(i / SIZE) % SIZE, Math.floor(i / SIZE / SIZE)].map(
      (c) => c / (SIZE - 1),
    ) as [number, number, number];
    const grey = luminanceOf([r, g, b]);
    const warm = Math.min(1, grey * 1.4);
    const toned = [r, g, b].map((c) => grey + (c - grey) * 0.85) as [number, number, number];
    values[3 * i] = toned[0] * (0.82 + 0.26 * warm);
    values[3 * i + 1] = toned[1] * (0.97 + 0.02 * warm) + 0.004 * (1 - warm);
    values[3 * i + 2] = toned[2] * (1.08 - 0.3 * warm) + 0.008 * (1 - warm);
  }
  return { type: 'table', size: SIZE, values, low: [0, 0, 0], high: [1, 1, 1] };
}
