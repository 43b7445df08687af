import type { Clip, Picture } from '../../stock/types';

const [WIDTH, HEIGHT, COUNT] = [96, 54, 24];
/** Seconds that each picture is there. */
const EVERY = 1 / 6;

/** A spot of warm light that goes round in a picture, with a cold one across from it. */
function pictureAt(index: number): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT);
  const turn = (2 * Math.PI * index) / COUNT;
  const lamps = [
    { x: 0.5 + 0.3 * Math.cos(turn), y: 0.5 + 0.3 * Math.sin(turn), colour: [255, 190, 110] },
    { x: 0.5 - 0.3 * Math.cos(turn), y: 0.5 - 0.3 * Math.sin(turn), colour: [90, 170, 255] },
  ];
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [((i % WIDTH) + 0.5) / WIDTH, (Math.floor(i / WIDTH) + 0.5) / HEIGHT];
    for (const lamp of lamps) {
      const far = Math.hypot((x - lamp.x) * (WIDTH / HEIGHT), y - lamp.y) / 0.16;
      const light = Math.max(0, 1 - far * far);
      lamp.colour.forEach(
        (c, k) => (pixels[4 * i + k] = Math.min(255, pixels[4 * i + k]! + c * light)),
      );
    }
    pixels[4 * i + 3] = 255;
  }
  return { type: 'picture', width: WIDTH, height: HEIGHT, pixels };
}

export function wanderingLight(): Clip {
  const made: Picture[] = [];
  return {
    type: 'clip', width: WIDTH, height: HEIGHT,
    times: Float64Array.from({ length: COUNT + 1 }, (_, i) => i * EVERY),
    picture: (index) => (made[index] ??= pictureAt(index)),
  };
}
