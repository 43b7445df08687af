import { z } from '../zod';
import {
  birthFeedSchema,
  colourFeedSchema,
  formulaText,
  frameFeedSchema,
  keysSchema,
  numberFeedSchema,
  rangeOf,
  boneRadiiSchema,
  type BoneRadii,
  strokesSchema,
  type BirthFeed,
  type ColourFeed,
  type DialValue,
  type FrameFeed,
  type Keys,
  type NumberFeed,
  type Strokes,
  type Vector,
  type VectorFeed,
} from '../feeds/feeds';
import {
  burstsSchema,
  movesSchema,
  setsSchema,
  type Bursts,
  type Moves,
  type Sets,
} from '../feeds/control';
import { stopsSchema, type Stop } from '../feeds/gradient';
import { maskSchema, type Mask } from '../feeds/mask';
import { takeSchema, type Take } from '../feeds/take';
import type { StockType } from '../stock/types';

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

export interface NumberDial<V extends Varies = Varies> extends Common {
  type: 'number';
  unit: string;
  min: number;
  max: number;
  default: NumberFeed;
  varies: V;
  /** Whole numbers only. */
  whole?: boolean;
  /** Scale of a sideways drag: the value (the default) or its logarithm. */
  drag?: 'even' | 'log';
}

/**
 * How a vector can be taken hold of in the picture: as a place in the world; as a place in the part's
 * own frame (about its dials `centre` and `turn`); as a way from its centre; as the turn itself.
 */
export type Grasp = 'place' | 'ownPlace' | 'way' | 'turn';

export interface VectorDial extends Common {
  type: 'vector';
  unit: string;
  min: number;
  max: number;
  default: Vector;
  grasp?: Grasp;
}

export interface ColourDial<V extends 'frame' | 'life' = 'frame' | 'life'> extends Common {
  type: 'colour';
  default: ColourFeed;
  /** One colour for all, or what each particle may have. */
  varies: V;
}

export interface ChoiceDial<O extends string = string> extends Common {
  type: 'choice';
  options: readonly { value: O; title: string }[];
  default: O;
}

/** An item of the stock, by id; '' is none. */
export interface StockDial extends Common {
  type: 'stock';
  accepts: readonly StockType[];
  /** Whether it may also be one of the piece's moving pictures. */
  moving?: true;
  /** Whether it may also be a medium of the piece. */
  medium?: true;
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

/** A recording of a number from outside. */
export interface TakeDial extends Common {
  type: 'take';
  default: Take;
}

/** A formula of the frame's names. */
export interface TextDial extends Common {
  type: 'formula';
  default: string;
}

/** Another swarm of the piece, by id; '' is none. */
export interface SwarmDial extends Common {
  type: 'swarm';
  /** Meaning of an empty choice. */
  none: string;
  default: '';
}

/** A part of the piece, by id; '' is none. */
export interface PartDial extends Common {
  type: 'part';
  /** The list of the parts that it may be, as its section calls it. */
  of: string;
  default: '';
}

/** Joints of a performer by their names, in order; none is all. */
export interface JointsDial extends Common {
  type: 'joints';
  /** The dial that says which performer. */
  performer: string;
  /** How many at the most. */
  most: number;
  default: [];
}

/** How thick bones of a performer are: those that are named, by the joint that each ends in. */
export interface RadiiDial extends Common {
  type: 'radii';
  default: [];
}

/** Shapes drawn over the picture. */
export interface MaskDial extends Common {
  type: 'mask';
  /** Types of the stock that its outlines may be. */
  accepts: readonly StockType[];
  default: [];
}

/** Directions brushed by hand. */
export interface StrokesDial extends Common {
  type: 'strokes';
  default: [];
}

/** A word or two, as a unit or the name of a group. */
export interface LabelDial extends Common {
  type: 'label';
  default: '';
}

/** A key of the keyboard; '' is none. */
export interface ShortcutDial extends Common {
  type: 'shortcut';
  default: '';
}

/** The fader or button outside that moves it, as it was learnt: `midi 1 control 7`, `osc /fader/3`; '' is none. */
export interface LearntDial extends Common {
  type: 'learnt';
  default: '';
}

/** One of the options of the choices that a control moves. */
export interface OptionDial extends Common {
  type: 'option';
  default: '';
}

/** Stops of a gradient. */
export interface StopsDial extends Common {
  type: 'stops';
  default: Stop[];
}

/** Dials that a control moves. */
export interface MovesDial extends Common {
  type: 'moves';
  default: [];
}

/** Values that a cue sets controls to. */
export interface SetsDial extends Common {
  type: 'sets';
  default: [];
}

/** Particles of swarms that are born at one moment. */
export interface BurstsDial extends Common {
  type: 'bursts';
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
  | TakeDial
  | TextDial
  | SwarmDial
  | PartDial
  | JointsDial
  | RadiiDial
  | StrokesDial
  | MaskDial
  | LabelDial
  | ShortcutDial
  | LearntDial
  | OptionDial
  | StopsDial
  | MovesDial
  | SetsDial
  | BurstsDial;
export type Dials = Record<string, DialSpec>;
/** Values of the dials of some part of a piece, whatever the part. */
export type DialValues = Record<string, DialValue>;

/** Values of a number, by how far it varies. */
interface NumberValues {
  never: number;
  frame: FrameFeed;
  birth: BirthFeed;
  life: NumberFeed;
}

/** Value of a dial of a kind. */
export type ValueOf<S> =
  S extends NumberDial<infer V>
    ? NumberValues[V]
    : S extends ChoiceDial<infer O>
      ? O
      : S extends { type: 'vector' }
        ? VectorFeed
        : S extends { type: 'colour' }
          ? S extends { varies: 'frame' }
            ? string
            : ColourFeed
          : S extends {
                type:
                  | 'stock'
                  | 'swarm'
                  | 'part'
                  | 'formula'
                  | 'label'
                  | 'shortcut'
                  | 'learnt'
                  | 'option';
              }
            ? string
            : S extends { type: 'stocks' | 'joints' }
              ? string[]
              : S extends { type: 'keys' }
                ? Keys
                : S extends { type: 'take' }
                  ? Take
                  : S extends { type: 'strokes' }
                    ? Strokes
                    : S extends { type: 'mask' }
                      ? Mask
                      : S extends { type: 'radii' }
                        ? BoneRadii
                        : S extends { type: 'stops' }
                          ? Stop[]
                          : S extends { type: 'moves' }
                            ? Moves
                            : S extends { type: 'sets' }
                              ? Sets
                              : S extends { type: 'bursts' }
                                ? Bursts
                                : DialValue;

/** The values of some dials, each typed by its dial. */
export type ValuesOf<D extends Dials> = { [K in keyof D]: ValueOf<D[K]> };

/** The values of a part, typed from its kind's dials; the schema has seen to it that they fit. */
export function valuesOf<D extends Dials>(_: D, values: DialValues): ValuesOf<D> {
  return values as ValuesOf<D>;
}

type Matching<D extends Dials, S> = {
  [K in keyof D]: D[K] extends S ? K : never;
}[keyof D] &
  string;
/** Keys of the dials of one type; any key where nothing is known of the dials. */
export type KeysOf<D extends Dials, T extends DialSpec['type']> = string extends keyof D
  ? string
  : Matching<D, { type: T }>;
/** Keys of the numbers that never vary. */
export type PlainKeys<D extends Dials> = string extends keyof D
  ? string
  : Matching<D, NumberDial<'never'>>;

type Part<S extends DialSpec, K extends string> = Partial<Pick<S, Extract<keyof S, K>>>;
type More<S extends DialSpec> = Part<S, 'group' | 'when'>;

interface NumberOptions<V extends Varies, W extends boolean> extends More<NumberDial> {
  unit?: string;
  /** Whole numbers alone: counts, as of octaves or places, are part of the structure and never vary. */
  whole?: W;
  varies?: V;
  drag?: 'even' | 'log';
}

/** A number with its limits; it varies with time if nothing else is said. */
export function number<V extends Varies = 'frame', W extends boolean = false>(
  title: string,
  value: NumberFeed,
  [min, max]: [number, number],
  help: string,
  options: NumberOptions<V, W> = {},
): NumberDial<W extends true ? 'never' : V> {
  const varies = (options.whole ? 'never' : (options.varies ?? 'frame')) as never;
  const rest = { unit: '', group: 'Dials', ...options, varies };
  return { type: 'number', title, default: value, min, max, help, ...rest };
}

export function vector(
  title: string,
  value: Vector,
  limit: number,
  unit: string,
  help: string,
  options: More<VectorDial> & Pick<VectorDial, 'grasp'> = {},
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

export function choice<const O extends string>(
  title: string,
  value: NoInfer<O>,
  options: Readonly<Record<O, string>>,
  help: string,
  more: More<ChoiceDial> = {},
): ChoiceDial<O> {
  const list = Object.entries<string>(options).map(([v, t]) => ({ value: v as O, title: t }));
  return { type: 'choice', title, default: value, options: list, help, group: 'Dials', ...more };
}

export function stockDial(
  title: string,
  accepts: readonly StockType[],
  help: string,
  more: More<StockDial> = {},
): StockDial {
  return { type: 'stock', title, accepts, default: '', help, group: 'Dials', ...more };
}

/** A picture of the stock, or a moving one of the piece: a clip or a made map. */
export function pictureDial(title: string, help: string, more: More<StockDial> = {}): StockDial {
  return { ...stockDial(title, ['picture'], help, more), moving: true };
}

/** The same, or the light of a medium. */
export function shownDial(title: string, help: string, more: More<StockDial> = {}): StockDial {
  return { ...pictureDial(title, help, more), medium: true };
}

export function stocksDial(
  title: string,
  accepts: readonly StockType[],
  help: string,
  more: More<StocksDial> = {},
): StocksDial {
  return { type: 'stocks', title, accepts, default: [], help, group: 'Dials', ...more };
}

/** One colour for all, that may change with time. */
export function colourDial(title: string, value: string, help: string): ColourDial<'frame'> {
  return { type: 'colour', title, default: value, help, group: 'Dials', varies: 'frame' };
}

/** The text in place of a swarm that has to be chosen. */
export const NO_SWARM = 'Choose a swarm';

/** Another swarm of the piece. */
export function swarmDial(
  help: string,
  more: More<SwarmDial> & Partial<Pick<SwarmDial, 'none'>> = {},
): SwarmDial {
  const rest = { none: NO_SWARM, group: 'Dials', ...more };
  return { type: 'swarm', title: 'Swarm', help, default: '', ...rest };
}

/** Joints of the performer that another dial says. */
export function jointsDial(
  title: string,
  performer: string,
  help: string,
  more: More<JointsDial> & { most?: number } = {},
): JointsDial {
  const rest = { most: 64, group: 'Dials', ...more };
  return { type: 'joints', title, performer, default: [], help, ...rest };
}

export function radiiDial(title: string, help: string, more: More<RadiiDial> = {}): RadiiDial {
  return { type: 'radii', title, default: [], help, group: 'Dials', ...more };
}

/** A part of one list of the piece. */
export function partDial(
  title: string,
  of: string,
  help: string,
  more: More<PartDial> = {},
): PartDial {
  return { type: 'part', of, title, help, default: '', group: 'Dials', ...more };
}

/** The dial of a fader or button outside that moves a control, or fires a cue. */
export function learntDial(group: string): LearntDial {
  const help = 'A fader or a button outside: press Learn, then move it.';
  return { type: 'learnt', title: 'Learnt', help, group, default: '' };
}

/** The schema of a dial's value in files; a dial that is left out takes its default. */
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
    case 'part':
    case 'option':
      return z.string().max(64).prefault('');
    case 'label':
      return z.string().max(40).prefault('');
    case 'learnt':
      return z.string().max(200).prefault('');
    case 'shortcut':
      return z
        .string()
        .regex(/^([A-Za-z0-9]|F[1-9]|F1[0-2])?$/, 'a key is a letter, a digit or F1 to F12')
        .prefault('');
    case 'stops':
      return stopsSchema.prefault(spec.default);
    case 'moves':
      return movesSchema.prefault([]);
    case 'sets':
      return setsSchema.prefault([]);
    case 'bursts':
      return burstsSchema.prefault([]);
    case 'joints':
      return z.array(z.string().min(1).max(120)).max(spec.most).prefault([]);
    case 'stocks':
      return z.array(z.string().min(1).max(64)).max(64).prefault([]);
    case 'keys':
      return keysSchema.prefault(spec.default);
    case 'formula':
      return formulaText(false).prefault(spec.default);
    case 'take':
      return takeSchema.prefault(spec.default);
    case 'strokes':
      return strokesSchema.prefault([]);
    case 'radii':
      return boneRadiiSchema.prefault([]);
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

export function defaults<D extends Dials>(dials: D): ValuesOf<D> & DialValues {
  return Object.fromEntries(
    Object.entries(dials).map(([k, spec]) => [k, structuredClone(spec.default)]),
  ) as ValuesOf<D> & DialValues;
}
