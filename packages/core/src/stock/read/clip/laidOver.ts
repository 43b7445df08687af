import { reportProgress } from '../../../progress';
import type { Picture } from '../../types';

/** A picture of a clip that is laid over those before it: where, and what becomes of it when the next one comes. */
export interface Layer {
  x: number;
  y: number;
  width: number;
  height: number;
  leaves: 'itself' | 'nothing' | 'what was before';
}

/**
 * Pictures of a clip whose pictures are laid over each other, in order; one before the last that was asked for begins
 * again.
 *
 * @param lay draws one of them into eight bits of red, green, blue and alpha
 */
export function laidOver(
  width: number,
  height: number,
  layers: readonly Layer[],
  lay: (index: number, canvas: Uint8Array) => void,
): (index: number) => Picture {
  const canvas = new Uint8Array(4 * width * height);
  let before: Uint8Array | null = null;
  let next = 0;
  const clear = ({ x, y, width: w, height: h }: Layer): void => {
    for (let j = y; j < Math.min(height, y + h); j++) {
      canvas.fill(0, 4 * (j * width + x), 4 * (j * width + Math.min(width, x + w)));
    }
  };
  const advance = (): void => {
    const last = layers[next - 1];
    if (last?.leaves === 'nothing') clear(last);
    if (last?.leaves === 'what was before' && before) canvas.set(before);
    before = layers[next]!.leaves === 'what was before' ? canvas.slice() : null;
    reportProgress();
    lay(next, canvas);
    next += 1;
  };
  return (index) => {
    if (index < next - 1) {
      canvas.fill(0);
      next = 0;
    }
    while (next <= index) advance();
    return { type: 'picture', width, height, pixels: canvas.slice() };
  };
}
