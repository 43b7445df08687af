import type { BlockTrack } from '../language/track';
import type { GivenValues } from '../language/names';
import { bornAt, secondIn, type Plan, type SwarmPlan } from '../plan/plan';
import type { FrameInputs, PlanKernel } from '../language/frame';
import type { FieldPlan } from '../plan/fields/fieldPlan';
import type { MediumPass, MediumPlan } from '../plan/media/mediumPlan';
import type { CellSort } from '../plan/motion/neighbourGrid';
import { isRing } from '../plan/motion/history';
import { slotRanges } from '../plan/motion/slots';
import type { Past } from './knownHistory';

/** Moving of swarms by an engine. */
export interface MotionDevice {
  /** Runs a kernel of the swarm over slots from `begin` to `end`. */
  run(
    swarm: SwarmPlan,
    kernel: PlanKernel,
    begin: number,
    end: number,
    inputs: FrameInputs,
    extra?: GivenValues,
  ): void;
  /** Brings a track's block of the frame to where the swarm's kernels read it. */
  takeTrack(swarm: SwarmPlan, buffer: string, track: BlockTrack, frame: number): void;
  /** Readies what births read of the swarm they come from. */
  readyParent(swarm: SwarmPlan): void;
  /** Readies what motion reads of fields. */
  readyFields(swarm: SwarmPlan): void;
  /** Sorts a swarm's slots by cells. */
  sortCells(swarm: SwarmPlan, sort: CellSort, slots: number, inputs: FrameInputs): void;
  /** Runs a kernel over a field's cells that adds what a swarm, sorted by them, leaves there. */
  gather(field: FieldPlan, swarm: SwarmPlan, kernel: PlanKernel, inputs: FrameInputs): void;
  /** Runs the step of a field over its cells. */
  stepField(field: FieldPlan, inputs: FrameInputs): void;
  /** Takes a track's block of the frame to where the medium's kernels read it. */
  takeMediumTrack(medium: MediumPlan, buffer: string, track: BlockTrack, frame: number): void;
  /**
   * Adds what the swarm's particles give to what is left in the medium's cells.
   *
   * @param fresh the first to do so in this frame: what was left before is gone
   */
  leave(
    medium: MediumPlan,
    swarm: SwarmPlan,
    slots: number,
    fresh: boolean,
    inputs: FrameInputs,
  ): void;
  /** Nothing is left in the medium's cells. */
  leaveNothing(medium: MediumPlan): void;
  /** Runs a pass of the medium's step. */
  runPass(medium: MediumPlan, pass: MediumPass, inputs: FrameInputs): void;
  /** Whether the medium's memory is new to this plan of it; from then on it is not. */
  isNew(medium: MediumPlan): boolean;
  /** Keeps of this frame what the swarm's history wants. */
  remember(swarm: SwarmPlan, frame: number): void;
  /** Takes state and history of a frame from the swarm's bake; nothing where it has none. */
  replay(swarm: SwarmPlan, frame: number): void;
}

/**
 * Moves all on to the end of `frame`, in phases: fields and media take what the swarms leave, as the frame before left
 * them, and take their step; then, swarm by swarm, parents first: births, motion, history.
 */
export function stepMotion(plan: Plan, frame: number, past: Past, device: MotionDevice): void {
  for (const field of plan.fields) stepField(plan, field, frame, device);
  for (const medium of plan.media) stepMedium(plan, medium, frame, device);
  for (const swarm of plan.swarms) {
    if (swarm.bake) device.replay(swarm, frame);
    else stepSwarm(plan, swarm, frame, device);
    past.grow(swarm.id);
  }
}

function stepField(plan: Plan, field: FieldPlan, frame: number, device: MotionDevice): void {
  const at = { frame, time: secondIn(plan.frame, frame, 0.5), width: 0, height: 0 };
  for (const { swarm: id, sort, add } of field.gathers) {
    const swarm = plan.swarms.find((s) => s.id === id)!;
    const born = bornAt(swarm, frame - 1);
    const slots = Math.min(born, swarm.capacity);
    if (slots === 0) continue;
    device.sortCells(swarm, sort, slots, { ...at, born });
    device.gather(field, swarm, add, { ...at, born });
  }
  device.stepField(field, { ...at, born: 0 });
}

function stepMedium(plan: Plan, medium: MediumPlan, frame: number, device: MotionDevice): void {
  const at = { frame, time: secondIn(plan.frame, frame, 0.5), width: 0, height: 0, born: 0 };
  for (const [buffer, track] of medium.tracks) {
    device.takeMediumTrack(medium, buffer, track, frame);
  }
  let fresh = true;
  for (const id of medium.leaving.swarms) {
    const swarm = plan.swarms.find((s) => s.id === id)!;
    const born = bornAt(swarm, frame - 1);
    const slots = Math.min(born, swarm.capacity);
    if (slots === 0) continue;
    device.leave(medium, swarm, slots, fresh, { ...at, born });
    fresh = false;
  }
  if (fresh && medium.leaving.swarms.length > 0) device.leaveNothing(medium);
  const isNew = device.isNew(medium);
  for (const { passes, times, once } of medium.steps) {
    if (once && !isNew) continue;
    for (let left = times(at.time); left > 0; left--) {
      for (const pass of passes) device.runPass(medium, pass, at);
    }
  }
}

function stepSwarm(plan: Plan, swarm: SwarmPlan, frame: number, device: MotionDevice): void {
  const [from, to] = [secondIn(plan.frame, frame, 0), secondIn(plan.frame, frame, 1)];
  const born = bornAt(swarm, frame);
  const inputs: FrameInputs = { frame, time: (from + to) / 2, width: 0, height: 0, born };
  for (const [buffer, track] of swarm.tracks) device.takeTrack(swarm, buffer, track, frame);
  if (swarm.parent !== null) device.readyParent(swarm);
  if (swarm.fields.size > 0) device.readyFields(swarm);
  for (const event of swarm.births.inFrame(frame)) {
    // Those behind it take its slots within the same step.
    if (event.first + event.count <= born - swarm.capacity) continue;
    for (const { begin, end, idOffset } of slotRanges(event, swarm.capacity)) {
      device.run(swarm, swarm.birth, begin, end, inputs, {
        idOffset,
        first: event.first,
        count: event.count,
        ageFirst: from - event.time,
        ageStep: event.every,
      });
    }
  }
  const slots = Math.min(born, swarm.capacity);
  if (swarm.grid && slots > 0) {
    device.sortCells(swarm, swarm.grid, slots, inputs);
    device.run(swarm, swarm.grid.gather, 0, slots, inputs);
  }
  device.run(swarm, swarm.motion, 0, slots, inputs);
  device.remember(swarm, frame);
}

/** Whether all motion of a plan is stored, so that any frame of it is there at once. */
export function isStored({ swarms, media }: Plan): boolean {
  return swarms.length > 0 && swarms.every((s) => s.bake) && media.length === 0;
}

/** Brings back the states of a frame, of a plan whose motion is stored. */
export function jumpTo(
  plan: Plan,
  frame: number,
  past: Past,
  device: Pick<MotionDevice, 'replay'>,
): void {
  for (const swarm of plan.swarms) replayTo(swarm, frame, device);
  past.complete();
}

/** Brings back a swarm's state with the frames before it, where its trails come from. */
export function replayTo(
  swarm: SwarmPlan,
  frame: number,
  device: Pick<MotionDevice, 'replay'>,
): void {
  for (let back = Math.max(0, swarm.history.rows - 1); back >= 0; back--) {
    device.replay(swarm, frame - back);
  }
}

/** Frames of a swarm's bake, by the name of the state; null is nothing. */
export function* storedAt(
  { bake, state }: SwarmPlan,
  frame: number,
): Generator<[name: string, values: Float32Array | null]> {
  const stored = frame >= bake!.first && frame <= bake!.last ? bake!.read(frame) : [];
  for (const name of state) {
    if (!isRing(name)) yield [name, stored[bake!.state.indexOf(name)] ?? null];
  }
}
