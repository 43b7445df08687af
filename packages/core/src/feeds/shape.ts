import { z } from '../zod';

/** How a shape goes from one point to the next. */
export const EASES = ['straight', 'smooth', 'rush', 'linger', 'hold'] as const;
export type Ease = (typeof EASES)[number];

const fraction = z.number().min(0).max(1);

/** A shape over a particle's life: x is the part of life lived, y a factor from 0 to 1. */
export const shapeSchema = z
  .array(z.strictObject({ x: fraction, y: fraction, ease: z.enum(EASES).optional() }))
  .min(2)
  .max(32)
  .refine((points) => points.every((p, i) => i === 0 || p.x >= points[i - 1]!.x), {
    message: 'points must stand in order of x',
  });
export type Shape = z.infer<typeof shapeSchema>;

/** Eased progress: t from 0 to 1 gives 0 to 1. */
export function eased(ease: Ease | undefined, t: number): number {
  switch (ease ?? 'smooth') {
    case 'straight':
      return t;
    case 'smooth':
      return t * t * (3 - 2 * t);
    case 'rush':
      return 1 - (1 - t) ** 3;
    case 'linger':
      return t ** 3;
    case 'hold':
      return t < 1 ? 0 : 1;
  }
}

/** Where `at` falls among ordered positions: the segment's two ends and the eased way between them. */
export function between<T extends { ease?: Ease | undefined }>(
  points: readonly T[],
  position: (p: T) => number,
  at: number,
): [T, T, number] {
  const first = points[0]!;
  if (at < position(first)) return [first, first, 0];
  for (let i = points.length - 1; i >= 0; i--) {
    const a = points[i]!;
    if (at < position(a)) continue;
    const b = points[i + 1];
    if (!b) return [a, a, 0];
    return [a, b, eased(a.ease, (at - position(a)) / (position(b) - position(a)))];
  }
  return [first, first, 0];
}

/** The value of a shape at `x`, both 0 to 1. */
export function shapeAt(shape: Shape, x: number): number {
  const [a, b, t] = between(shape, (p) => p.x, x);
  return a.y + (b.y - a.y) * t;
}
