import { momentsOf } from '@vast-swarm/core/play';
import { strideOf } from '@vast-swarm/core/kinds';
import type { Plan } from '@vast-swarm/core/plan';
import { MemoryFull } from './arena';
import { MAX_PAGES } from './generated/rasteriser';
import { canStrip, DRAWING_ROOM, drawingBytes, PLANES_BYTES, type DrawSize } from './strips';

/** Memory of frames of a size, told before any is made. */

/** A pyramid of halves beside its planes: 1/4 + 1/16 + … of them. */
const PYRAMID_BYTES = PLANES_BYTES / 3;
/** All that an engine can have, and what it wants beside planes and particles. */
const MOST = MAX_PAGES * 65536;
const OTHER = 2 ** 27;

/** Bytes for each pixel of the frame itself: its planes, its pixels, and what the finish keeps beside them. */
function finishBytes({ finish, layers, passes, lit }: Plan): number {
  const has = (type: string): boolean => finish.steps.some((step) => step.type === type);
  const count = (type: string): number => finish.steps.filter((step) => step.type === type).length;
  const sets = [
    1,
    layers.size,
    2 * count('remember'),
    lit ? 1 : 0,
    has('keep') ? 1 : 0,
    has('around') ? 1 : 0,
    has('remember') ? 1 : 0,
  ];
  const planes = sets.reduce((sum, n) => sum + n * PLANES_BYTES, 0);
  const beside = passes ? 2 * PLANES_BYTES + 4 : 0;
  return planes + 4 + beside + (has('bloom') || has('blur') ? PYRAMID_BYTES : 0);
}

/** Bytes of planes that frames of a size take, with so much room for drawing. */
export function planesBytes(plan: Plan, size: DrawSize, room = DRAWING_ROOM): number {
  const { width, height, oversample } = size;
  const stride = strideOf(width);
  const large = strideOf(width * oversample) * height * oversample;
  const moments = Math.min(size.moments, momentsOf(plan, 0).length);
  const all = [plan.drawing, ...plan.layers.values()];
  const drawn = large * Math.max(...all.map((d) => drawingBytes(d, oversample, moments)));
  const blurred =
    (plan.shadows ? PLANES_BYTES + PYRAMID_BYTES : 0) + (plan.solidLens ? PLANES_BYTES : 0);
  const strips = canStrip(plan) ? Math.min(room, drawn) : drawn + large * blurred;
  return stride * height * finishBytes(plan) + strips;
}

function stateBytes({ swarms }: Plan): number {
  // Beside its state about as much is worked out of a particle to draw it.
  return swarms.reduce((sum, { capacity, state }) => sum + 8 * capacity * state.length, 0);
}

/**
 * @throws MemoryFull where frames of this size take more memory than there can be; it says which fit
 */
export function checkRoom(plan: Plan, size: Omit<DrawSize, 'moments'>): void {
  const taken = (part: number): number => {
    const [width, height] = [size.width, size.height].map((n) => Math.floor(n * part));
    const smaller = {
      width: width!,
      height: height!,
      oversample: size.oversample,
      moments: Infinity,
    };
    return planesBytes(plan, smaller) + stateBytes(plan) + OTHER;
  };
  const wanted = taken(1);
  if (wanted <= MOST) return;
  let [low, high] = [0, 1];
  for (let i = 0; i < 20; i++) {
    const middle = (low + high) / 2;
    if (taken(middle) <= MOST) low = middle;
    else high = middle;
  }
  const gigabytes = (bytes: number): string => `${(bytes / 2 ** 30).toFixed(1)} GB`;
  const [width, height] = [size.width, size.height].map((n) =>
    String(16 * Math.floor((n * low) / 16)),
  );
  throw new MemoryFull(
    `Frames of ${String(size.width)} × ${String(size.height)} pixels would take ${gigabytes(wanted)} of the engine's memory, and ${gigabytes(MOST)} are all that it can have. ${width!} × ${height!} fits${size.oversample > 1 ? ', and so may more with less oversampling' : ''}.`,
  );
}
