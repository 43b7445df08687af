import { fromLinear, linearRgb, type Rgb } from '../../feeds/colour';
import { noisePlane } from '../../stock/clip/noise';
import type { Picture } from '../../stock/types';

const [WIDTH, HEIGHT] = [640, 360];
/** Where the water begins, in heights from the top. */
const WATER = 0.66;

interface House {
  /** Widths from the left. */
  left: number;
  right: number;
  /** Heights of the eaves and the ridge from the top. */
  eaves: number;
  ridge: number;
  wall: Rgb;
}

const HOUSES: readonly House[] = [
  { left: 0.0, right: 0.13, eaves: 0.46, ridge: 0.36, wall: linearRgb('#5b2d33') },
  { left: 0.13, right: 0.24, eaves: 0.4, ridge: 0.28, wall: linearRgb('#2e4f57') },
  { left: 0.24, right: 0.42, eaves: 0.44, ridge: 0.24, wall: linearRgb('#7a4a35') },
  { left: 0.42, right: 0.52, eaves: 0.38, ridge: 0.3, wall: linearRgb('#3b3650') },
  { left: 0.52, right: 0.7, eaves: 0.46, ridge: 0.22, wall: linearRgb('#26454a') },
  { left: 0.7, right: 0.83, eaves: 0.42, ridge: 0.33, wall: linearRgb('#6b3440') },
  { left: 0.83, right: 1.0, eaves: 0.47, ridge: 0.35, wall: linearRgb('#34454f') },
];
const SKY = ['#0c1f3a', '#28506a', '#c9785a', '#ffc98a'].map(linearRgb) as [Rgb, ...Rgb[]];
const LAMP = linearRgb('#ffce7a');

function mixed(a: Rgb, b: Rgb, t: number): Rgb {
  return [0, 1, 2].map((c) => a[c]! + (b[c]! - a[c]!) * t) as Rgb;
}

/** Evening over the roofs: dark above, the last light behind them. */
function skyAt(y: number, cloud: number): Rgb {
  const at = Math.min(0.999, Math.max(0, y / WATER + 0.25 * (cloud - 0.5))) * (SKY.length - 1);
  const i = Math.floor(at);
  return mixed(SKY[i]!, SKY[i + 1]!, at - i);
}

/** Colour of the shore above the water at a place, 0 to 1 across and down. */
function shoreAt(x: number, y: number, cloud: number): Rgb {
  const house = HOUSES.find((h) => x >= h.left && x < h.right)!;
  const { left, right, eaves, ridge, wall } = house;
  const across = (x - left) / (right - left);
  const roof = ridge + (eaves - ridge) * Math.abs(2 * across - 1);
  if (y < roof) return skyAt(y, cloud);
  if (y < eaves) return mixed(wall, [0.02, 0.02, 0.03], 0.55 - 0.3 * across);
  // Windows in rows; about half of them are lit.
  const [column, row] = [across * 5, (y - eaves) * 22];
  const inside = column % 1 > 0.3 && column % 1 < 0.72 && row % 1 > 0.25 && row % 1 < 0.8;
  const lit = (Math.floor(column) * 7 + Math.floor(row) * 5 + Math.round(left * 100)) % 9 < 4;
  if (inside && y < WATER - 0.03) return lit ? LAMP : mixed(wall, [0.01, 0.02, 0.04], 0.7);
  return mixed(wall, [0.01, 0.015, 0.02], 0.25 + 0.5 * across);
}

/** The quay in the evening, as a painting would have it: sky, salt warehouses, lit windows, the water. */
export function quay(): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
  const clouds = noisePlane(0.4, 5);
  const waves = noisePlane(1.7, 9);
  for (let j = 0; j < HEIGHT; j++) {
    for (let i = 0; i < WIDTH; i++) {
      const [x, y] = [(i + 0.5) / WIDTH, (j + 0.5) / HEIGHT];
      const cloud = clouds(x * 3, y * 14);
      let colour: Rgb;
      if (y < WATER) colour = shoreAt(x, y, cloud);
      else {
        const depth = (y - WATER) / (1 - WATER);
        const wave = waves(x * 9, y * 60) - 0.5;
        const seen = Math.min(0.999, Math.max(0, x + 0.05 * wave * (0.3 + depth)));
        const mirror = shoreAt(seen, Math.max(0, WATER - 0.9 * (y - WATER) + 0.05 * wave), cloud);
        colour = mixed(mirror, [0.008, 0.03, 0.045], 0.35 + 0.4 * depth);
      }
      const at = 4 * (j * WIDTH + i);
      for (let c = 0; c < 3; c++) {
        pixels[at + c] = Math.round(255 * fromLinear(Math.min(1, Math.max(0, colour[c]!))));
      }
    }
  }
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}
