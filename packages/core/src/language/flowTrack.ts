import { kept } from '../stock/clip/kept';
import { seenIn } from '../stock/clip/look';
import { windowed } from '../stock/clip/opticalFlow';
import { allOf, thenDo } from '../stock/clip/soon';
import type { MovingPicture } from '../stock/types';
import type { BlockTrack } from './track';

export interface FlowOptions {
  /** Cells along the picture's longer side in which motion is looked for. */
  detail: number;
  /** Part of the longer side over which it is smoothed. */
  smooth: number;
  /** How many changes of the picture it is the mean of. */
  steady: number;
}

/** Frames that are looked back for a change of the picture: one that stands still longer has no motion. */
const FURTHEST = 120;

/** From one state of a moving picture to the next, and the frames that it took. */
interface Change {
  from: number;
  to: number;
  frames: number;
}

/** The frame from which on a frame's state is there; null where it is too long ago to tell. */
function sinceOf({ stateAt, jumps }: MovingPicture, frame: number): number | null {
  const state = stateAt(frame);
  for (let f = frame; f > frame - FURTHEST; f--) {
    if (f === 0 || jumps?.(f) || stateAt(f - 1) !== state) return f;
  }
  return null;
}

/** The change that a frame shows: that which brought its state, or at a beginning the one that ends it. */
export function changeAt(moving: MovingPicture, frame: number): Change | null {
  const { stateAt, jumps } = moving;
  const since = sinceOf(moving, frame);
  if (since === null) return null;
  const to = stateAt(since);
  if (since > 0 && !jumps?.(since)) {
    const before = sinceOf(moving, since - 1);
    return { from: stateAt(since - 1), to, frames: before === null ? 1 : since - before };
  }
  for (let f = since + 1; f < since + FURTHEST; f++) {
    if (jumps?.(f)) return null;
    if (stateAt(f) !== to) return { from: to, to: stateAt(f), frames: f - since };
  }
  return null;
}

/** Changes up to the one that a frame shows, the last first; none from behind a jump. */
function changesAt(moving: MovingPicture, frame: number, steady: number): Change[] {
  const changes: Change[] = [];
  let at = frame;
  while (changes.length < steady) {
    const change = changeAt(moving, at);
    if (!change) break;
    changes.push(change);
    const since = sinceOf(moving, at)!;
    if (since === 0 || moving.jumps?.(since)) break;
    at = since - 1;
  }
  return changes;
}

/** Flows that were found last. */
const KEPT = 16;

/** Grid cells of what the flow of a moving picture is found in. */
export function flowSize(
  { width, height }: MovingPicture,
  detail: number,
): { width: number; height: number } {
  const scale = Math.min(1, detail / Math.max(width, height));
  const cells = (n: number): number => Math.max(1, Math.round(n * scale));
  return { width: cells(width), height: cells(height) };
}

/**
 * The motion that is seen in a moving picture, as a track: for each cell, rows from the top, how far it moves to
 * the right and then for each how far up, in widths and heights of the picture a frame. A block is named by the
 * frame from which on it counts.
 */
export function flowTrack(moving: MovingPicture, options: FlowOptions): BlockTrack {
  const { detail, smooth, steady } = options;
  const { width, height } = flowSize(moving, detail);
  const count = width * height;
  const radius = Math.round(smooth * Math.max(width, height));
  const flows = kept(KEPT, (key: string) =>
    seenIn(moving, key.split(' ').map(Number), { find: 'motion', detail }),
  );
  const add = (block: Float32Array, flow: Float32Array, share: number): void => {
    for (let i = 0; i < count; i++) {
      block[i]! += (flow[i]! / width) * share;
      block[count + i]! -= (flow[count + i]! / height) * share;
    }
  };
  const smoothed = (block: Float32Array): Float32Array => {
    if (radius < 1) return block;
    for (const part of [block.subarray(0, count), block.subarray(count)]) {
      part.set(windowed(part, width, height, radius));
    }
    return block;
  };
  return {
    name: `flow.${JSON.stringify(options)}.${moving.name}`,
    words: 2 * count,
    // Its blocks are its own: what was found is summed.
    ...(moving.seeing && { back: () => undefined }),
    blockAt: (frame) => sinceOf(moving, frame) ?? -1,
    read(frame) {
      const changes = frame < 0 ? [] : changesAt(moving, frame, steady);
      const block = new Float32Array(2 * count);
      const found = changes.map(({ from, to }) => flows(`${String(from)} ${String(to)}`));
      return thenDo(allOf(found), (all) => {
        all.forEach((flow, i) => {
          add(block, flow, 1 / (changes[i]!.frames * changes.length));
        });
        return smoothed(block);
      });
    },
  };
}
