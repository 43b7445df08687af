import { z } from 'zod';
import {
  birthFeedSchema,
  colourFeedSchema,
  formulaText,
  frameFeedSchema,
  keysSchema,
  numberFeedSchema,
  rangeOf,
  strokesSchema,
  type ColourFeed,
  type DialValue,
  type FrameFeed,
  type Keys,
  type NumberFeed,
  type Vector,
} from '../feeds/feeds';
import { maskSchema } from '../feeds/mask';
import type { StockType } from '../stock/stock';

/**
 * How far a dial may vary: not at all (`never`), one value for all that may change with time
 * (`frame`), one per particle (`birth`), or one per particle with a shape over its life (`life`).
 */
export type Varies = 'never' | 'frame' | 'birth' | 'life';

interface Common {
  title: string;
  help: string;
  group: string;
  /** Shown only where another dial of the part has one of these values. */
  when?: { dial: string; is: readonly string[] } | { dial: string; not: number | string };
}

export interface NumberDial extends Common {
  type: 'number';
  unit: string;
  min: number;
  max: number;
  default: NumberFeed;
  varies: Varies;
  /** Whole numbers only. */
  whole?: boolean;
  /** What a sideways drag covers evenly: the value (the default) or its logarithm. */
  drag?: 'even' | 'log';
}

export interface VectorDial extends Common {
  type: 'vector';
  unit: string;
  min: number;
  max: number;
  default: Vector;
}

export interface ColourDial extends Common {
  type: 'colour';
  default: ColourFeed;
  varies: 'frame' | 'life';
}

export interface ChoiceDial extends Common {
  type: 'choice';
  options: readonly { value: string; title: string }[];
  default: string;
}

/** An item of the stock, by id; '' is none. */
export interface StockDial extends Common {
  type: 'stock';
  accepts: readonly StockType[];
  default: '';
}

/** Things of the stock in order, by their ids. */
export interface StocksDial extends Common {
  type: 'stocks';
  accepts: readonly StockType[];
  default: [];
}

export interface KeysDial extends Common {
  type: 'keys';
  default: Keys;
}

/** A formula of the frame's names. */
export interface TextDial extends Common {
  type: 'formula';
  default: string;
}

/** Another swarm of the piece, by id; '' is none. */
export interface SwarmDial extends Common {
  type: 'swarm';
  default: '';
}

/** Shapes drawn over the picture. */
export interface MaskDial extends Common {
  type: 'mask';
  /** What its outlines may be. */
  accepts: readonly StockType[];
  default: [];
}

/** Directions brushed by hand. */
export interface StrokesDial extends Common {
  type: 'strokes';
  default: [];
}

/** Whether a dial has a meaning beside the values that the others have. */
export function isWanted(spec: DialSpec, values: DialValues): boolean {
  if (!spec.when) return true;
  const other = values[spec.when.dial];
  return 'is' in spec.when ? spec.when.is.includes(other as string) : other !== spec.when.not;
}

export type DialSpec =
  | NumberDial
  | VectorDial
  | ColourDial
  | ChoiceDial
  | StockDial
  | StocksDial
  | KeysDial
  | TextDial
  | SwarmDial
  | StrokesDial
  | MaskDial;
export type Dials = Record<string, DialSpec>;
export type DialValues = Record<string, DialValue>;

type NumberOptions = Partial<Omit<NumberDial, 'type' | 'default' | 'title' | 'help'>>;

export function number(
  title: string,
  value: NumberFeed,
  [min, max]: [number, number],
  help: string,
  options: NumberOptions = {},
): NumberDial {
  // What counts things, as octaves or places, is part of the structure.
  const varies = options.whole ? ('never' as const) : ('frame' as const);
  const rest = { unit: '', varies, group: 'Dials', ...options };
  return { type: 'number', title, default: value, min, max, help, ...rest };
}

export function vector(
  title: string,
  value: Vector,
  limit: number,
  unit: string,
  help: string,
  options: Partial<Pick<VectorDial, 'group' | 'when'>> = {},
): VectorDial {
  const range = { min: -limit, max: limit };
  return {
    type: 'vector',
    title,
    default: value,
    ...range,
    unit,
    help,
    group: 'Dials',
    ...options,
  };
}

export function choice(
  title: string,
  value: string,
  options: Record<string, string>,
  help: string,
  more: Partial<Pick<ChoiceDial, 'group' | 'when'>> = {},
): ChoiceDial {
  const list = Object.entries(options).map(([v, t]) => ({ value: v, title: t }));
  return { type: 'choice', title, default: value, options: list, help, group: 'Dials', ...more };
}

export function stockDial(
  title: string,
  accepts: readonly StockType[],
  help: string,
  more: Partial<Pick<StockDial, 'group' | 'when'>> = {},
): StockDial {
  return { type: 'stock', title, accepts, default: '', help, group: 'Dials', ...more };
}

export function stocksDial(
  title: string,
  accepts: readonly StockType[],
  help: string,
  more: Partial<Pick<StocksDial, 'group' | 'when'>> = {},
): StocksDial {
  return { type: 'stocks', title, accepts, default: [], help, group: 'Dials', ...more };
}

/** What a file may hold for a dial; a dial that is left out takes its default. */
export function dialSchema(spec: DialSpec): z.ZodType<DialValue> {
  switch (spec.type) {
    case 'choice':
      return z.enum(spec.options.map((o) => o.value)).prefault(spec.default);
    case 'colour': {
      const schema = spec.varies === 'frame' ? colourFeedSchema.options[0] : colourFeedSchema;
      return (schema as z.ZodType<ColourFeed, ColourFeed>).prefault(spec.default);
    }
    case 'vector': {
      const part = frameSchema(spec);
      return z.tuple([part, part, part]).prefault(spec.default);
    }
    case 'number':
      return numberSchema(spec).prefault(spec.default);
    case 'stock':
    case 'swarm':
      return z.string().max(64).prefault('');
    case 'stocks':
      return z.array(z.string().min(1).max(64)).max(64).prefault([]);
    case 'keys':
      return keysSchema.prefault(spec.default);
    case 'formula':
      return formulaText(false).prefault(spec.default);
    case 'strokes':
      return strokesSchema.prefault([]);
    case 'mask':
      return maskSchema.prefault([]);
  }
}

function limited(spec: { min: number; max: number; whole?: boolean }): z.ZodNumber {
  const schema = z.number().min(spec.min).max(spec.max);
  return spec.whole ? schema.int() : schema;
}

type Limits = Pick<NumberDial, 'min' | 'max' | 'whole'>;

function within<T extends NumberFeed>(schema: z.ZodType<T, T>, spec: Limits): z.ZodType<T, T> {
  const inside = (v: T): boolean => rangeOf(v).every((x) => x >= spec.min && x <= spec.max);
  const limits = `must stay within ${String(spec.min)} and ${String(spec.max)}`;
  return schema.refine(inside, { message: limits });
}

function frameSchema(spec: Limits): z.ZodType<FrameFeed, FrameFeed> {
  return within(frameFeedSchema as z.ZodType<FrameFeed, FrameFeed>, spec);
}

function numberSchema(spec: NumberDial): z.ZodType<NumberFeed, NumberFeed> {
  switch (spec.varies) {
    case 'never':
      return limited(spec);
    case 'frame':
      return frameSchema(spec);
    case 'birth':
      return within(birthFeedSchema as z.ZodType<NumberFeed, NumberFeed>, spec);
    case 'life':
      return within(numberFeedSchema as z.ZodType<NumberFeed, NumberFeed>, spec);
  }
}

export function dialsSchema(dials: Dials): z.ZodType<DialValues> {
  const shape = Object.fromEntries(Object.entries(dials).map(([k, spec]) => [k, dialSchema(spec)]));
  return z.strictObject(shape).prefault({});
}

export function defaults(dials: Dials): DialValues {
  return Object.fromEntries(
    Object.entries(dials).map(([k, spec]) => [k, structuredClone(spec.default)]),
  );
}
