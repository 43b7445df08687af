import { hashNumber, unitNumber } from '@vast-swarm/kernel';
import { reportProgress } from '../../progress';
import { curveAlong, pointAlong } from './along';
import { facesByArea } from './meshParts';
import { spotsOf } from './pictureParts';
import { shuffled } from './shuffle';
import { memo, serialOf } from '../memo';
import type { StockData } from '../types';

/**
 * Places on several shapes, matched: place i of one belongs to place i of every other. All shapes'
 * places are put in one order by halving them again and again, along the axis in which the first
 * shape's part is longest; the lower half of one shape so meets the lower half of the others, and
 * paths cross little more than the shapes' own differences make them. It is not the least possible
 * sum of ways, which would take the cube of the number of places in time.
 */
export interface Matched {
  /** For each shape x, y and z of its places. */
  shapes: Float32Array[][];
  /** Linear colours where the shape has them. */
  colours: (Float32Array[] | null)[];
  /** Numbers of letters where the shape is of words. */
  letters: (Float32Array | null)[];
}

/** So many places are put, or ordered, between two words of how far it is. */
const EVERY = 4096;

interface Sampled {
  points: Float32Array;
  colours: Float32Array | null;
  letters: Float32Array | null;
}

type Put = (
  i: number,
  p: ArrayLike<number>,
  c: ArrayLike<number> | null,
  /** The curve or the face that it is on. */
  on?: number,
) => void;

/** `count` places spread evenly over a shape: by area, by length, or over points in turn. */
export function sample(data: StockData, count: number): Sampled {
  const points = new Float32Array(3 * count);
  const colours = colourless(data) ? null : new Float32Array(3 * count);
  const words = 'words' in data ? data.words : undefined;
  const letters = words ? new Float32Array(count) : null;
  const put: Put = (i, p, c, on = 0) => {
    if (letters) letters[i] = words!.letterOf[on]!;
    for (let k = 0; k < 3; k++) {
      points[3 * i + k] = p[k]!;
      if (colours) colours[3 * i + k] = c?.[k] ?? 1;
    }
  };
  for (let i = 0; i < count; i++) {
    if (i % EVERY === 0) reportProgress('places on a shape', i / count);
    placeOn(data, i, count, put);
  }
  return { points, colours, letters };
}

function colourless(data: StockData): boolean {
  return !('colours' in data && data.colours) && data.type !== 'picture';
}

function placeOn(data: StockData, i: number, count: number, put: Put): void {
  const slice = (list: Float32Array | undefined, at: number): number[] | null =>
    list ? [list[3 * at]!, list[3 * at + 1]!, list[3 * at + 2]!] : null;
  const chance = (purpose: number): number => unitNumber(hashNumber(i) ^ purpose);
  switch (data.type) {
    case 'outline': {
      const part = (i + 0.5) / count;
      put(i, pointAlong(data, part), null, curveAlong(data, part));
      return;
    }
    case 'cloud': {
      const n = data.positions.length / 3;
      const at = n <= count ? i % n : Math.floor(((i + chance(1)) * n) / count);
      put(i, slice(data.positions, at)!, slice(data.colours, at));
      return;
    }
    case 'picture': {
      const spots = spotsOf(data, 'brightness', 0.1);
      if (spots.count === 0) return;
      const at = Math.floor(((i + chance(1)) * spots.count) / count) % spots.count;
      const jitter = (purpose: number): number => (chance(purpose) - 0.5) * spots.pixel;
      put(
        i,
        [spots.x[at]! + jitter(2), spots.y[at]! + jitter(3), 0],
        spots.colour.map((c) => c[at]!),
      );
      return;
    }
    case 'mesh': {
      const { positions, triangles, colours } = data;
      if (triangles.length === 0) return;
      // Strata over the alias table keep the spread even: picks by area, without chance's clumps.
      const face = faceAt(data, (i + chance(1)) / count);
      const [root, across] = [Math.sqrt(chance(2)), chance(3)];
      const [p, q, r] = [1 - root, root * (1 - across), root * across];
      const [a, b, c] = [0, 1, 2].map((k) => 3 * triangles[3 * face + k]!) as [
        number,
        number,
        number,
      ];
      const at = (list: Float32Array, axis: number): number =>
        p * list[a + axis]! + q * list[b + axis]! + r * list[c + axis]!;
      const mixed = (list: Float32Array): number[] => [at(list, 0), at(list, 1), at(list, 2)];
      put(i, mixed(positions), colours ? mixed(colours) : null, face);
    }
  }
}

/** The face at a part (0 to 1) of the mesh's whole area. */
function faceAt(mesh: StockData & { type: 'mesh' }, part: number): number {
  const sums = memo(mesh, 'area sums', () => {
    const { count } = facesByArea(mesh);
    const out = new Float64Array(count);
    let sum = 0;
    for (let t = 0; t < count; t++) out[t] = sum += areaOf(mesh, t);
    return out;
  });
  const wanted = part * sums.at(-1)!;
  let [low, high] = [0, sums.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sums[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

function areaOf({ positions, triangles }: StockData & { type: 'mesh' }, t: number): number {
  const at = (k: number, axis: number): number => positions[3 * triangles[3 * t + k]! + axis]!;
  const u = [0, 1, 2].map((axis) => at(1, axis) - at(0, axis));
  const v = [0, 1, 2].map((axis) => at(2, axis) - at(0, axis));
  const cross = [0, 1, 2].map(
    (k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!,
  );
  return Math.hypot(...cross) / 2;
}

/** @param count places on each shape */
export function matched(shapes: readonly StockData[], count: number): Matched {
  const [first] = shapes;
  const key = `matched.${shapes.map(serialOf).join()}.${String(count)}`;
  return memo(first!, key, () => {
    const sampled = shapes.map((s) => sample(s, count));
    const orders = sampled.map(() => Int32Array.from({ length: count }, (_, i) => i));
    halve(sampled, orders, new Float32Array(count), 0, count);
    // Mixed, all shapes alike: the first thousand births are then spread over the whole shape.
    const mixed = new Int32Array(shuffled(count, count).buffer);
    const columns = (points: Float32Array, k: number): Float32Array[] => {
      const order = orders[k]!;
      const all = [0, 1, 2].map(() => new Float32Array(count));
      for (let i = 0; i < count; i++) {
        const place = 3 * order[mixed[i]!]!;
        for (let axis = 0; axis < 3; axis++) all[axis]![i] = points[place + axis]!;
      }
      return all;
    };
    return {
      shapes: sampled.map(({ points }, k) => columns(points, k)),
      colours: sampled.map(({ colours }, k) => (colours ? columns(colours, k) : null)),
      letters: sampled.map(({ letters }, k) =>
        letters ? letters.map((_, i) => letters[orders[k]![mixed[i]!]!]!) : null,
      ),
    };
  });
}

/** Orders from `low` to below `high`: both halves hold, in every shape, the lower and upper places. */
function halve(
  sampled: Sampled[],
  orders: Int32Array[],
  keys: Float32Array,
  low: number,
  high: number,
): void {
  if (high - low < 2) return;
  if (high - low > EVERY)
    reportProgress('places on shapes that belong together', low / keys.length);
  const { points } = sampled[0]!;
  const least = [Infinity, Infinity, Infinity];
  const most = [-Infinity, -Infinity, -Infinity];
  const order = orders[0]!;
  for (let i = low; i < high; i++) {
    const place = 3 * order[i]!;
    for (let axis = 0; axis < 3; axis++) {
      const v = points[place + axis]!;
      if (v < least[axis]!) least[axis] = v;
      if (v > most[axis]!) most[axis] = v;
    }
  }
  const spans = most.map((m, axis) => m - least[axis]!);
  const axis = spans.indexOf(Math.max(...spans));
  const middle = (low + high) >> 1;
  orders.forEach((own, k) => {
    const { points: p } = sampled[k]!;
    for (let i = low; i < high; i++) keys[i] = p[3 * own[i]! + axis]!;
    partition(own, keys, low, high, middle);
  });
  halve(sampled, orders, keys, low, middle);
  halve(sampled, orders, keys, middle, high);
}

/**
 * Puts those that are first by their keys (by their numbers where those are the same) from `low` to below `middle`,
 * and the others behind them, keys with them: C. A. R. Hoare, "Algorithm 65: FIND", Communications of the ACM 4 (1961). Sorting both
 * halves would take many times as long, and they are put in order by another coordinate anyway.
 */
function partition(
  order: Int32Array,
  keys: Float32Array,
  low: number,
  high: number,
  middle: number,
): void {
  let first = low;
  let last = high - 1;
  while (first < last) {
    const pivot = (first + last) >> 1;
    const key = keys[pivot]!;
    const id = order[pivot]!;
    let i = first;
    let j = last;
    while (i <= j) {
      while (keys[i]! < key || (keys[i] === key && order[i]! < id)) i += 1;
      while (keys[j]! > key || (keys[j] === key && order[j]! > id)) j -= 1;
      if (i > j) break;
      const heldKey = keys[i]!;
      const held = order[i]!;
      keys[i] = keys[j]!;
      order[i] = order[j]!;
      keys[j] = heldKey;
      order[j] = held;
      i += 1;
      j -= 1;
    }
    if (middle <= j) last = j;
    else if (middle >= i) first = i;
    else return;
  }
}
