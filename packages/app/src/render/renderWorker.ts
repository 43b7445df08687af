import '@vast-swarm/core/content';
import { arrivedFiles } from '@vast-swarm/core/stock';
import { compilePiece, isDrawn } from '@vast-swarm/core/plan';
import { type Frame } from '@vast-swarm/core/formats';
import { checkRoom, CpuEngine } from '@vast-swarm/cpu';
import { transfer } from 'comlink';
import { exposeWorker } from '../workers/exposeWorker';
import { Looking } from '../engine/looking';
import type { Job, RenderEnd, RenderEvents, RenderWorker } from './messages';
import type { Sink } from './sink';
import { openSink } from './sinks';

/** Renders with the CPU engine: the same pixels as the command line and any other machine. */

const LOOK_EVERY = 400;
/** The size of the picture that is shown on the way. */
const LOOK_WIDTH = 640;

let cancelled = false;
/** Hears of what is made ready; null while frames are made. */
let building: RenderEvents['building'] | null = null;

const worker: RenderWorker = {
  render,
  cancel: () => {
    cancelled = true;
  },
};
exposeWorker(worker, (what, part) => {
  if (what !== '') building?.(what, part);
});

/** Lets a cancel come in. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, 0);
  });
}

/** A frame as it is shown on the way. */
function smaller({ pixels, width, height }: Frame): Promise<ImageBitmap> {
  return createImageBitmap(new ImageData(pixels, width, height), {
    resizeWidth: Math.min(width, LOOK_WIDTH),
    resizeQuality: 'high',
  });
}

async function render(given: Job, events: RenderEvents): Promise<RenderEnd> {
  const files = arrivedFiles(given.files);
  const job: Job = { ...given, files };
  const { piece, first, last, width, height, oversample, alpha } = job;
  let done = 0;
  let sink: Sink | null = null;
  let engine: CpuEngine | null = null;
  const looking = new Looking();
  looking.files = files;
  try {
    sink = await openSink(job);
    const threads = crossOriginIsolated ? Math.min(16, navigator.hardwareConcurrency) : 1;
    engine = await CpuEngine.create({ threads, large: true });
    building = events.building;
    const { drawn, light } = sink.wants;
    const clear = drawn && alpha;
    const passes = job.layers;
    const plan = compilePiece(piece, { files, looker: looking.looker, light, clear, passes });
    building = null;
    if (drawn) checkRoom(plan, { width, height, oversample });
    engine.setPlan(plan);
    sink.begin?.(plan);
    const total = last - first + 1;
    const isThere = (frame: number): boolean => sink!.has?.(frame) ?? false;
    const all = Array.from({ length: total }, (_, i) => first + i);
    const wanted = all.filter((frame) => !isThere(frame));
    done = total - wanted.length;
    const end = wanted.at(-1) ?? -1;
    let looked = 0;
    while (engine.frame < end) {
      await engine.ready();
      engine.step();
      const isWanted = engine.frame >= first && !isThere(engine.frame);
      // One that is there is drawn once more where the finish remembers it.
      const isSeen = isWanted || (plan.finish.remembers && isDrawn(plan, engine.frame, first));
      const frame = drawn && isSeen ? engine.draw(width, height, oversample) : null;
      if (isWanted) {
        await sink.add(engine, frame);
        done += 1;
        if (frame && (performance.now() - looked > LOOK_EVERY || done === total)) {
          looked = performance.now();
          const bitmap = await smaller(frame);
          events.look(transfer(bitmap, [bitmap]));
        }
      }
      const warming = Math.max(0, (wanted[0] ?? first) - 1 - engine.frame);
      events.progress(done, total - wanted.length, warming);
      await breathe();
      if (cancelled) {
        await sink.cancel();
        return { phase: 'cancelled', done };
      }
    }
    return { phase: 'done', blob: await sink.finish(), note: sink.note ?? null };
  } catch (error) {
    await sink?.cancel().catch(() => undefined);
    const message = error instanceof Error ? error.message : String(error);
    return { phase: 'failed', message, done };
  } finally {
    engine?.close();
    looking.close();
  }
}
