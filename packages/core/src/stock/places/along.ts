import { memo } from '../memo';
import type { Curve, Outline } from '../types';

type Point = [number, number, number];

interface Measured {
  curve: Curve;
  /** Length from the beginning to each point. */
  lengths: Float64Array;
}

function measure(curve: Curve): Measured {
  const { points } = curve;
  const lengths = new Float64Array(points.length / 3);
  for (let i = 1; i < lengths.length; i++) {
    const part = (axis: number): number => points[3 * i + axis]! - points[3 * i - 3 + axis]!;
    lengths[i] = lengths[i - 1]! + Math.hypot(part(0), part(1), part(2));
  }
  return { curve, lengths };
}

function measured(outline: Outline): Measured[] {
  return memo(outline, 'measured', () => outline.curves.map(measure));
}

export function lengthOf(outline: Outline): number {
  return endsOf(outline).at(-1) ?? 0;
}

/** By curve, the length of all up to its end. */
function endsOf(outline: Outline): Float64Array {
  return memo(outline, 'ends', () => {
    let sum = 0;
    return Float64Array.from(measured(outline), (m) => (sum += m.lengths.at(-1)!));
  });
}

function pointAt({ curve, lengths }: Measured, length: number): Point {
  let [low, high] = [0, lengths.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (lengths[middle]! <= length) low = middle;
    else high = middle;
  }
  const span = lengths[high]! - lengths[low]!;
  const t = span > 0 ? Math.min(1, Math.max(0, (length - lengths[low]!) / span)) : 0;
  const part = (axis: number): number => {
    const a = curve.points[3 * low + axis]!;
    return a + (curve.points[3 * high + axis]! - a) * t;
  };
  return [part(0), part(1), part(2)];
}

/** The place at a part (0 to 1) of the outline's whole length, curve after curve. */
export function pointAlong(outline: Outline, part: number): Point {
  const [curve, along] = placeAlong(outline, part);
  return pointAt(measured(outline)[curve]!, along);
}

/** The number of the curve that such a place is on. */
export function curveAlong(outline: Outline, part: number): number {
  return placeAlong(outline, part)[0];
}

/** A curve, and metres from its beginning. */
function placeAlong(outline: Outline, part: number): [number, number] {
  const ends = endsOf(outline);
  const length = Math.min(1, Math.max(0, part)) * lengthOf(outline);
  let [low, high] = [0, ends.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ends[middle]! < length) low = middle + 1;
    else high = middle;
  }
  return [low, length - (ends[low - 1] ?? 0)];
}

/** An outline cut into segments of (within a curve) equal length, for kernels to read. */
export interface Segments {
  /** How many segments. */
  count: number;
  /** Samples: x, y, z as three arrays; a curve of n segments has n + 1. */
  points: [Float32Array, Float32Array, Float32Array];
  /** By segment: its first sample (bits of i32), its curve's first segment and count, its length. */
  sample: Float32Array;
  first: Float32Array;
  curveCount: Float32Array;
  length: Float32Array;
  /** Length up to the curves' beginnings, and first segments: to find places by length. */
  starts: { length: number; first: number; each: number; count: number }[];
}

const SEGMENTS = 4096;

export function segmentsOf(outline: Outline): Segments {
  return memo(outline, 'segments', () => {
    const whole = Math.max(1e-9, lengthOf(outline));
    const curves = measured(outline).map((m) => {
      const length = m.lengths.at(-1)!;
      return { m, length, count: Math.max(2, Math.round((SEGMENTS * length) / whole)) };
    });
    const count = curves.reduce((n, c) => n + c.count, 0);
    const samples = count + curves.length;
    const points = [0, 1, 2].map(() => new Float32Array(samples)) as Segments['points'];
    const sample = new Int32Array(count);
    const [first, curveCount, length] = [0, 1, 2].map(() => new Float32Array(count)) as [
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    const starts: Segments['starts'] = [];
    let [segment, at, before] = [0, 0, 0];
    for (const c of curves) {
      const each = c.length / c.count;
      starts.push({ length: before, first: segment, each, count: c.count });
      for (let i = 0; i <= c.count; i++) {
        const p = pointAt(c.m, i * each);
        points.forEach((axis, k) => (axis[at + i] = p[k]!));
      }
      for (let i = segment; i < segment + c.count; i++) {
        sample[i] = at + i - segment;
        first[i] = segment;
        curveCount[i] = c.count;
        length[i] = each;
      }
      segment += c.count;
      at += c.count + 1;
      before += c.length;
    }
    const words = new Float32Array(sample.buffer);
    return { count, points, sample: words, first, curveCount, length, starts };
  });
}

/** Places at even distances of arc length over all curves, in segments from the beginning. */
export function evenPlaces(outline: Outline, places: number): Float32Array {
  return memo(outline, `even${String(places)}`, () => {
    const { starts } = segmentsOf(outline);
    const whole = lengthOf(outline);
    return Float32Array.from({ length: places }, (_, i) => {
      const length = ((i + 0.5) / places) * whole;
      const curve = starts.findLast((s) => s.length <= length) ?? starts[0]!;
      const within = (length - curve.length) / Math.max(1e-12, curve.each);
      return curve.first + Math.min(curve.count - 1e-4, within);
    });
  });
}
