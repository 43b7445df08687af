import { orderSchema } from '@vast-swarm/core/formats';
import { z } from 'zod';

/** Messages between the server and its workers by way of the queue. */

/** Before all names of ours in Redis. */
export const PREFIX = 'vast-swarm';
export const QUEUE = 'renders';

export const keys = {
  /** The program that the queue is of. */
  build: `${PREFIX}:program`,
  blob: (hash: string): string => `${PREFIX}:blob:${hash}`,
  /** The state that a render's engine has at the end of a frame. */
  state: (render: string, frame: number): string => `${PREFIX}:state:${render}:${String(frame)}`,
  /** A finished frame on its way; each has a name of its own. */
  frame: (name: string): string => `${PREFIX}:frame:${name}`,
  /** Key of the messages of workers on a render, in order: see `saidSchema`. */
  said: (render: string): string => `${PREFIX}:said:${render}`,
  /** There while a render is not to be gone on with. */
  halted: (render: string): string => `${PREFIX}:halted:${render}`,
  /** The latest picture of a render, small. */
  look: (render: string): string => `${PREFIX}:look:${render}`,
  worker: (id: string): string => `${PREFIX}:worker:${id}`,
  refused: (id: string): string => `${PREFIX}:refused:${id}`,
};

/** Seconds that things stay which nobody takes away. */
export const STAYS = { blob: 86_400, state: 86_400, frame: 3600, worker: 8, refused: 60 } as const;

/** What a seal is for, see `Seal`. */
export const ABOUT = {
  task: 'task',
  said: (render: string): string => `said ${render}`,
  look: (render: string): string => `look ${render}`,
};

const sum = z.string().regex(/^[0-9a-f]{64}$/, 'no SHA-256');
const frame = z.int().min(0);
/** The name of a file in a folder, and of nothing else. */
const fileName = z.string().regex(/^(?!\.\.?$)[^/\\\p{Cc}]{1,255}$/u, 'no name of a file');
/** Most frames of a chunk, and states of one task. */
const MOST = 100_000;

const common = {
  /** The render. */
  render: z.string().regex(/^[\w-]{1,64}$/, 'no name of a render'),
  /** The program that made the chunk: only the same one makes the same pixels. */
  program: z.string().max(64),
  order: orderSchema,
  /** The piece, and the files of its stock by their names: by the hash of what is in them. */
  piece: sum,
  stock: z.record(fileName, sum),
  /** The frame at whose end the state stands from which it begins, and the state's hash; null at the very beginning. */
  begin: z.object({ frame, sum }).nullable(),
};

/** A worker's task. */
export const taskSchema = z.discriminatedUnion('task', [
  z.object({
    ...common,
    task: z.literal('frames'),
    /** Frames that are wanted, in order; and the last one of the chunk, at which a state is left for the next. */
    wanted: z.array(frame).max(MOST),
    last: frame,
    leaves: z.boolean(),
  }),
  /** Motion alone, for those who begin later. */
  z.object({ ...common, task: z.literal('states'), at: z.array(frame).max(MOST) }),
]);
export type Task = z.infer<typeof taskSchema>;

/** A worker's message on its task. */
export const saidSchema = z.discriminatedUnion('said', [
  /** Whether frames depend on those before as pictures, so that chunks are made one behind the other. */
  z.object({ said: z.literal('about'), remembers: z.boolean() }),
  z.object({ said: z.literal('state'), frame, sum }),
  z.object({
    said: z.literal('frame'),
    frame,
    /** The name it stands under, how long it is, and its SHA-256. */
    name: z.string().regex(/^[\w:-]{1,100}$/),
    bytes: z.int(),
    sum,
    by: z.string(),
  }),
]);
export type Said = z.infer<typeof saidSchema>;
