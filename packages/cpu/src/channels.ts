import type { Memories } from './memories';
import type { Planes } from './rasteriser';

/** One number for each pixel, rows from the top. */
export type Channel = Float32Array<ArrayBuffer>;
export type Channels = [Channel, Channel, Channel];

/** A plane at an address, pixel by pixel, in memory of its own. */
export function channelAt(
  memories: Memories,
  address: number,
  { stride, width, height }: Planes,
): Channel {
  const plane = memories.floats(address, stride * height);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    out.set(plane.subarray(y * stride, y * stride + width), y * width);
  }
  return out;
}

export function channelsOf(memories: Memories, planes: Planes): Channels {
  return planes.at.map((address) => channelAt(memories, address, planes)) as Channels;
}

/**
 * How much bodies cover: what a light behind all of them loses on its way, as a mean of its colours. Whatever mixes
 * evenly with what is behind it, as light that is added, laid over or multiplied does, is exact.
 *
 * @param dark with nothing behind them
 * @param lit with an even light of 1 behind them
 */
export function coverOf(dark: Channels, lit: Channels): Channel {
  return dark[0].map((_, i) => {
    const left = [0, 1, 2].reduce((sum, c) => sum + lit[c]![i]! - dark[c]![i]!, 0);
    return Math.min(1, Math.max(0, 1 - left / 3));
  });
}
