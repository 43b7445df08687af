import { toLinear } from '../feeds/colour';
import { addressed, cornersOf, pixelsOf, type Wall } from './wall';

/** Light by the value of a channel of a picture (sRGB, IEC 61966-2-1). */
const LIGHT = Float32Array.from({ length: 256 }, (_, value) => toLinear(value / 255));

/** Corners that a quadrangle has at the most, when it has been cut by four lines. */
const MOST_CORNERS = 8;

/** A polygon that is cut, over and over, without anything being made anew. */
class Polygon {
  private readonly at = [new Float64Array(MOST_CORNERS + 2), new Float64Array(MOST_CORNERS + 2)];
  count = 0;

  put(x: number, y: number): void {
    this.at[0]![this.count] = x;
    this.at[1]![this.count] = y;
    this.count += 1;
  }

  /** Makes another the part of this one on one side of a line across or along (Sutherland and Hodgman, 1974). */
  cut(axis: 0 | 1, bound: number, above: boolean, into: Polygon): Polygon {
    into.count = 0;
    const [xs, ys] = this.at as [Float64Array, Float64Array];
    const along = this.at[axis]!;
    const sign = above ? 1 : -1;
    for (let i = 0; i < this.count; i++) {
      const k = i + 1 < this.count ? i + 1 : 0;
      const [here, there] = [sign * (along[i]! - bound), sign * (along[k]! - bound)];
      if (here >= 0) into.put(xs[i]!, ys[i]!);
      if (here >= 0 === there >= 0) continue;
      const t = here / (here - there);
      into.put(xs[i]! + t * (xs[k]! - xs[i]!), ys[i]! + t * (ys[k]! - ys[i]!));
    }
    return into;
  }

  get area(): number {
    const [xs, ys] = this.at as [Float64Array, Float64Array];
    let twice = 0;
    for (let i = 0; i < this.count; i++) {
      const k = i + 1 < this.count ? i + 1 : 0;
      twice += xs[i]! * ys[k]! - xs[k]! * ys[i]!;
    }
    return Math.abs(twice) / 2;
  }

  /** The whole numbers around it, across or along, within a size. */
  span(axis: 0 | 1, size: number): [from: number, until: number] {
    const along = this.at[axis]!;
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < this.count; i++) {
      low = Math.min(low, along[i]!);
      high = Math.max(high, along[i]!);
    }
    return [Math.max(0, Math.floor(low)), Math.min(size, Math.ceil(high))];
  }
}

/**
 * Samples pictures of one size for a wall: each of its pixels is the mean, by area and of light, of what it covers of
 * the picture; what lies outside is dark.
 */
export class WallSampler {
  /** Pixels of the wall. */
  readonly count: number;
  /** Where the parts of each begin in the lists below. */
  private readonly begins: Uint32Array;
  /** Places in the picture, and how much of the wall's pixel each is. */
  private readonly places: Uint32Array;
  private readonly parts: Float32Array;

  /**
   * @param width pixels of the pictures
   * @param height pixels of the pictures
   */
  constructor(
    wall: Wall,
    readonly width: number,
    readonly height: number,
  ) {
    this.count = pixelsOf(wall);
    this.begins = new Uint32Array(this.count + 1);
    const places: number[] = [];
    const parts: number[] = [];
    const [across, down] = [width / wall.width, height / wall.height];
    const whole = new Polygon();
    let pixel = 0;
    for (const panel of wall.panels) {
      for (const [column, row] of addressed(panel)) {
        whole.count = 0;
        for (const [x, y] of cornersOf(panel, column, row)) whole.put(x * across, y * down);
        this.cover(whole, places, parts);
        this.begins[(pixel += 1)] = places.length;
      }
    }
    this.places = Uint32Array.from(places);
    this.parts = Float32Array.from(parts);
  }

  private readonly cuts = [new Polygon(), new Polygon(), new Polygon(), new Polygon()] as const;

  /** Pixels of the picture under a quadrangle, with the part of each. */
  private cover(whole: Polygon, places: number[], parts: number[]): void {
    const { cuts, width, height } = this;
    const { area } = whole;
    const [top, bottom] = whole.span(1, height);
    for (let y = top; y < bottom; y++) {
      const line = whole.cut(1, y, true, cuts[0]).cut(1, y + 1, false, cuts[1]);
      const [left, right] = line.span(0, width);
      for (let x = left; x < right; x++) {
        const cell = line.cut(0, x, true, cuts[2]).cut(0, x + 1, false, cuts[3]);
        const part = cell.area / area;
        if (part <= 0) continue;
        places.push(y * width + x);
        parts.push(part);
      }
    }
  }

  /**
   * The light of each pixel of the wall, red, green and blue, 0 to 1, in the order in which they are addressed.
   *
   * @param picture RGBA, 8 bits a channel, of the size that was said
   */
  light(picture: Uint8ClampedArray | Uint8Array): Float32Array {
    const { begins, places, parts, count } = this;
    const light = new Float32Array(3 * count);
    for (let i = 0; i < count; i++) {
      let [r, g, b] = [0, 0, 0];
      for (let k = begins[i]!; k < begins[i + 1]!; k++) {
        const [at, part] = [4 * places[k]!, parts[k]!];
        r += part * LIGHT[picture[at]!]!;
        g += part * LIGHT[picture[at + 1]!]!;
        b += part * LIGHT[picture[at + 2]!]!;
      }
      light[3 * i] = r;
      light[3 * i + 1] = g;
      light[3 * i + 2] = b;
    }
    return light;
  }
}

/** Watts that a wall takes for light as it is given, before its limit. */
export function wattsOf({ watts, level }: Wall, light: Float32Array): number {
  let sum = 0;
  for (const v of light) sum += v;
  return (sum / 3) * level * watts;
}

/** Steps in which the root of light is looked up. */
const STEPS = 65_535;

/** Levels by the root of light, which tells dark from darker. */
function tableOf(gamma: number, rounded: (value: number) => number): Uint8Array {
  return Uint8Array.from({ length: STEPS + 1 }, (_, i) =>
    rounded(255 * ((i / STEPS) ** 2) ** (1 / gamma)),
  );
}

let known: { gamma: number; round: Uint8Array; floor: Uint8Array } | null = null;

/** The levels that are sent for light, 0 to 255: as bright as the wall may be, and no more than its limit of power. */
export function levelsOf(wall: Wall, light: Float32Array): Uint8Array {
  const { level, gamma, limit } = wall;
  if (known?.gamma !== gamma) {
    known = { gamma, round: tableOf(gamma, Math.round), floor: tableOf(gamma, Math.floor) };
  }
  const watts = limit > 0 ? wattsOf(wall, light) : 0;
  const limited = watts > limit;
  const scale = level * (limited ? limit / watts : 1);
  // What is limited is never a little more.
  const [table, step] = limited ? [known.floor, Math.floor] : [known.round, Math.round];
  const levels = new Uint8Array(light.length);
  for (let i = 0; i < light.length; i++) {
    const v = light[i]! * scale;
    // What is no number is dark.
    if (v > 0) levels[i] = table[v < 1 ? step(STEPS * Math.sqrt(v)) : STEPS]!;
  }
  return levels;
}
