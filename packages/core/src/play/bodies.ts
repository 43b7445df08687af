import type { GivenValues } from '../language/names';
import { bornAt, type Drawn, type SwarmPlan } from '../plan/plan';
import type { Draw } from '../plan/look/draws/draw';
import { isDrawnTogether, outputsOf, rowsOf } from '../plan/look/draws/tables';
import { historyBuffer } from '../plan/motion/history';
import type { FrameInputs } from '../language/frame';
import type { Past } from './knownHistory';

/** Where one run of a look kernel puts what it finds. */
export interface LookRun {
  /** Slots that are looked at. */
  count: number;
  /** Entries that a list takes, and lists that are wanted in all. */
  stride: number;
  lists: number;
  /** Which list is filled, by the name of an output; and what stands behind the other buffers. */
  offset: (buffer: string) => number;
  source: (buffer: string) => string;
}

/** Drawing of bodies by an engine, on a canvas of its own. */
export interface BodyDevice<Canvas> {
  /** Finds the pairs that are linked. */
  findLinks(
    swarm: SwarmPlan,
    draw: Draw & { shape: 'links' },
    count: number,
    inputs: FrameInputs,
  ): void;
  /** Works out what is drawn of each particle. */
  look(swarm: SwarmPlan, draw: Draw, run: LookRun, inputs: FrameInputs, extra: GivenValues): void;
  /** Draws the first `count` entries of the lists. */
  paint(swarm: SwarmPlan, draw: Draw, count: number, canvas: Canvas): void;
}

/** Draws bodies in order, each with all its repeats, from the state of `base.frame`. */
export function drawBodies<Canvas>(
  drawn: readonly Drawn[],
  base: FrameInputs,
  past: Past,
  device: BodyDevice<Canvas>,
  canvas: Canvas,
): void {
  for (const { swarm, draw } of drawn) {
    const born = bornAt(swarm, base.frame);
    const count = Math.min(born, swarm.capacity);
    if (count === 0) continue;
    const inputs = { ...base, born };
    const { copies } = swarm;
    const rows = rowsOf(draw);
    const stride = (count + 3) & ~3;
    const single = !isDrawnTogether(draw);
    const lists = single ? rows : copies.length;
    const look = (list: number, row: number, extra: GivenValues): void => {
      const offset = (name: string): number => (outputsOf(draw).includes(name) ? stride * list : 0);
      const source = (name: string): string => historyBuffer(name, base.frame, row, rows);
      device.look(swarm, draw, { count, stride, lists, offset, source }, inputs, extra);
    };
    if (draw.shape === 'links') device.findLinks(swarm, draw, count, inputs);
    copies.forEach((copy, i) => {
      if (!single) {
        look(i, 0, copy);
        return;
      }
      const known = past.of(swarm.id);
      for (let row = 0; row < rows; row++) look(row, row, { ...copy, row, known });
      device.paint(swarm, draw, count, canvas);
    });
    if (!single) device.paint(swarm, draw, lists === 1 ? count : stride * lists, canvas);
  }
}
