import type { Clip, Picture } from '../../stock/types';

const [WIDTH, HEIGHT, RATE, SECONDS] = [320, 180, 30, 8];

type Place = readonly [number, number];

/** A limb from joint to joint, so thick, in pixels. */
interface Limb {
  from: Place;
  to: Place;
  thick: number;
  /** Its light, 0 to 1: what is lit from the front is brighter. */
  light: number;
}

/** A place so far from another, at an angle in turns: 0 hangs down, a quarter points to the right. */
function hung([x, y]: Place, length: number, turn: number): Place {
  const angle = 2 * Math.PI * turn;
  return [x + length * Math.sin(angle), y + length * Math.cos(angle)];
}

/** Somebody who dances on the spot, at a part of a round, 0 to 1: all goes round once or more, so that it closes. */
function limbsAt(round: number): Limb[] {
  const wave = (times: number, late = 0): number => Math.sin(2 * Math.PI * (times * round - late));
  const hips: Place = [160 + 34 * wave(1), 104 + 5 * wave(4, 0.25)];
  const neck: Place = [hips[0] + 9 * wave(2, 0.1), hips[1] - 38];
  const limbs: Limb[] = [{ from: hips, to: neck, thick: 10, light: 0.8 }];
  const head = hung(neck, 14, 0.5 + 0.03 * wave(2, 0.2));
  limbs.push({ from: head, to: head, thick: 9, light: 1 });
  for (const side of [-1, 1]) {
    const shoulder: Place = [neck[0] + 9 * side, neck[1] + 3];
    // From hanging up over the head and back, the arms one after the other.
    const arm = side * (0.22 + 0.2 * wave(2, side > 0 ? 0 : 0.35));
    const elbow = hung(shoulder, 21, arm);
    const hand = hung(elbow, 20, arm + side * (0.08 + 0.1 * wave(4, 0.2)));
    limbs.push({ from: shoulder, to: elbow, thick: 4.5, light: 0.85 });
    limbs.push({ from: elbow, to: hand, thick: 3.6, light: 1 });
    const hip: Place = [hips[0] + 5 * side, hips[1] + 4];
    const foot: Place = [
      160 + 17 * side + 14 * wave(1),
      168 - 9 * Math.max(0, side * wave(4, 0.1)),
    ];
    const knee: Place = [(hip[0] + foot[0]) / 2 + 5 * side, (hip[1] + foot[1]) / 2 - 2];
    limbs.push({ from: hip, to: knee, thick: 6, light: 0.6 });
    limbs.push({ from: knee, to: foot, thick: 4.6, light: 0.5 });
  }
  return limbs;
}

/** How far a place is from a limb's middle line. */
function distance([x, y]: Place, { from, to }: Limb): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const long = dx * dx + dy * dy;
  const at = long > 0 ? ((x - from[0]) * dx + (y - from[1]) * dy) / long : 0;
  const part = Math.min(1, Math.max(0, at));
  return Math.hypot(x - from[0] - dx * part, y - from[1] - dy * part);
}

function pictureAt(index: number): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT);
  // A dim room, lighter towards the floor.
  for (let y = 0; y < HEIGHT; y++) {
    const down = y / HEIGHT;
    const colour = [6 + 6 * down, 10 + 10 * down, 18 + 16 * down, 255];
    for (let k = 0; k < 4 * WIDTH; k++) pixels[4 * WIDTH * y + k] = colour[k & 3]!;
  }
  for (const limb of limbsAt(index / (RATE * SECONDS))) paint(pixels, limb);
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}

/** Draws a limb, round and lit from the front, with an edge of a pixel. */
function paint(pixels: Uint8Array, limb: Limb): void {
  const { from, to, thick, light } = limb;
  const reach = thick + 1;
  const [left, right] = [Math.min(from[0], to[0]) - reach, Math.max(from[0], to[0]) + reach];
  const [top, bottom] = [Math.min(from[1], to[1]) - reach, Math.max(from[1], to[1]) + reach];
  for (let y = Math.max(0, Math.floor(top)); y < Math.min(HEIGHT, bottom); y++) {
    for (let x = Math.max(0, Math.floor(left)); x < Math.min(WIDTH, right); x++) {
      const far = distance([x, y], limb);
      const cover = Math.min(1, Math.max(0, thick + 0.5 - far));
      if (cover === 0) continue;
      const round = light * (0.45 + 0.55 * Math.sqrt(Math.max(0, 1 - (far / reach) ** 2)));
      const at = 4 * (y * WIDTH + x);
      [255, 206, 148].forEach((c, k) => {
        pixels[at + k]! += (c * round - pixels[at + k]!) * cover;
      });
    }
  }
}

/** Somebody who dances before a camera; its last picture leads over into its first. */
export function dancer(): Clip {
  return {
    type: 'clip', width: WIDTH, height: HEIGHT,
    times: Float64Array.from({ length: RATE * SECONDS + 1 }, (_, i) => i / RATE),
    picture: pictureAt,
  };
}
