import { outlineOfPath } from '../../stock/outlinePath';
import type { Outline } from '../../stock/types';

/** The mark of Saltglass Quay: a lantern over two waves in a ring. */
export function harbourMark(): Outline {
  return outlineOfPath(
    'M0 -1.4 A1.4 1.4 0 1 1 -0.001 -1.4 Z ' +
      'M0 -1.05 L0.34 -0.72 L0.26 -0.05 L-0.26 -0.05 L-0.34 -0.72 Z ' +
      'M0 -0.72 C0.16 -0.5 0.16 -0.3 0 -0.2 C-0.16 -0.3 -0.16 -0.5 0 -0.72 Z ' +
      'M-1.1 0.25 C-0.8 0 -0.6 0 -0.37 0.25 C-0.15 0.5 0.15 0.5 0.37 0.25 C0.6 0 0.8 0 1.1 0.25 ' +
      'M-0.95 0.65 C-0.7 0.42 -0.5 0.42 -0.3 0.65 C-0.12 0.88 0.12 0.88 0.3 0.65 C0.5 0.42 0.7 0.42 0.95 0.65',
  );
}
