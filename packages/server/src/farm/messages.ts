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

const common = {
  /** The render. */
  render: z.string(),
  /** The program that made the chunk: only the same one makes the same pixels. */
  program: z.string(),
  order: orderSchema,
  /** The piece, and the files of its stock by their names: by the hash of what is in them. */
  piece: z.string(),
  stock: z.record(z.string(), z.string()),
  /** The frame at whose end the state stands from which it begins; null at the very beginning. */
  begin: z.int().nullable(),
};

/** A worker's task. */
export const taskSchema = z.discriminatedUnion('task', [
  z.object({
    ...common,
    task: z.literal('frames'),
    /** Frames that are wanted, in order; and the last one of the chunk, at which a state is left for the next. */
    wanted: z.array(z.int()),
    last: z.int(),
    leaves: z.boolean(),
  }),
  /** Motion alone, for those who begin later. */
  z.object({ ...common, task: z.literal('states'), at: z.array(z.int()) }),
]);
export type Task = z.infer<typeof taskSchema>;

/** A worker's message on its task. */
export const saidSchema = z.discriminatedUnion('said', [
  /** Whether frames depend on those before as pictures, so that chunks are made one behind the other. */
  z.object({ said: z.literal('about'), remembers: z.boolean() }),
  z.object({ said: z.literal('state'), frame: z.int() }),
  z.object({
    said: z.literal('frame'),
    frame: z.int(),
    /** The name it stands under, how long it is, and its SHA-256. */
    name: z.string(),
    bytes: z.int(),
    sum: z.string(),
    by: z.string(),
  }),
]);
export type Said = z.infer<typeof saidSchema>;
