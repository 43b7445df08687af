import { encodePng, type Frame } from '@vast-swarm/core/formats';
import { tell } from './say';
import { writeWhole } from './writeWhole';

/** Milliseconds between two looks, and how wide they are at most. */
const EVERY = 1000;
const WIDEST = 480;

/** A frame so much smaller, of means of the values of its pixels. */
function smaller({ width, height, pixels }: Frame, by: number): Frame {
  const [w, h] = [Math.max(1, Math.floor(width / by)), Math.max(1, Math.floor(height / by))];
  const out = new Uint8ClampedArray(4 * w * h).fill(255);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        for (let j = 0; j < by; j++) {
          const row = 4 * ((y * by + j) * width + x * by) + c;
          for (let i = 0; i < by; i++) sum += pixels[row + 4 * i]!;
        }
        out[4 * (y * w + x) + c] = sum / (by * by);
      }
    }
  }
  return { width: w, height: h, pixels: out };
}

/** Writes a small picture of what it is given now and then, for whoever wants to see how far a render is. */
export function lookInto(file: string): (frame: Frame) => void {
  let [last, writing] = [-EVERY, false];
  return (frame) => {
    const now = performance.now();
    if (writing || now - last < EVERY) return;
    [last, writing] = [now, true];
    encodePng(smaller(frame, Math.ceil(frame.width / WIDEST)))
      .then((bytes) => writeWhole(file, bytes))
      .catch((error: unknown) => {
        tell(`note: ${error instanceof Error ? error.message : String(error)}`);
      })
      .finally(() => (writing = false));
  };
}
