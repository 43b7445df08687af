import type { KEPT, MediumSpace } from '../language/mediumSpace';

/** Counts of a medium's cells, by how they are. */
export interface MediumCensus {
  cells: number;
  /** Faster than 1 cm/s. */
  moving: number;
  /** With a hundredth of an amount or more. */
  filled: number;
  /** Brighter than one step of an 8-bit picture. */
  lit: number;
}

const ONE_STEP = 1 / 255 / 12.92;

/** @param planes all that it keeps, with their rims */
export function mediumCensus(
  { columns, lines, stride }: Pick<MediumSpace, 'columns' | 'lines' | 'stride'>,
  planes: Readonly<Record<(typeof KEPT)[number], Float32Array>>,
): MediumCensus {
  const { u, v, red, green, blue, amount } = planes;
  const counts = { cells: columns * lines, moving: 0, filled: 0, lit: 0 };
  for (let line = 1; line <= lines; line++) {
    for (let at = line * stride + 1; at <= line * stride + columns; at++) {
      if (Math.hypot(u[at]!, v[at]!) > 0.01) counts.moving += 1;
      if (amount[at]! >= 0.01) counts.filled += 1;
      if (Math.max(red[at]!, green[at]!, blue[at]!) > ONE_STEP) counts.lit += 1;
    }
  }
  return counts;
}
