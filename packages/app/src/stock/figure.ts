import type { Joint } from '@vast-swarm/core/stock';
import { COLOURS } from '../ui/theme';

/** Where a joint is on a canvas. */
export type Place = (places: Float32Array, joint: number) => [x: number, y: number];

/** A view of figures from the front, that shows all that they have reached. */
export function figuresView(
  width: number,
  height: number,
): { reach: (places: Float32Array) => void; at: Place } {
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  return {
    reach(places) {
      for (let i = 0; i < places.length; i += 3) {
        for (const axis of [0, 1]) {
          low[axis] = Math.min(low[axis]!, places[i + axis]!);
          high[axis] = Math.max(high[axis]!, places[i + axis]!);
        }
      }
    },
    at(places, joint) {
      const [wide, tall] = [high[0]! - low[0]!, high[1]! - low[1]!];
      const scale = 0.86 * Math.min(width / Math.max(wide, 1e-6), height / Math.max(tall, 1e-6));
      return [
        width / 2 + (places[3 * joint]! - (low[0]! + high[0]!) / 2) * scale,
        height / 2 - (places[3 * joint + 1]! - (low[1]! + high[1]!) / 2) * scale,
      ];
    },
  };
}

/** Draws a figure of lines: each joint with the one that it hangs on. */
export function drawFigure(
  context: CanvasRenderingContext2D,
  joints: readonly Joint[],
  places: Float32Array,
  at: Place,
): void {
  context.strokeStyle = context.fillStyle = COLOURS.glass;
  context.lineWidth = 2;
  context.lineCap = 'round';
  joints.forEach(({ parent }, i) => {
    const [x, y] = at(places, i);
    if (parent < 0) {
      context.fillRect(x - 1.5, y - 1.5, 3, 3);
      return;
    }
    context.beginPath();
    context.moveTo(...at(places, parent));
    context.lineTo(x, y);
    context.stroke();
  });
}
