import { z } from 'zod';
import { catalogue, type Shelf } from '../catalogue';
import { dialsSchema, type DialValues } from '../catalogue/dials';
import { swarmDials } from '../catalogue/swarmDials';
import { stockEntrySchema } from '../stock/stock';
import { referenceProblems } from './references';

/**
 * The piece file is JSON of this schema. Dials that are left out take their defaults; everything
 * else has to be there.
 */

export const FORMAT = 'vast-swarm piece';
export const VERSION = 4;

/** A kind with its dials. */
export interface Choice {
  kind: string;
  dials: DialValues;
}

/** Something of the piece that has a name and can be switched off. */
export interface Part extends Choice {
  id: string;
  name: string;
  on: boolean;
}

export interface Swarm {
  id: string;
  name: string;
  on: boolean;
  emitter: Choice;
  launch: Choice;
  /** What is drawn for each particle, in order. */
  bodies: Part[];
  dials: DialValues;
  /** Repeats of the whole swarm; each repeats what the ones before it made. */
  copies: Copies[];
  /** Id of a swarm that this one follows: it has all its settings, save its own. */
  follows?: string | undefined;
  /** Settings that a follower has for itself: `emitter`, `launch`, `bodies`, `copies`, or a dial's key. */
  own?: string[] | undefined;
}

const id = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, 'an id has 1 to 64 letters, digits, - or _');
const name = z.string().min(1).max(120);

function choiceOf(shelf: Shelf): z.ZodType<Choice> {
  const options = catalogue[shelf].map((k) =>
    z.strictObject({ kind: z.literal(k.kind), dials: dialsSchema(k.dials) }),
  );
  return union(options);
}

function partOf(shelf: Shelf): z.ZodType<Part> {
  const options = catalogue[shelf].map((k) =>
    z.strictObject({
      id,
      name,
      on: z.boolean(),
      kind: z.literal(k.kind),
      dials: dialsSchema(k.dials),
    }),
  );
  return union(options);
}

function union<T>(options: z.ZodObject[]): z.ZodType<T> {
  return z.discriminatedUnion(
    'kind',
    options as unknown as [z.ZodObject],
  ) as unknown as z.ZodType<T>;
}

const triple = (limit: number) => {
  const part = z.number().min(-limit).max(limit);
  return z.tuple([part, part, part]);
};

/** So many repeats, the first being the swarm itself; each is placed relative to the one before. */
const copiesSchema = z.strictObject({
  count: z.number().int().min(1).max(1000),
  /** Metres. */
  offset: triple(1000),
  /** Degrees about x, then y, then z. */
  turn: triple(3600),
  scale: z.number().min(0.01).max(10),
});
export type Copies = z.infer<typeof copiesSchema>;

const swarm: z.ZodType<Swarm> = z.strictObject({
  id,
  name,
  on: z.boolean(),
  emitter: choiceOf('emitters'),
  launch: choiceOf('launches'),
  bodies: z.array(partOf('bodies')).max(8),
  dials: dialsSchema(swarmDials),
  copies: z.array(copiesSchema).max(4),
  follows: id.optional(),
  own: z.array(z.string().max(64)).max(64).optional(),
});

const frame = z.strictObject({
  width: z.number().int().min(16).max(16384),
  height: z.number().int().min(16).max(16384),
  /** Frames per second; the simulation's step is one frame. */
  rate: z.number().min(1).max(240),
  /** Frames, from 0. */
  length: z.number().int().min(1).max(200_000),
  /** Frames simulated before frame 0. */
  preroll: z.number().int().min(0).max(20_000),
});

export const pieceSchema = z
  .strictObject({
    format: z.literal(FORMAT),
    version: z.literal(VERSION),
    name,
    seed: z.number().int().min(0).max(2147483647),
    frame,
    backdrop: choiceOf('backdrops'),
    camera: choiceOf('cameras'),
    lights: z.array(partOf('lights')).max(16),
    /** Multiplies how many particles carry the picture; sizes and opacities make up for it. */
    density: z.number().min(0.01).max(100),
    swarms: z.array(swarm).max(64),
    forces: z.array(partOf('forces')).max(64),
    colliders: z.array(partOf('colliders')).max(64),
    signals: z.array(partOf('signals')).max(64),
    stock: z.array(stockEntrySchema).max(256),
    /** influence[force or collider][swarm]: how much the swarm feels it; 1 where nothing is said. */
    influence: z.record(id, z.record(id, z.number().min(-100).max(100))),
    finish: z.array(partOf('finish')).max(32),
  })
  .superRefine((piece, context) => {
    for (const { path, message } of referenceProblems(piece)) {
      context.addIssue({ code: 'custom', path, message });
    }
  });

export type Piece = z.infer<typeof pieceSchema>;

/** The schema as JSON Schema (draft 2020-12), for other programs. */
export function pieceJsonSchema(): unknown {
  return z.toJSONSchema(pieceSchema, { io: 'input', unrepresentable: 'any' });
}
