import { z } from '../zod';

/** Most shapes of a mask. */
export const MOST_SHAPES = 16;

const part = z.number().min(-10).max(10);

/** Shapes drawn over the picture: places as parts of its width and height from the top left. */
export const maskSchema = z
  .array(
    z.discriminatedUnion('shape', [
      z.strictObject({
        shape: z.literal('ellipse'),
        x: part,
        y: part,
        /** Half its width and height, in frame heights. */
        wide: z.number().min(0.001).max(10),
        high: z.number().min(0.001).max(10),
        /** Degrees, clockwise. */
        turn: z.number().min(-36000).max(36000),
      }),
      z.strictObject({
        shape: z.literal('polygon'),
        /** x and y in turn. */
        points: z
          .array(part)
          .min(6, 'a mask needs three points at least')
          .max(2000)
          .refine((p) => p.length % 2 === 0, { message: 'x and y come in pairs' }),
      }),
      z.strictObject({
        shape: z.literal('outline'),
        /** An outline of the stock, by id; '' is none. */
        outline: z.string().max(64),
        /** Its middle. */
        x: part,
        y: part,
        /** Its height in frame heights. */
        tall: z.number().min(0.001).max(10),
        /** Degrees, clockwise. */
        turn: z.number().min(-36000).max(36000),
      }),
    ]),
  )
  .max(MOST_SHAPES);
export type Mask = z.infer<typeof maskSchema>;
export type MaskShape = Mask[number];
