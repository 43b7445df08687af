import { unitNumber } from '@vast-swarm/kernel';
import type { Cloud } from '../../stock/types';

const COUNT = 24_000;

/** The lamps of the quay and their light on the water, as a scanner might have seen them. */
export function lamps(): Cloud {
  const positions = new Float32Array(3 * COUNT);
  const colours = new Float32Array(3 * COUNT);
  for (let i = 0; i < COUNT; i++) {
    const lamp = Math.floor(unitNumber(i) * 14);
    const x = (lamp - 6.5) * 0.42;
    const near =
      (unitNumber(7 * i + 1) + unitNumber(7 * i + 2) + unitNumber(7 * i + 3) - 1.5) * 0.16;
    const mirrored = unitNumber(7 * i + 4) < 0.45;
    const fall = mirrored ? -0.25 - 1.3 * unitNumber(7 * i + 5) ** 2 : 0.55;
    const height = fall + (mirrored ? 0 : near);
    positions.set([x + near * (mirrored ? 0.5 : 1), height, near * 0.8], 3 * i);
    const dim = mirrored ? 0.5 : 1;
    const warm = lamp % 3 === 0 ? [0.35, 0.9, 0.8] : [1, 0.62, 0.25];
    colours.set(
      warm.map((c) => c * dim),
      3 * i,
    );
  }
  return { type: 'cloud', positions, colours };
}
