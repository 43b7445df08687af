import { z } from '../zod';

/** Messages between those who send joints, the server, and the pages. */

/** Metres: nobody is further away. */
const FAR = 1e5;
export const DOOR = { performers: 16, joints: 500, letters: 64 } as const;

const name = z
  .string()
  .trim()
  .min(1)
  .max(DOOR.letters)
  .regex(/^[^\p{C}]+$/u, 'is not printable');
const coordinate = z.number().min(-FAR).max(FAR);
const place = z.tuple([coordinate, coordinate, coordinate], 'three numbers are wanted: x, y, z');
const pose = z.strictObject({
  performer: name,
  /** Seconds by a clock of the sender. */
  time: z.number().min(0).max(1e11).optional(),
  joints: z.record(name, place).default({}),
  /** On which joint each hangs. */
  bones: z.record(name, name).default({}),
});

/** One pose of one performer, as it is sent. */
export type SentPose = z.infer<typeof pose>;

const poses = z.array(pose).max(DOOR.performers);

/**
 * Reads a message of joints: `{"performer": "Ada", "time": 1.5, "joints": {"head": [0, 1.6, 0]}, "bones": {"head":
 * "neck"}}`, or a list of such. Metres, y up; `time` and `bones` may be left out.
 *
 * @throws Error that says what is wrong, and where
 */
export function posesOf(message: unknown): SentPose[] {
  const form = Array.isArray(message) ? poses : pose;
  const read = form.safeParse(message);
  if (read.success) return [read.data].flat();
  const issue = read.error.issues[0]!;
  const where = issue.path.map(String).join('.');
  throw new Error(`${where ? `${where}: ` : ''}${issue.message}`);
}

/** Somebody who is there. */
export interface Present {
  name: string;
  joints: string[];
  /** By joint: the one that it hangs on, where that was said. */
  bones: Record<string, string>;
}

/** Message of the server to pages. */
export type DoorNews =
  /** Who is there, from now on. */
  | { present: Present[] }
  /** Where the joints of somebody are, x, y, z of each in the order in which they were told. */
  | { pose: string; time: number; places: number[] }
  /** Counts of the last second, messages that came and those that were refused, and the address for joints. */
  | { address: string; messages: number; refused: number; why: string };
