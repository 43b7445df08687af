import { z } from '../zod';
import { hexOf, linearRgb, type Rgb } from './colour';
import { gradientAt, hexSchema, stopsSchema, type Stop } from './gradient';
import { EASES, eased, type Ease } from './shape';

/** The value of a control: a number, on or off, a colour, a gradient, or the name of a thing or an option. */
export type ControlValue = number | boolean | string | Stop[];

export const controlValueSchema: z.ZodType<ControlValue> = z.union([
  z.number().min(-1e6).max(1e6),
  z.boolean(),
  z.string().max(120),
  stopsSchema,
]);

/** The place of a dial in a piece, as `swarms.fire.emitter.radius` or `forces.wind.direction.x`; see piece/places.ts. */
const placeSchema = z.string().min(1).max(300);

/** Dials that a control moves: one that holds numbers has a range and a curve of its own for each. */
export const movesSchema = z
  .array(
    z.strictObject({
      place: placeSchema,
      /** The dial's values at the control's lowest and highest. */
      from: z.number().min(-1e7).max(1e7).optional(),
      to: z.number().min(-1e7).max(1e7).optional(),
      /** Straight if nothing is said. */
      ease: z.enum(EASES).optional(),
    }),
  )
  .max(64);
export type Moves = z.infer<typeof movesSchema>;
export type Move = Moves[number];

/** Values that a cue sets controls to. */
export const setsSchema = z
  .array(z.strictObject({ control: z.string().min(1).max(64), to: controlValueSchema }))
  .max(64)
  .refine((all) => new Set(all.map((s) => s.control)).size === all.length, 'sets a control twice');
export type Sets = z.infer<typeof setsSchema>;

/** Particles that a cue lets be born at one moment. */
export const burstsSchema = z
  .array(
    z.strictObject({
      swarm: z.string().min(1).max(64),
      count: z.number().int().min(0).max(1_000_000),
    }),
  )
  .max(64);
export type Bursts = z.infer<typeof burstsSchema>;

/** The way of a control from one value to another. */
export interface Fade {
  /** The second at which it begins; what is read at this very second is still what was before. */
  at: number;
  /** Seconds. */
  over: number;
  ease: Ease;
  from: ControlValue;
  to: ControlValue;
}

/** Against rounding where times fall on each other: far less than a frame, more than rounding ever is. */
export const NEARLY = 1e-7;

/**
 * The value of a fade at a time at or behind its beginning: at its end, and ever after, exactly that which it leads to.
 */
export function fadeAt({ at, over, ease, from, to }: Fade, time: number): ControlValue {
  const since = time - at;
  if (since <= NEARLY) return from;
  if (since >= over - NEARLY) return to;
  return mixed(from, to, eased(ease, since / over));
}

/** Between two values: numbers straight, colours and gradients as light; what cannot be mixed is the second. */
export function mixed(from: ControlValue, to: ControlValue, t: number): ControlValue {
  if (typeof from === 'number' && typeof to === 'number') return from + (to - from) * t;
  if (isHex(from) && isHex(to)) return hexOf(mixedLight(linearRgb(from), linearRgb(to), t));
  if (Array.isArray(from) && Array.isArray(to)) return mixedStops(from, to, t);
  return to;
}

/** Whether a value is a colour, as it is written in files. */
export function isHex(value: unknown): value is string {
  return hexSchema.safeParse(value).success;
}

/** As cube roots of light, which keeps the way between two colours even to the eye. */
function mixedLight(from: Rgb, to: Rgb, t: number): Rgb {
  return from.map((a, i) => {
    const root = Math.cbrt(a);
    return (root + (Math.cbrt(to[i]!) - root) * t) ** 3;
  }) as Rgb;
}

/** Most stops that a gradient has. */
const MOST_STOPS = 32;

/** Where either has a stop, and between them where that leaves something out. */
function mixedStops(from: readonly Stop[], to: readonly Stop[], t: number): Stop[] {
  const own = [0, 1, ...[...from, ...to].map((s) => s.at)];
  const places = [...new Set(own)].sort((a, b) => a - b);
  // Eased ways are followed by stops between them, as many as there may be.
  const parts = Math.max(1, Math.floor((MOST_STOPS - 1) / (places.length - 1)));
  const fine = places.flatMap((at, i) => {
    const next = places[i + 1];
    if (next === undefined) return [at];
    return Array.from({ length: parts }, (_, k) => at + ((next - at) * k) / parts);
  });
  return fine.slice(0, MOST_STOPS).map((at) => {
    const light = mixedLight(gradientAt(from, at), gradientAt(to, at), t);
    const most = Math.max(1, ...light);
    const colour = hexOf(light.map((c) => c / most) as Rgb);
    const glow = most > 1 ? { light: most } : {};
    return { at, colour, ...glow, ease: 'straight' };
  });
}
