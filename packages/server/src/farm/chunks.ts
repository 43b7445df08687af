/** How the frames of a render are cut into chunks, and which of them can be begun. */

/** A render is cut into so many chunks, of as many frames at the least and at the most. */
const CHUNKS = 16;
const FEWEST = 8;
const MOST = 200;

export interface Chunk {
  first: number;
  last: number;
}

/** Neighbouring stretches of the frames from a first to a last one. */
export function chunksOf(first: number, last: number): Chunk[] {
  const count = last - first + 1;
  const size = Math.min(MOST, Math.max(FEWEST, Math.ceil(count / CHUNKS)));
  return Array.from({ length: Math.ceil(count / size) }, (_, i) => ({
    first: first + i * size,
    last: Math.min(last, first + (i + 1) * size - 1),
  }));
}

/** A render while it is made, as far as it is known. */
export interface Known {
  there: ReadonlySet<number>;
  /** Frames at whose end a state is kept. */
  states: ReadonlySet<number>;
  /** Whether each frame depends on the pictures before; null as long as nobody has said. */
  remembers: boolean | null;
  workers: number;
}

export const missingIn = ({ first, last }: Chunk, there: ReadonlySet<number>): number[] =>
  Array.from({ length: last - first + 1 }, (_, i) => first + i).filter((f) => !there.has(f));

/** The next task. */
export interface Turn {
  /** Chunks to be made now; the first one of all begins at the very beginning, others from the state before them. */
  chunks: readonly Chunk[];
  /** Frames at whose ends motion alone is to leave states. */
  states: readonly number[];
}

/**
 * Which chunks can be begun. Each leaves the state that the next one begins from; where several workers are there, or
 * what is before is made already, motion alone goes ahead and leaves them. What remembers pictures is made chunk by chunk.
 */
export function turnOf(chunks: readonly Chunk[], known: Known): Turn {
  const { there, states, remembers, workers } = known;
  const [opening] = chunks;
  // Whoever begins says whether it remembers.
  if (remembers === null) return { chunks: [opening!], states: [] };
  const stands = (c: Chunk): boolean => c === opening || states.has(c.first - 1);
  const missing = chunks.filter((c) => missingIn(c, there).length > 0);
  if (remembers) {
    const [next] = missing;
    // From the latest state on: pictures on the way to the next that is missing are made again, and not kept.
    const from = next && chunks.filter((c) => c.first <= next.first && stands(c)).at(-1);
    return { chunks: from ? [from] : [], states: [] };
  }
  const ready = missing.filter(stands);
  const waiting = missing.filter((c) => !stands(c)).map((c) => c.first - 1);
  // One that is being made leaves the state of the next.
  const chained = ready.at(-1)?.last === waiting[0];
  return { chunks: ready, states: workers > 1 || !chained ? waiting : [] };
}
