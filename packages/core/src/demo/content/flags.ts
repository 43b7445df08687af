import type { Picture } from '../../stock/types';

const [COLUMNS, ROWS, WIDE, HIGH] = [4, 4, 96, 64];

type Colour = readonly [number, number, number];
const CREAM: Colour = [244, 236, 216];
const AMBER: Colour = [255, 168, 54];
const CORAL: Colour = [236, 84, 66];
const GLASS: Colour = [64, 190, 170];
const NIGHT: Colour = [22, 44, 92];

/** Which colour a flag has at u, v from -1 to 1. */
type Flag = (u: number, v: number) => Colour;

/** The harbour's own flags; what they say is known at the quay alone. */
const FLAGS: Flag[] = [
  (u) => (u < -0.33 ? CORAL : u < 0.33 ? CREAM : NIGHT),
  (_, v) => (v < -0.33 ? AMBER : v < 0.33 ? NIGHT : AMBER),
  (u, v) => (Math.abs(u) < 0.22 || Math.abs(v) < 0.28 ? CREAM : GLASS),
  (u, v) => (Math.abs(u) + Math.abs(v) < 0.75 ? CORAL : CREAM),
  (u, v) => (u * v > 0 ? NIGHT : AMBER),
  (u, v) => (u < -1 + 1.1 * (1 - Math.abs(v)) ? GLASS : CREAM),
  (u, v) => (u * u + v * v < 0.35 ? AMBER : NIGHT),
  (u, v) => (Math.abs(u - v) < 0.35 ? CREAM : CORAL),
  (u, v) => (Math.floor((u + v + 4) * 2.2) % 2 === 0 ? CORAL : CREAM),
  (u, v) => (Math.max(Math.abs(u), Math.abs(v)) < 0.5 ? CREAM : NIGHT),
  (_, v) => (Math.floor((v + 1) * 3.5) % 2 === 0 ? GLASS : NIGHT),
  (u, v) => (Math.hypot(u, v) < 0.75 && Math.hypot(u, v) > 0.42 ? CREAM : CORAL),
  (u, v) => (v > Math.sin(u * 4) * 0.25 ? GLASS : CREAM),
  (u, v) => (Math.abs(u) > 0.72 || Math.abs(v) > 0.72 ? AMBER : GLASS),
  (u, v) => (Math.floor((u + 1) * 2) % 2 === Math.floor((v + 1) * 2) % 2 ? CREAM : NIGHT),
  (u, v) => (v > 0.3 * u + 0.1 ? AMBER : CORAL),
];

/** A sheet of sixteen signal flags, each with a soft border and folds in its cloth. */
export function flags(): Picture {
  const [width, height] = [COLUMNS * WIDE, ROWS * HIGH];
  const pixels = new Uint8Array(4 * width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const flag = FLAGS[Math.floor(y / HIGH) * COLUMNS + Math.floor(x / WIDE)]!;
      const [px, py] = [(x % WIDE) + 0.5, (y % HIGH) + 0.5];
      const fold = 0.86 + 0.14 * Math.sin(px / 9 + 0.6 * Math.sin(py / 17));
      // Two pixels of cloth fade at the border.
      const inside = Math.min(px - 2, WIDE - 2 - px, py - 2, HIGH - 2 - py);
      const colour = flag((px / WIDE) * 2 - 1, (py / HIGH) * 2 - 1);
      const at = 4 * (y * width + x);
      colour.forEach((c, k) => (pixels[at + k] = Math.round(c * fold)));
      pixels[at + 3] = Math.round(255 * Math.min(1, Math.max(0, inside / 2)));
    }
  }
  return { type: 'picture', width, height, pixels };
}
