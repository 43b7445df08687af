import { z } from 'zod';
import {
  colourFeedSchema,
  fixedSchema,
  numberFeedSchema,
  rangeOf,
  spreadSchema,
  vectorSchema,
  type ColourFeed,
  type DialValue,
  type NumberFeed,
  type Vector,
} from '../feeds/feeds';

/**
 * How far a dial may vary: one value for all (`frame`), one per particle (`birth`), or one per
 * particle with a shape over its life (`life`).
 */
export type Varies = 'frame' | 'birth' | 'life';

interface Common {
  title: string;
  help: string;
  group: string;
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

export type DialSpec = NumberDial | VectorDial | ColourDial | ChoiceDial;
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
  const rest = { unit: '', varies: 'frame' as const, group: 'Dials', ...options };
  return { type: 'number', title, default: value, min, max, help, ...rest };
}

export function vector(
  title: string,
  value: Vector,
  limit: number,
  unit: string,
  help: string,
): VectorDial {
  const range = { min: -limit, max: limit };
  return { type: 'vector', title, default: value, ...range, unit, help, group: 'Dials' };
}

export function choice(
  title: string,
  value: string,
  options: Record<string, string>,
  help: string,
  group = 'Dials',
): ChoiceDial {
  const list = Object.entries(options).map(([v, t]) => ({ value: v, title: t }));
  return { type: 'choice', title, default: value, options: list, help, group };
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
    case 'vector':
      return z
        .tuple([limited(spec), limited(spec), limited(spec)])
        .prefault(spec.default)
        .pipe(vectorSchema);
    case 'number':
      return numberSchema(spec).prefault(spec.default);
  }
}

function limited(spec: { min: number; max: number; whole?: boolean }): z.ZodNumber {
  const schema = z.number().min(spec.min).max(spec.max);
  return spec.whole ? schema.int() : schema;
}

function numberSchema(spec: NumberDial): z.ZodType<NumberFeed, NumberFeed> {
  if (spec.varies === 'frame') return limited(spec);
  const inside = (v: NumberFeed): boolean =>
    rangeOf(v).every((x) => x >= spec.min && x <= spec.max);
  const limits = `must stay within ${String(spec.min)} and ${String(spec.max)}`;
  const schema: z.ZodType<NumberFeed, NumberFeed> =
    spec.varies === 'life'
      ? numberFeedSchema
      : z.union([z.number(), fixedSchema.omit({ over: true }), spreadSchema.omit({ over: true })]);
  return schema.refine(inside, { message: limits });
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
