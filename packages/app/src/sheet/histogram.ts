import { LIGHT, luminanceOf, type MapChannel } from '@vast-swarm/core/feeds';
import type { Picture } from '@vast-swarm/core/stock';

/** Stretches that a histogram has. */
export const BINS = 64;

/** The value of a map in a pixel of straight colour: of linear light, 0 to 1; as mapSample has it in kernels. */
export function channelOf(
  channel: MapChannel,
  [r, g, b, a]: readonly [number, number, number, number],
): number {
  const [most, least] = [Math.max(r, g, b), Math.min(r, g, b)];
  const apart = most - least;
  switch (channel) {
    case 'brightness':
      return luminanceOf([r, g, b]) * a;
    case 'red':
      return r * a;
    case 'green':
      return g * a;
    case 'blue':
      return b * a;
    case 'alpha':
      return a;
    case 'saturation':
      return most > 0 ? apart / most : 0;
    case 'hue': {
      if (apart === 0) return 0;
      const sixths =
        most <= r ? (g - b) / apart : most <= g ? 2 + (b - r) / apart : 4 + (r - g) / apart;
      return sixths / 6 - Math.floor(sixths / 6);
    }
  }
}

/** How often what a map finds falls into each of BINS stretches from 0 to 1; the fullest is 1. */
export function histogramOf({ width, height, pixels }: Picture, channel: MapChannel): Float32Array {
  const counts = new Float32Array(BINS);
  // A few ten thousand tell enough.
  const every = Math.max(1, Math.floor((width * height) / 40_000));
  for (let at = 0; at < width * height; at += every) {
    const light = (c: number): number => LIGHT[pixels[4 * at + c]!]!;
    const value = channelOf(channel, [light(0), light(1), light(2), pixels[4 * at + 3]! / 255]);
    counts[Math.min(BINS - 1, Math.floor(value * BINS))]! += 1;
  }
  const most = Math.max(...counts, 1);
  return counts.map((n) => n / most);
}
