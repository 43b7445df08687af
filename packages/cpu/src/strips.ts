import type { Drawing, Plan } from '@vast-swarm/core/plan';
import { SIZES } from './words';

/** Bytes that drawing may usually take beside the frame: enough for twice the size of 3840 × 2160. */
export const DRAWING_ROOM = 2 ** 30;

/** Bytes of three planes, and of the distances of opaque things, for each pixel. */
export const PLANES_BYTES = 12;
const NEAREST_BYTES = 4;

export interface DrawSize {
  width: number;
  height: number;
  /** Bodies are drawn at so many times the size, and averaged. */
  oversample: number;
  /** Most moments that are drawn while the shutter is open. */
  moments: number;
}

/**
 * Bytes for each pixel of what is drawn: what it takes beside the frame's own planes.
 *
 * @param moments that are drawn while the shutter is open
 */
export function drawingBytes({ opaque }: Drawing, oversample: number, moments: number): number {
  const large = oversample > 1 ? PLANES_BYTES : 0;
  const sum = moments > 1 ? PLANES_BYTES : 0;
  return large + sum + (opaque.length > 0 ? NEAREST_BYTES : 0);
}

/** Whether a frame can be drawn in strips: what is blurred looks at the rows around it. */
export const canStrip = ({ shadows, solidLens }: Plan): boolean => !shadows && !solidLens;

/**
 * The rows that are drawn together, of what is drawn `oversample` times as large as the frame: all, or strips of them where
 * all would take more than `room` bytes. The pixels are the same.
 */
export function stripsOf(
  plan: Plan,
  drawn: Drawing,
  { width, height, oversample }: DrawSize,
  moments: number,
  room: number,
): { from: number; to: number }[] {
  const [w, h] = [width * oversample, height * oversample];
  const row = w * drawingBytes(drawn, oversample, moments);
  if (row * h <= room || !canStrip(plan)) return [{ from: 0, to: h }];
  // Whole tiles, and whole rows of the frame.
  const step = SIZES.tileH * oversample;
  const rows = Math.max(1, Math.floor(room / row / step)) * step;
  const count = Math.ceil(h / rows);
  return Array.from({ length: count }, (_, i) => {
    return { from: i * rows, to: Math.min(h, (i + 1) * rows) };
  });
}
