import { z } from '../zod';
import { controlValueSchema, isHex, type ControlValue } from '../feeds/control';
import { EASES } from '../feeds/shape';
import { calledName } from '../piece/controls';
import { thereAre } from '../piece/thereAre';

/** Messages between those who run a show from outside, the server, and the page that runs the piece. */

const name = z.string().min(1).max(200);
const seconds = z.number().min(0).max(3600);

/** A control as it is offered to the outside. */
const offeredSchema = z.strictObject({
  id: z.string().max(64),
  name,
  holds: z.enum(['number', 'switch', 'colour', 'gradient', 'picture', 'option']),
  group: z.string().max(64),
  unit: z.string().max(64),
  /** Of a number: its ends. */
  low: z.number().optional(),
  high: z.number().optional(),
  /** Of a picture or a choice: what it can be. */
  options: z.array(z.string().max(120)).max(500).optional(),
});
export type Offered = z.infer<typeof offeredSchema>;

/** All that can be run of what a page shows. */
export const offerSchema = z.strictObject({
  piece: z.string().max(120),
  controls: z.array(offeredSchema).max(200),
  cues: z.array(z.strictObject({ id: z.string().max(64), name })).max(500),
  /** Addresses of others that controls and cues have learnt. */
  learnt: z.array(z.string().max(200)).max(1000),
  /** Entries of the show that is run; where none is, one piece alone is run. */
  pieces: z
    .array(z.strictObject({ id: z.string().max(64), name }))
    .max(500)
    .optional(),
});
export type Offer = z.infer<typeof offerSchema>;

/** Message to the server from a page that runs a piece. */
export const runnerSchema = z.union([
  z.strictObject({ offer: offerSchema }),
  /** Present values of controls, by id. */
  z.strictObject({ values: z.record(z.string().max(64), controlValueSchema) }),
]);
export type RunnerNews = z.infer<typeof runnerSchema>;

const messageSchema = z.union([
  z.strictObject({
    set: name,
    to: z.unknown(),
    /** Seconds. */
    over: seconds.optional(),
    ease: z.enum(EASES).optional(),
  }),
  z.strictObject({ cue: name }),
  z.strictObject({ piece: name }),
  z.strictObject({ next: z.literal(true) }),
  z.strictObject({ blackout: z.boolean() }),
  z.strictObject({ list: z.literal(true) }),
  z.strictObject({ watch: z.boolean() }),
]);
export type ControlMessage = z.infer<typeof messageSchema>;
/** Those that ask for something to be done. */
type PieceMessage = Extract<ControlMessage, { set: string } | { cue: string }>;
export type ActMessage = Exclude<ControlMessage, { list: true } | { watch: boolean }>;

/** An act on a whole show, beside those on its pieces; `go` without an entry is to the next. */
export type ShowAct =
  | { all: 'go'; entry?: string }
  | { all: 'brightness'; to: number; over?: number }
  | { all: 'speed'; to: number }
  | { all: 'held'; to: boolean }
  | { all: 'blackout'; to: boolean };

/** An act on a piece, for the page that runs it. */
export type PieceAct =
  | { control: string; to: ControlValue; over?: number; ease?: (typeof EASES)[number] }
  | { cue: string };

/** An act for the page that runs a piece, or a show. */
export type OutsideAct = PieceAct | ShowAct;

/** Something outside, by what it is learnt as, and where it stands, from 0 to 1. */
export interface Moved {
  source: string;
  value: number;
}

/** Message of the server to the page that runs the piece. */
export interface RunnerTold {
  acts: OutsideAct[];
  moved: Moved[];
}

/** Why a message is not followed, in words that say what there is. */
export class NotFollowed extends Error {
  override readonly name = 'NotFollowed';
}

/**
 * Reads a message from outside: `{"set": "spread", "to": 0.7, "over": 3}`, `{"cue": "gust"}`, `{"list": true}` or
 * `{"watch": true}`; of a show also `{"piece": "ember-barge"}`, `{"next": true}` and `{"blackout": true}`.
 *
 * @throws NotFollowed that says what is wrong
 */
export function controlMessage(data: unknown): ControlMessage {
  const read = messageSchema.safeParse(data);
  if (read.success) return read.data;
  throw new NotFollowed(
    'this is not understood; known are {"set": name, "to": value, "over": seconds}, {"cue": name}, {"list": true}, {"watch": true}, and of a show {"piece": name}, {"next": true} and {"blackout": true or false}',
  );
}

/** No more names than somebody reads. */
const MOST_NAMES = 24;

/** A text of somebody else's, short, and with nothing in it that a terminal would act on. */
function quoted(text: string): string {
  return JSON.stringify(text.replace(/\p{C}/gu, '?').slice(0, 60));
}

function found<T extends { name: string }>(parts: readonly T[], called: string, what: string): T {
  const part = parts.find((p) => calledName(p.name) === calledName(called));
  if (part) return part;
  const names = parts.map((p) => calledName(p.name));
  throw new NotFollowed(`there is no ${what} ${quoted(called)}; ${thereAre(names, MOST_NAMES)}`);
}

/**
 * The act that a message asks for, checked against the piece.
 *
 * @throws NotFollowed that says what there is instead; then nothing is to be done
 */
export function actOf(offer: Offer, message: PieceMessage): PieceAct {
  if ('cue' in message) return { cue: found(offer.cues, message.cue, 'cue').id };
  const control = found(offer.controls, message.set, 'control');
  const to = valueFor(control, message.to);
  const { over, ease } = message;
  return { control: control.id, to, ...(over ? { over } : {}), ...(ease ? { ease } : {}) };
}

/**
 * The act on a whole show that a message asks for.
 *
 * @throws NotFollowed where no show is run, or it has no such piece
 */
export function showActOf({ pieces }: Offer, message: Exclude<ActMessage, PieceMessage>): ShowAct {
  if (!pieces) {
    throw new NotFollowed('no show is being run, one piece alone is; open the output of a show');
  }
  if ('piece' in message) return { all: 'go', entry: found(pieces, message.piece, 'piece').id };
  if ('blackout' in message) return { all: 'blackout', to: message.blackout };
  return { all: 'go' };
}

/** A value as a control takes it. */
function valueFor(control: Offered, to: unknown): ControlValue {
  const { name: called, holds, low = 0, high = 1, options = [] } = control;
  const wrong = (wanted: string): never => {
    const plain = typeof to === 'number' || to === undefined ? String(to) : JSON.stringify(to);
    const given = typeof to === 'string' ? quoted(to) : plain.slice(0, 60);
    throw new NotFollowed(`${calledName(called)} is ${wanted}; it cannot be ${given}`);
  };
  switch (holds) {
    case 'number': {
      const range = `a number from ${String(low)} to ${String(high)}`;
      const unit = control.unit ? ` ${control.unit}` : '';
      return typeof to === 'number' && to >= low && to <= high ? to : wrong(range + unit);
    }
    case 'switch':
      if (to === 0 || to === 1) return to === 1;
      if (to === 'on' || to === 'off') return to === 'on';
      return typeof to === 'boolean' ? to : wrong('a switch: true, false, 1, 0, "on" or "off"');
    case 'colour':
      return isHex(to) ? to.toLowerCase() : wrong('a colour, written "#rrggbb"');
    case 'gradient': {
      const stops = controlValueSchema.safeParse(to);
      if (stops.success && Array.isArray(stops.data)) return stops.data;
      return wrong('a gradient: a list of {"at": 0 to 1, "colour": "#rrggbb"} in order');
    }
    case 'picture':
    case 'option':
      return typeof to === 'string' && options.includes(to)
        ? to
        : wrong(`one of ${options.slice(0, MOST_NAMES).map(quoted).join(', ') || 'nothing'}`);
  }
}

/** A control as those outside are told of it. */
export interface Told extends Omit<Offered, 'id'> {
  /** The name it has outside. */
  called: string;
  value: ControlValue | null;
}

/** Message of the server to those outside. */
export type ControlAnswer =
  | { done: string }
  | { error: string }
  | {
      piece: string;
      controls: Told[];
      cues: { called: string; name: string }[];
      /** Of a show: its pieces in order. */
      pieces?: { called: string; name: string }[];
    }
  | { values: Record<string, ControlValue> };

/** The list of controls and cues with their values, as those outside get it. */
export function toldOf(offer: Offer, values: Readonly<Record<string, ControlValue>>) {
  const { piece, controls, cues, pieces } = offer;
  const plain = ({ name: called }: { name: string }) => ({
    called: calledName(called),
    name: called,
  });
  return {
    piece,
    controls: controls.map(({ id, ...rest }): Told => ({
      called: calledName(rest.name),
      ...rest,
      value: values[id] ?? null,
    })),
    cues: cues.map(plain),
    ...(pieces ? { pieces: pieces.map(plain) } : {}),
  };
}
