import { z } from '../zod';
import { FormulaError, LONGEST, parseFormula } from '../formula/parse';
import { layersSchema, type ColourLayer, type LayersFeed } from './colourLayers';
import { hexSchema, stopsSchema, type Stop } from './gradient';
import { colourMapSchema, mapSchema, type ColourMapFeed, type MapFeed } from './map';
import type { Bursts, Moves, Sets } from './control';
import type { Mask } from './mask';
import { EASES, shapeSchema, type Shape } from './shape';
import type { Take } from './take';

/**
 * Feeds: all that can fill a dial. A plain number, colour or vector is a fixed value; everything else is an
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

/** A signal of the piece, stretched so that 0 gives `from` and 1 gives `to`. */
export const signalSchema = z.strictObject({
  feed: z.literal('signal'),
  /** Id of the signal. */
  signal: z.string(),
  from: z.number(),
  to: z.number(),
  /** Live (the default) follows the signal; at birth each particle keeps what it finds. */
  evaluate,
  over: shapeSchema.optional(),
});

/** A formula's text; errors name the character. */
export function formulaText(particle: boolean): z.ZodType<string, string> {
  return z
    .string()
    .max(LONGEST)
    .superRefine((text, context) => {
      try {
        parseFormula(text, particle);
      } catch (error) {
        if (!(error instanceof FormulaError)) throw error;
        context.addIssue({ code: 'custom', message: error.message });
      }
    });
}

function formulaFeed(particle: boolean) {
  return z.strictObject({
    feed: z.literal('formula'),
    text: formulaText(particle),
    /** The result is kept between these. */
    from: z.number(),
    to: z.number(),
    /** Live (the default) works it out at every frame; at birth the particle keeps its value. */
    evaluate,
    over: shapeSchema.optional(),
  });
}

/** Of the frame's names. */
export const frameFormulaSchema = formulaFeed(false);
/** Of the particle's readings too. */
export const formulaSchema = formulaFeed(true);

export const gradientSchema = z.strictObject({
  feed: z.literal('gradient'),
  /** By life if nothing is said. By a signal or a formula: where it goes from 0 to 1. */
  by: z.enum(['life', 'random', 'signal', 'formula']).optional(),
  signal: z.string().optional(),
  text: formulaText(true).optional(),
  stops: stopsSchema,
  /** By life, live (the default) follows the life and birth keeps the first colour. */
  evaluate,
});

/** The colour of the place where the particle was born: of a picture, mesh or point cloud. */
export const placeColourSchema = z.strictObject({ feed: z.literal('place') });

/** Linear light of one of red, green and blue: `from` where its signal is 0 or there is none, `to` where it is 1. */
const channelSchema = z.strictObject({
  signal: z.string().optional(),
  from: z.number().min(0).max(100),
  to: z.number().min(0).max(100),
});

/** A colour of three signals. */
export const channelsSchema = z.strictObject({
  feed: z.literal('channels'),
  red: channelSchema,
  green: channelSchema,
  blue: channelSchema,
  /** Live (the default) follows the signals; at birth each particle keeps what it finds. */
  evaluate,
});

const live = { over: true, evaluate: true } as const;
/** One value for all particles, that may change with time. */
export const frameFeedSchema = z.union([
  z.number(),
  signalSchema.omit(live),
  frameFormulaSchema.omit(live),
]);
export const birthFeedSchema = z.union([
  z.number(),
  fixedSchema.omit({ over: true }),
  spreadSchema.omit({ over: true }),
  signalSchema.omit(live),
  formulaSchema.omit(live),
  mapSchema.omit(live),
]);
export const numberFeedSchema = z.union([
  z.number(),
  fixedSchema,
  spreadSchema,
  signalSchema,
  formulaSchema,
  mapSchema,
]);
export const colourFeedSchema = z.union([
  hexSchema,
  gradientSchema,
  placeColourSchema,
  channelsSchema,
  colourMapSchema,
  layersSchema,
]);

/** Keyframes: seconds and values, with the ease from each to the next. */
export const keysSchema = z
  .array(
    z.strictObject({
      at: z.number().min(0).max(3600),
      value: z.number().min(-1e6).max(1e6),
      ease: z.enum(EASES).optional(),
    }),
  )
  .min(1)
  .max(500)
  .refine((keys) => keys.every((k, i) => i === 0 || k.at >= keys[i - 1]!.at), {
    message: 'keys must stand in order of time',
  });

export type FixedFeed = z.infer<typeof fixedSchema>;
export type SpreadFeed = z.infer<typeof spreadSchema>;
export type SignalFeed = z.infer<typeof signalSchema>;
export type FormulaFeed = z.infer<typeof formulaSchema>;
export type NumberFeed = z.infer<typeof numberFeedSchema>;
export type GradientFeed = z.infer<typeof gradientSchema>;
export type ChannelsFeed = z.infer<typeof channelsSchema>;
export type ColourFeed = z.infer<typeof colourFeedSchema>;
/** Value of one component of a vector, or of a number that is the same for all particles. */
export type FrameFeed = number | SignalFeed | FormulaFeed;
/** Value of a number that each particle keeps from its birth. */
export type BirthFeed = z.infer<typeof birthFeedSchema>;
/** Plain numbers. */
export type Vector = [number, number, number];
export type VectorFeed = [FrameFeed, FrameFeed, FrameFeed];
export type Keys = z.infer<typeof keysSchema>;
export type Key = Keys[number];
/** Strokes of a flow brush: on the unit square of a plane, or in space along a surface. */
export const strokesSchema = z
  .array(
    z.union([
      z.strictObject({
        /** Points x, y in turn, 0 to 1 from the left and the top; the radius in the same measure. */
        points: z.array(z.number().min(-1).max(2)).min(4).max(4000),
        radius: z.number().min(0.001).max(1),
        strength: z.number().min(0).max(10),
      }),
      z.strictObject({
        /** Places x, y, z in turn, in metres from the force's centre; the radius in metres. */
        places: z.array(z.number().min(-1000).max(1000)).min(6).max(6000),
        radius: z.number().min(0.001).max(100),
        strength: z.number().min(0).max(10),
      }),
    ]),
  )
  .max(500);
export type Strokes = z.infer<typeof strokesSchema>;

/** Metres: how thick a bone may be. */
export const BONE_RADIUS = { min: 0.001, max: 10 } as const;
/** How thick bones are, by the joint that each ends in. */
export const boneRadiiSchema = z
  .array(
    z.strictObject({
      joint: z.string().min(1).max(120),
      radius: z.number().min(BONE_RADIUS.min).max(BONE_RADIUS.max),
    }),
  )
  .max(500)
  .refine((all) => new Set(all.map((b) => b.joint)).size === all.length, 'names a joint twice');
export type BoneRadii = z.infer<typeof boneRadiiSchema>;
export type FlatStroke = Extract<Strokes[number], { points: unknown }>;
export type SpaceStroke = Extract<Strokes[number], { places: unknown }>;
export type DialValue =
  | NumberFeed
  | ColourFeed
  | VectorFeed
  | Keys
  | Strokes
  | string[]
  | Mask
  | Take
  | BoneRadii
  | Stop[]
  | Moves
  | Sets
  | Bursts;

function feedIs(value: DialValue, feed: string): boolean {
  return typeof value === 'object' && 'feed' in value && value.feed === feed;
}

export function isSpread(value: DialValue): value is SpreadFeed {
  return feedIs(value, 'spread');
}

export function isFixed(value: DialValue): value is FixedFeed {
  return feedIs(value, 'fixed');
}

export function isSignal(value: DialValue): value is SignalFeed {
  return feedIs(value, 'signal');
}

export function isFormula(value: DialValue): value is FormulaFeed {
  return feedIs(value, 'formula');
}

export function isGradient(value: DialValue): value is GradientFeed {
  return feedIs(value, 'gradient');
}

export function isLayers(value: DialValue): value is LayersFeed {
  return feedIs(value, 'layers');
}

/** The layers of a colour that has any. */
export function layersOf(value: DialValue | undefined): ColourLayer[] {
  return value !== undefined && isLayers(value) ? value.layers : [];
}

/** A number that is looked up in a picture. */
export function isMap(value: NumberFeed): value is MapFeed {
  return feedIs(value, 'map');
}

/** A colour that is. */
export function isColourMap(value: ColourFeed): value is ColourMapFeed {
  return feedIs(value, 'map');
}

/** The map in a value that is one. */
export function mapOf(value: DialValue): MapFeed | ColourMapFeed | null {
  return feedIs(value, 'map') ? (value as MapFeed | ColourMapFeed) : null;
}

export function isChannels(value: DialValue): value is ChannelsFeed {
  return feedIs(value, 'channels');
}

export function isPlaceColour(value: DialValue): value is z.infer<typeof placeColourSchema> {
  return feedIs(value, 'place');
}

/** Whether it is the colour of the place of birth, or has a layer that goes by it. */
export function wantsPlaceColour(value: DialValue): boolean {
  return isPlaceColour(value) || layersOf(value).some((l) => l.by === 'place');
}

/** The least and the greatest value a number feed can give, its shape over life left aside. */
export function rangeOf(value: NumberFeed): [number, number] {
  if (typeof value === 'number') return [value, value];
  if (value.feed === 'fixed') return [value.value, value.value];
  return [Math.min(value.from, value.to), Math.max(value.from, value.to)];
}

export function overOf(value: DialValue): Shape | undefined {
  return typeof value === 'object' && 'over' in value ? value.over : undefined;
}
