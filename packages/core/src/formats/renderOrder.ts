import { z } from '../zod';
import { FRAME_PASSES } from '../plan/passes';
import { isStill, STILLS, type StillFormat } from './stills';
import { CODECS, isVideo, QUALITIES, unfitIn, videoOf, VIDEOS, type VideoFormat } from './videos';

/**
 * Messages of the page and the server on renders. An order comes as a zip: `order.json`, `piece.swarm.json`, and
 * what the piece uses from files in the folder `stock`.
 */

/** Most letters of a name. */
const NAME = 200;

const namesOf = <T extends object>(table: T): (keyof T & string)[] =>
  Object.keys(table) as (keyof T & string)[];

/** Names of all that a frame or a video can be written as. */
export const formatNames = (): (StillFormat | VideoFormat)[] => [
  ...namesOf(STILLS),
  ...namesOf(VIDEOS),
];

const settings = z.strictObject({
  /** Of the piece. */
  name: z.string().min(1).max(NAME),
  format: z.custom<StillFormat | VideoFormat>(
    (name) => typeof name === 'string' && (isStill(name) || isVideo(name)),
    { error: () => `not a format: ${formatNames().join(', ')}` },
  ),
  codec: z.enum(namesOf(CODECS)).optional(),
  quality: z.enum(namesOf(QUALITIES)),
  alpha: z.boolean(),
  layers: z.array(z.enum(FRAME_PASSES)).max(FRAME_PASSES.length),
  width: z.int().min(16).max(16384),
  height: z.int().min(16).max(16384),
  first: z.int().min(0),
  last: z.int().min(0),
  oversample: z.int().min(1).max(4),
  /** Degrees. */
  shutter: z.number().min(0).max(720),
  /** Names of frames, with %04d where the number stands. */
  frames: z
    .string()
    .regex(/^[^/\\:*?"<>|\p{Cc}]*%0?\d?d[^/\\:*?"<>|\p{Cc}]*$/u)
    .max(NAME),
});
export type RenderOrder = z.infer<typeof settings>;

/** The part of an order that does not go with the others, and why; null where all do. */
function misfit(order: RenderOrder): [keyof RenderOrder, string] | null {
  const { format, codec, layers, first, last } = order;
  if (last < first) return ['last', 'comes before first'];
  if (!isVideo(format)) {
    if (codec !== undefined) return ['codec', `is for videos, and the format is ${format}`];
    if (layers.length > 0 && !STILLS[format].layers)
      return ['layers', `only OpenEXR has them, and the format is ${format}`];
    return null;
  }
  if (layers.length > 0) return ['layers', 'a video has none'];
  const { codecs } = videoOf(format);
  const used = codec ?? codecs[0];
  const unfit = unfitIn({ ...order, format, codec: used });
  if (unfit === null) return null;
  const why = {
    codec: `a .${format} file has ${codecs.join(' or ')}`,
    alpha: `${used} has no transparency`,
    width: 'of a video is even',
    height: 'of a video is even',
  };
  return [unfit, why[unfit]];
}

/** An order, with what goes together. */
export const orderSchema = settings.superRefine((order, context) => {
  const wrong = misfit(order);
  if (wrong) context.addIssue({ code: 'custom', path: [wrong[0]], message: wrong[1] });
});

export const RENDER_STATES = [
  'waiting',
  'running',
  'paused',
  'done',
  'failed',
  'cancelled',
] as const;

/** A render as it stands. */
export const renderJobSchema = z.object({
  id: z.string(),
  order: orderSchema,
  state: z.enum(RENDER_STATES),
  /** Larger ones come first; those of one priority as they were added. */
  priority: z.int(),
  /** Milliseconds since 1970. */
  added: z.number(),
  ended: z.number().nullable(),
  /** Frames that are there. */
  done: z.int(),
  perSecond: z.number(),
  secondsLeft: z.number().nullable(),
  /** The latest frame that is there; null before the first. */
  frame: z.int().nullable(),
  /** Why it failed. */
  problem: z.string().nullable(),
  /** Where its files are, at the server. */
  folder: z.string(),
  /** The stretches in which it is being made, where several work at it, with how many frames of each are there. */
  chunks: z.array(z.object({ first: z.int(), last: z.int(), made: z.int() })).optional(),
});
export type RenderJob = z.infer<typeof renderJobSchema>;

/** Somebody who makes frames for a server, as they tell of themselves. */
export const farmWorkerSchema = z.object({
  id: z.string(),
  name: z.string(),
  threads: z.int(),
  /** The program: only equal ones make equal pixels. */
  program: z.string(),
  /** Their present task; null between two. */
  at: z
    .object({
      render: z.string(),
      piece: z.string(),
      task: z.enum(['frames', 'states']),
      first: z.int(),
      last: z.int(),
    })
    .nullable(),
  /** Frames that they have made, and how many a second of late. */
  made: z.int(),
  perSecond: z.number(),
});
export type FarmWorker = z.infer<typeof farmWorkerSchema>;

/** Acts on a render. */
export const JOB_ACTS = ['pause', 'go', 'cancel', 'retry', 'sooner', 'later'] as const;
export type JobAct = (typeof JOB_ACTS)[number];

/** In which states each can be done. */
const WHEN: Record<JobAct, readonly RenderJob['state'][]> = {
  pause: ['waiting', 'running'],
  go: ['paused'],
  cancel: ['waiting', 'running', 'paused'],
  retry: ['failed', 'cancelled'],
  sooner: ['waiting', 'paused'],
  later: ['waiting', 'paused'],
};

export const canAct = ({ state }: Pick<RenderJob, 'state'>, act: JobAct): boolean =>
  WHEN[act].includes(state);

/** Frames from a first to a last one. */
export const frameCount = ({ first, last }: { first: number; last: number }): number =>
  last - first + 1;

/** Whether a render is not through: it is made, or will be. */
export const isOpenRender = ({ state }: Pick<RenderJob, 'state'>): boolean =>
  state === 'waiting' || state === 'running' || state === 'paused';

type Turn = Pick<RenderJob, 'state' | 'priority' | 'added' | 'ended'>;

/** Sorts renders by the order in which they are made; what has ended comes behind, the latest first. */
export function byTurn(a: Turn, b: Turn): number {
  const rank = (one: Turn): number => (one.state === 'running' ? 0 : isOpenRender(one) ? 1 : 2);
  if (rank(a) !== rank(b)) return rank(a) - rank(b);
  if (rank(a) === 2) return (b.ended ?? 0) - (a.ended ?? 0);
  return b.priority - a.priority || a.added - b.added;
}
