import { posesAt, type Motion } from '@vast-swarm/core/stock';
import { whileUnderPointer } from '../ui/underPointer';
import { drawFigure, figuresView } from './figure';

/** Stretches of a motion between which its extent is looked for. */
const MOMENTS = 40;

/** The performers of a motion as figures of lines, at rest; they move as long as the pointer rests on them. */
export function drawMotion(context: CanvasRenderingContext2D, motion: Motion): () => void {
  const { canvas } = context;
  const whole = motion.times.at(-1)!;
  const view = figuresView(canvas.width, canvas.height);
  const pose = (who: Motion['performers'][0], second: number): Float32Array =>
    posesAt(motion, [who], second);
  for (const performer of motion.performers) {
    for (let k = 0; k <= MOMENTS; k++) view.reach(pose(performer, (k / MOMENTS) * whole));
  }
  const show = (second: number): void => {
    context.clearRect(0, 0, canvas.width, canvas.height);
    for (const performer of motion.performers) {
      drawFigure(context, performer.joints, pose(performer, second), view.at);
    }
  };
  show(whole / 3);
  return whileUnderPointer(canvas, (seconds) => {
    show(whole > 0 ? seconds % whole : 0);
  });
}
