import { strideOf } from '../../language/planes';

export interface BloomLevel {
  width: number;
  height: number;
  stride: number;
  /** Part of the light that is spread this far; all parts add up to 1. */
  weight: number;
}

/** Octaves of reach below the radius that share the light evenly. */
const OCTAVES = 6;

/**
 * The pyramid of bloom: each level half the size of the one before. Octaves lie between two levels, so
 * that the radius goes smoothly from one to the next. What would be spread less than a level 0 pixel stays
 * in level 0, so that a small preview and a large frame look alike.
 */
export function bloomLevels(width: number, height: number, radius: number): BloomLevel[] {
  // Level 0 halves the frame once, and spreads light about two pixels.
  const deepest = Math.min(11, Math.log2(Math.max(2, radius * height)) - 1);
  const levels = halved(width, height, Math.ceil(deepest) + 1);
  const last = levels.length - 1;
  for (let octave = 0; octave < OCTAVES; octave++) {
    const deep = Math.min(last, Math.max(0, deepest - octave));
    const low = Math.floor(deep);
    levels[low]!.weight += (1 - (deep - low)) / OCTAVES;
    levels[Math.min(last, low + 1)]!.weight += (deep - low) / OCTAVES;
  }
  return levels;
}

/** So many levels, each half the size of the one before; none below two pixels, but one there is. */
function halved(width: number, height: number, count: number): BloomLevel[] {
  const levels: BloomLevel[] = [];
  let [w, h] = [width, height];
  for (let i = 0; i < count && (i === 0 || Math.min(w, h) >= 4); i++) {
    [w, h] = [Math.ceil(w / 2), Math.ceil(h / 2)];
    levels.push({ width: w, height: h, stride: strideOf(w), weight: 0 });
  }
  return levels;
}

/**
 * The pyramid of an even blur: two neighbouring levels share all the light, so that the radius goes
 * smoothly from one to the next. `own` is the part that stays in the frame as it is.
 */
export function blurLevels(
  width: number,
  height: number,
  radius: number,
): { levels: BloomLevel[]; own: number } {
  const deep = Math.max(0, Math.log2(Math.max(1, radius * height)));
  const [low, part] = [Math.floor(deep), deep - Math.floor(deep)];
  if (deep === 0) return { levels: [], own: 1 };
  const levels = halved(width, height, low + 1);
  const last = levels.length - 1;
  // Level 0 halves the frame once: it spreads about two pixels, each further one twice as far.
  levels[Math.min(last, low)]!.weight += part;
  if (low > 0) levels[Math.min(last, low - 1)]!.weight += 1 - part;
  return { levels, own: low === 0 ? 1 - part : 0 };
}
