import { z } from '../zod';
import { linearRgb, type Rgb } from './colour';
import { between, EASES } from './shape';

export const hexSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'a colour is written #rrggbb');

export const stopSchema = z.strictObject({
  at: z.number().min(0).max(1),
  colour: hexSchema,
  /** Multiplies the colour's light; over 1 it glows. */
  light: z.number().min(0).max(100).optional(),
  ease: z.enum(EASES).optional(),
});
export type Stop = z.infer<typeof stopSchema>;

export const stopsSchema = z
  .array(stopSchema)
  .min(2)
  .max(32)
  .refine((stops) => stops.every((s, i) => i === 0 || s.at >= stops[i - 1]!.at), {
    message: 'stops must stand in order of at',
  });

/**
 * A gradient's linear light at `at`. Stops are mixed as cube roots of light, which keeps the way
 * between two colours even to the eye and free of dark middles.
 */
export function gradientAt(stops: readonly Stop[], at: number): Rgb {
  const [a, b, t] = between(stops, (s) => s.at, at);
  const [ca, cb] = [linearRgb(a.colour), linearRgb(b.colour)];
  const light = (c: number, s: Stop): number => Math.cbrt(c * (s.light ?? 1));
  return ca.map((c, i) => {
    const root = light(c, a) + (light(cb[i]!, b) - light(c, a)) * t;
    return root ** 3;
  }) as Rgb;
}
