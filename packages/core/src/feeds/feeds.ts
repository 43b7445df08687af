import { z } from 'zod';
import { hexSchema, stopsSchema } from './gradient';
import { shapeSchema } from './shape';

/**
 * What can fill a dial. A plain number, colour or vector is a fixed value; everything else is an
 * object with a `feed`. What varies by particle is read at birth and kept, or read again at every
 * frame: `evaluate`.
 */

const evaluate = z.enum(['birth', 'live']).optional();

export const fixedSchema = z.strictObject({
  feed: z.literal('fixed'),
  value: z.number(),
  /** Multiplies the value over the particle's life. */
  over: shapeSchema.optional(),
});

export const spreadSchema = z.strictObject({
  feed: z.literal('spread'),
  from: z.number(),
  to: z.number(),
  /** Uniform if nothing is said. Normal: the mean in the middle, three standard deviations to each end, cut off there. */
  distribution: z.enum(['uniform', 'normal']).optional(),
  /** At birth (the default) each particle keeps its value; live it gets a new one every frame. */
  evaluate,
  over: shapeSchema.optional(),
});

export const gradientSchema = z.strictObject({
  feed: z.literal('gradient'),
  /** By life if nothing is said. */
  by: z.enum(['life', 'random']).optional(),
  stops: stopsSchema,
  /** By life, live (the default) follows the life and birth keeps the first colour. */
  evaluate,
});

export const numberFeedSchema = z.union([z.number(), fixedSchema, spreadSchema]);
export const colourFeedSchema = z.union([hexSchema, gradientSchema]);
export const vectorSchema = z.tuple([z.number(), z.number(), z.number()]);

export type FixedFeed = z.infer<typeof fixedSchema>;
export type SpreadFeed = z.infer<typeof spreadSchema>;
export type NumberFeed = z.infer<typeof numberFeedSchema>;
export type GradientFeed = z.infer<typeof gradientSchema>;
export type ColourFeed = z.infer<typeof colourFeedSchema>;
export type Vector = z.infer<typeof vectorSchema>;
export type DialValue = NumberFeed | ColourFeed | Vector;

export function isSpread(value: DialValue): value is SpreadFeed {
  return typeof value === 'object' && 'feed' in value && value.feed === 'spread';
}

export function isFixed(value: DialValue): value is FixedFeed {
  return typeof value === 'object' && 'feed' in value && value.feed === 'fixed';
}

export function isGradient(value: DialValue): value is GradientFeed {
  return typeof value === 'object' && 'feed' in value && value.feed === 'gradient';
}

/** The least and the greatest value a number feed can give, its shape over life left aside. */
export function rangeOf(value: NumberFeed): [number, number] {
  if (typeof value === 'number') return [value, value];
  if (value.feed === 'fixed') return [value.value, value.value];
  return [Math.min(value.from, value.to), Math.max(value.from, value.to)];
}

export function overOf(value: DialValue): z.infer<typeof shapeSchema> | undefined {
  return isSpread(value) || isFixed(value) ? value.over : undefined;
}
