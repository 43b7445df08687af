import type { Planes } from './planes';

/** Gives the decoded pictures of a video from one of its numbers on, in order. */
export type DecodeFrom = (index: number) => AsyncGenerator<Planes, void, undefined>;

type Decoded = IteratorResult<Planes, unknown>;

/** A decoder at work: the picture that it began with, and the number of the next, which is already on its way. */
interface Running {
  first: number;
  frames: AsyncGenerator<Planes, void, undefined>;
  next: number;
  coming: Promise<Decoded>;
}

/** Pictures that are decoded and left out rather than beginning anew. */
const NEAR = 48;
/** Decoders at work: time is run once more from the start while the piece plays on. */
const MOST = 2;

/**
 * Any picture of a video: decoding goes on where a decoder stands, one picture ahead of what is asked for, or
 * begins anew; one request after the other. Where one is damaged, or a file that is cut short has fewer than it says,
 * the last one before it stays.
 */
export function inOrder(from: DecodeFrom, count: number): (index: number) => Promise<Planes> {
  /** The one used last is last. */
  let running: Running[] = [];
  /** For each picture that there is not, the one that is shown for it. */
  const missing = new Map<number, number>();
  let turn: Promise<unknown> = Promise.resolve();

  const at = async (index: number): Promise<Running> => {
    const found = running.find(({ next }) => index >= next && index <= next + NEAR);
    if (found) return found;
    if (running.length >= MOST) await running.shift()!.frames.return();
    const frames = from(index);
    return { first: index, frames, next: index, coming: nextOf(frames) };
  };

  const read = async (index: number): Promise<Planes> => {
    const shown = missing.get(index);
    if (shown !== undefined) return read(shown);
    const decoder = await at(index);
    running = [...running.filter((r) => r !== decoder), decoder];
    for (;;) {
      const decoded = await decoder.coming;
      if (decoded.done) {
        running = running.filter((r) => r !== decoder);
        if (decoder.first === index) return before(index, decoded.value);
        // Behind what is damaged there may be more.
        return read(index);
      }
      decoder.next += 1;
      decoder.coming = nextOf(decoder.frames);
      if (decoder.next > index) return decoded.value;
    }
  };

  const before = async (index: number, why: unknown): Promise<Planes> => {
    if (index === 0) throw problem(why, count);
    const found = await read(index - 1);
    missing.set(index, missing.get(index - 1) ?? index - 1);
    return found;
  };

  return (index) => {
    const result = turn.then(() => read(index));
    turn = result.catch(() => undefined);
    return result;
  };
}

/** The next picture; where it is damaged, the end, and why. */
async function nextOf(frames: Running['frames']): Promise<Decoded> {
  try {
    return await frames.next();
  } catch (error) {
    return { done: true, value: error };
  }
}

function problem(error: unknown, count: number): Error {
  if (error instanceof Error) return error;
  return new Error(`picture 1 of ${String(count)} cannot be decoded`);
}
