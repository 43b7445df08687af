import { z } from '../zod';
import { FASTEST } from '../formats/offer';
import { documentText, parseDocument, validateDocument } from '../piece/document';
import type { FrameSettings } from '../piece/types';
import { wallSchema } from './wall';

export const SHOW_FORMAT = 'vast-swarm show';
export const SHOW_VERSION = 1;

const name = z.string().min(1).max(120);
const id = z.string().min(1).max(64);
/** Seconds of a piece: no longer than a piece can be. */
const second = z.number().min(0).max(36_000);

/** Starters of the entry behind one: its own end, a cue of its piece, or somebody's hand. */
export const STARTERS = ['time', 'cue', 'hand'] as const;
export type Starter = (typeof STARTERS)[number];

const entrySchema = z.strictObject({
  id,
  /** The id of the piece that it plays. */
  piece: id,
  /** The second of the piece at which it begins, and the one at which it ends; 0 is the end of the piece. */
  from: second,
  to: second,
  /** Seconds in which it comes in over what was before it; 0 is a cut. */
  fade: z.number().min(0).max(60),
  /** Starter of the next one. Until then this one begins again each time that it comes to its end. */
  next: z.enum(STARTERS),
  /** The cue of the piece that starts the next one, by its id; '' is none. */
  cue: z.string().max(64),
});
export type Entry = z.infer<typeof entrySchema>;

const sizeSchema = z.strictObject({
  width: z.number().int().min(16).max(16_384),
  height: z.number().int().min(16).max(16_384),
});

const showSchema = z
  .strictObject({
    format: z.literal(SHOW_FORMAT),
    version: z.literal(SHOW_VERSION),
    name,
    /** Pixels of the output; null is all of the screen that it is on. */
    size: sizeSchema.nullable(),
    /** Settings at the beginning of the night: how bright all of it is, and how fast time goes. */
    brightness: z.number().min(0).max(1),
    speed: z.number().min(0).max(FASTEST),
    /** Whether the first comes again behind the last. */
    again: z.boolean(),
    entries: z.array(entrySchema).max(500),
    /** The wall of panels that shows it beside the output; null is none. */
    wall: wallSchema.nullable(),
  })
  .refine((show) => new Set(show.entries.map((e) => e.id)).size === show.entries.length, {
    path: ['entries'],
    message: 'two entries have the same id; each has one of its own',
  });
/** The pieces of a night, in order. */
export type Show = z.infer<typeof showSchema>;

const SHOW = {
  what: 'show',
  format: SHOW_FORMAT,
  version: SHOW_VERSION,
  schema: () => showSchema,
};

/**
 * Reads a show file.
 * @throws PieceError with every problem that was found (20 at the most); nothing is half read
 */
export function parseShow(text: string): Show {
  return parseDocument(SHOW, text);
}

/** Checks data that is no text any more, as from the browser's storage. */
export function validateShow(data: unknown): Show {
  return validateDocument(SHOW, data);
}

/** The show as its file's text. */
export function showText(show: Show): string {
  return documentText(show);
}

export function makeShow(called: string): Show {
  return {
    format: SHOW_FORMAT,
    version: SHOW_VERSION,
    name: called,
    size: null,
    brightness: 1,
    speed: 1,
    again: false,
    entries: [],
    wall: null,
  };
}

/** An entry for a piece, as one begins with. */
export function makeEntry(piece: string, entryId: string): Entry {
  return { id: entryId, piece, from: 0, to: 0, fade: 2, next: 'time', cue: '' };
}

/** The frames of an entry in its piece: the first, and the one behind its last; one at the least. */
export function framesOf(
  { from, to }: Entry,
  { rate, length }: Pick<FrameSettings, 'rate' | 'length'>,
): { from: number; until: number } {
  const until = to > 0 ? Math.min(length, Math.max(1, Math.round(to * rate))) : length;
  return { from: Math.min(until - 1, Math.round(from * rate)), until };
}
