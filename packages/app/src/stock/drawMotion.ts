import { placesAt, type Motion } from '@vast-swarm/core';
import { COLOURS } from '../theme';
import { whileUnderPointer } from '../ui/underPointer';

/** Stretches of a motion between which its extent is looked for. */
const MOMENTS = 40;

/** The performers of a motion as figures of lines, at rest; they move as long as the pointer rests on them. */
export function drawMotion(context: CanvasRenderingContext2D, motion: Motion): () => void {
  const { canvas } = context;
  const whole = motion.times.at(-1)!;
  const view = viewOf(motion, canvas.width, canvas.height);
  const show = (second: number): void => {
    context.clearRect(0, 0, canvas.width, canvas.height);
    context.strokeStyle = context.fillStyle = COLOURS.glass;
    context.lineWidth = 2;
    context.lineCap = 'round';
    for (const performer of motion.performers) {
      const places = new Float32Array(3 * performer.joints.length);
      placesAt(motion, performer, second, places);
      performer.joints.forEach(({ parent }, i) => {
        const [x, y] = view(places, i);
        if (parent < 0) {
          context.fillRect(x - 1.5, y - 1.5, 3, 3);
          return;
        }
        context.beginPath();
        context.moveTo(...view(places, parent));
        context.lineTo(x, y);
        context.stroke();
      });
    }
  };
  show(whole / 3);
  return whileUnderPointer(canvas, (seconds) => {
    show(whole > 0 ? seconds % whole : 0);
  });
}

/** Where a joint is on a canvas that shows all that the motion ever reaches, from the front. */
function viewOf(
  motion: Motion,
  width: number,
  height: number,
): (places: Float32Array, joint: number) => [number, number] {
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ] as [[number, number], [number, number]];
  for (const performer of motion.performers) {
    const places = new Float32Array(3 * performer.joints.length);
    for (let k = 0; k <= MOMENTS; k++) {
      placesAt(motion, performer, (k / MOMENTS) * motion.times.at(-1)!, places);
      for (let i = 0; i < places.length; i += 3) {
        for (const axis of [0, 1] as const) {
          low[axis] = Math.min(low[axis], places[i + axis]!);
          high[axis] = Math.max(high[axis], places[i + axis]!);
        }
      }
    }
  }
  const [wide, tall] = [high[0] - low[0], high[1] - low[1]];
  const scale = 0.86 * Math.min(width / Math.max(wide, 1e-6), height / Math.max(tall, 1e-6));
  const middle = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2] as const;
  return (places, joint) => [
    width / 2 + (places[3 * joint]! - middle[0]) * scale,
    height / 2 - (places[3 * joint + 1]! - middle[1]) * scale,
  ];
}
