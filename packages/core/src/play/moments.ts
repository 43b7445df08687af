import { secondIn, type Plan } from '../plan/plan';
import type { FrameInputs } from '../language/frame';

/** Inputs of the drawing of a frame at `frame`, with the camera of that moment. */
export type DrawInputs = FrameInputs & Required<Pick<FrameInputs, 'camera'>>;
/** The same with the lights and the seconds before the frame's end. */
export type SceneInputs = FrameInputs & Required<Pick<FrameInputs, 'camera' | 'lamps' | 'before'>>;

interface Size {
  width: number;
  height: number;
}

/**
 * The moments that are drawn of a frame while the shutter is open, in seconds before its end.
 *
 * @param most most of them that are wanted
 */
export function momentsOf(plan: Plan, frame: number, most = Infinity): number[] {
  const { rate } = plan.frame;
  const shutter = plan.shutter(secondIn(plan.frame, frame, 1));
  const samples = Math.min(shutter.samples, most);
  if (samples <= 1) return [0];
  return Array.from({ length: samples }, (_, i) => (shutter.frames * (i + 0.5)) / samples / rate);
}

/** For the finish, and what else sees the whole frame. */
export function drawInputs(plan: Plan, frame: number, { width, height }: Size): DrawInputs {
  const time = secondIn(plan.frame, frame, 1);
  return { frame, time, width, height, born: 0, camera: plan.camera(time) };
}

/** For backdrop and bodies as they were `before` seconds ago. */
export function sceneInputs(
  plan: Plan,
  frame: number,
  { width, height }: Size,
  before: number,
): SceneInputs {
  const time = secondIn(plan.frame, frame, 1) - before;
  const camera = plan.camera(time);
  const lamps = plan.lamps(time, camera);
  return { frame, time, width, height, born: 0, before, camera, lamps };
}
