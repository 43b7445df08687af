import { noiseAt } from '../../formula/numbers';
import type { Picture } from '../../stock/types';

const WIDTH = 480;
const HEIGHT = 270;

/** Smooth noise on the plane, -1 to 1, from noise along lines. */
function ripple(x: number, y: number): number {
  const low = Math.floor(y);
  const t = y - low;
  const row = (i: number): number => noiseAt(x + 17.3 * i, i * 7919);
  return row(low) + (row(low + 1) - row(low)) * t * t * (3 - 2 * t);
}

/** Metres of water over the bed of a made-up bay, 0 at the shore and less on land. */
function depthAt(x: number, y: number): number {
  const bay = 1.15 - ((x - 0.52) / 0.5) ** 2 - ((y - 0.62) / 0.62) ** 2;
  const isle = 1.25 * Math.exp(-(((x - 0.34) / 0.075) ** 2) - ((y - 0.5) / 0.11) ** 2);
  const spit = 1.3 * Math.exp(-(((x - 0.66) / 0.05) ** 2) - ((y - 0.28) / 0.2) ** 2);
  const rough = 0.22 * ripple(x * 7, y * 5) + 0.1 * ripple(x * 17 + 40, y * 13);
  return bay - isle - spit + rough;
}

/** A tide chart: deep water dark blue, shallows sea-glass green, land warm, with depth lines. */
export function chart(): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT);
  for (let j = 0; j < HEIGHT; j++) {
    for (let i = 0; i < WIDTH; i++) {
      const depth = depthAt((i + 0.5) / WIDTH, (j + 0.5) / HEIGHT);
      const line = depth > 0 ? Math.abs(((depth * 6) % 1) - 0.5) > 0.44 : depth > -0.03;
      const t = Math.min(1, Math.max(0, depth));
      const water = [70 - 55 * t, 190 - 120 * t, 180 - 40 * t];
      const land = [210 + 60 * depth, 150 + 70 * depth, 80 + 60 * depth];
      const base = depth > 0 ? water : land;
      base.forEach((c, k) => {
        pixels[4 * (j * WIDTH + i) + k] = Math.min(255, Math.max(0, line ? c * 0.5 + 115 : c));
      });
      pixels[4 * (j * WIDTH + i) + 3] = 255;
    }
  }
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}
