import type { Clip, Picture } from '../../stock/types';

const [WIDTH, HEIGHT, RATE, SECONDS] = [320, 180, 30, 16];

/** A number in [0, 1) for a whole number. */
function chance(n: number): number {
  let h = Math.imul(n + 101, 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 15), 0x297a2d39);
  return ((h ^ (h >>> 14)) >>> 0) / 2 ** 32;
}

interface Deck {
  /** Rows of the picture where its windows begin and end. */
  top: number;
  bottom: number;
  /** Pixels from window to window, and of one. */
  every: number;
  wide: number;
  /** Pixels a second to the right. */
  speed: number;
  colour: readonly [number, number, number];
}

/** Two ferries that pass each other, the far one slower. */
const DECKS: readonly Deck[] = [
  { top: 46, bottom: 53, every: 17, wide: 9, speed: -22, colour: [96, 168, 196] },
  { top: 58, bottom: 65, every: 17, wide: 9, speed: -22, colour: [120, 190, 200] },
  { top: 84, bottom: 97, every: 31, wide: 18, speed: 52, colour: [255, 196, 118] },
  { top: 104, bottom: 119, every: 31, wide: 18, speed: 52, colour: [255, 168, 84] },
];
/** Where the water begins, in which they are mirrored. */
const WATER = 132;

function pictureAt(index: number): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT);
  const time = index / RATE;
  const put = (x: number, y: number, colour: Deck['colour'], light: number): void => {
    const at = 4 * (y * WIDTH + x);
    for (let c = 0; c < 3; c++) {
      pixels[at + c] = Math.min(255, pixels[at + c]! + colour[c]! * light);
    }
  };
  for (let i = 3; i < pixels.length; i += 4) pixels[i] = 255;
  DECKS.forEach((deck, d) => {
    const { top, bottom, every, wide, speed, colour } = deck;
    for (let x = 0; x < WIDTH; x++) {
      const place = x - speed * time;
      const window = Math.floor(place / every);
      const within = place - window * every;
      // Some are dark; nobody is up.
      if (within >= wide || chance(window * 7 + d * 1000) < 0.22) continue;
      const bright = 0.55 + 0.45 * chance(window * 13 + d * 77);
      // Its sides are soft by a pixel, so that it glides.
      const soft = Math.min(1, within + 0.5, wide - within + 0.5);
      for (let y = top; y < bottom; y++) put(x, y, colour, bright * soft);
      // Mirrored, broken by waves.
      for (let k = 0; k < 2 * (bottom - top); k++) {
        const y = WATER + (WATER - bottom) / 3 + k;
        const wave = 0.5 + 0.5 * Math.sin(k * 1.9 + time * 3 + x * 0.09);
        if (y < HEIGHT) put(x, Math.floor(y), colour, bright * soft * 0.28 * wave);
      }
    }
  });
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}

/** Lit windows of two ferries that pass in the dark, with what the water has of them. */
export function ferry(): Clip {
  return {
    type: 'clip', width: WIDTH, height: HEIGHT,
    times: Float64Array.from({ length: RATE * SECONDS + 1 }, (_, i) => i / RATE),
    picture: pictureAt,
  };
}
