import { numbered } from '@vast-swarm/core/formats';
import type { StillAsked } from '@vast-swarm/core/formats';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Refused } from '../refused';
import { makeFolder, writeWhole } from '../writeWhole';
import type { Delivery } from './delivery';
import { takeLock, type Lock } from './lock';
import { isTrue, stampOf, stampText, type FramesMade, type Stamp } from './stamp';
import { stillOf } from './stills';
import { NUMBER } from './target';

/** Numbered frames in a folder. Each says of what it is made, so that a render that was ended can go on. */

export interface FolderAsked {
  folder: string;
  pattern: string;
  made: FramesMade;
  still: StillAsked;
  first: number;
  last: number;
  /** Whether frames that are there are kept. */
  resume: boolean;
}

/** So many of the latest frames are read when a render goes on: what was written last may not have reached the disk. */
const READ = 50;

/** The difference of a frame's making from another, in words; null where there is none. */
function otherThan(before: Record<string, unknown>, made: FramesMade): string | null {
  for (const [key, value] of Object.entries(made)) {
    if (before[key] === value) continue;
    if (key === 'piece') return 'the piece was another one, or has been changed since';
    return `their ${key} was ${String(before[key])}, and is ${String(value)} now`;
  }
  return null;
}

/**
 * Frames that are there and whole.
 * @throws Refused where they are of another making
 */
async function thereOf({
  folder,
  pattern,
  made,
  first,
  last,
}: FolderAsked): Promise<ReadonlySet<number>> {
  const found: { path: string; stamp: Stamp; written: number }[] = [];
  for (let frame = first; frame <= last; frame++) {
    const path = join(folder, numbered(pattern, frame));
    const one = stampOf(path);
    if (one?.stamp.frame !== frame) continue;
    const other = otherThan(one.stamp.made, made);
    if (other) {
      throw new Refused(
        `--resume: the frames in this folder are of another render: ${other}. Take another folder, or leave out --resume to begin anew.`,
      );
    }
    found.push({ path, ...one });
  }
  found.sort((a, b) => b.written - a.written);
  const read = found.slice(0, READ).map(({ path, stamp }) => isTrue(path, stamp));
  const whole = await Promise.all(read);
  return new Set(found.filter((_, i) => whole[i] ?? true).map(({ stamp }) => stamp.frame));
}

/**
 * A folder that takes frames.
 *
 * @throws Refused where it cannot be written, another render is at work in it, or what is there is of another making
 */
export async function openFolder(asked: FolderAsked): Promise<Delivery> {
  const { folder, pattern, first, last } = asked;
  await makeFolder(folder);
  const lock = await takeLock(folder, pattern.replace(NUMBER, ''), [first, last]);
  try {
    const there = asked.resume ? await thereOf(asked) : new Set<number>();
    return delivery(asked, lock, there);
  } catch (error) {
    lock.release();
    throw error;
  }
}

function delivery(
  { folder, pattern, made, still }: FolderAsked,
  lock: Lock,
  there: ReadonlySet<number>,
): Delivery {
  let part = '';
  return {
    has: (frame) => there.has(frame),
    async add(engine, drawn) {
      const { frame } = engine;
      const file = join(folder, numbered(pattern, frame));
      const bytes = await stillOf(still, engine, drawn, stampText(frame, made));
      part = `${file}.part`;
      await writeWhole(file, bytes);
    },
    finish: () => {
      lock.release();
      return Promise.resolve();
    },
    cancel: async () => {
      if (part) await rm(part, { force: true });
      lock.release();
    },
  };
}
