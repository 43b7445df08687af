import { compilePiece, isDrawn } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import type { FromRender, Job, ToRender } from './messages';
import { openSink, type Sink } from './sinks';

/** Renders with the CPU engine: the same pixels as the command line and any other machine. */

const LOOK_EVERY = 400;
/** The size of the picture that is shown on the way. */
const LOOK_WIDTH = 640;

let cancelled = false;

const send = (message: FromRender, transfer: Transferable[] = []): void => {
  postMessage(message, { transfer });
};

self.onmessage = ({ data }: MessageEvent<ToRender>) => {
  if (data.type === 'cancel') cancelled = true;
  else void render(data.job);
};

/** Lets a cancel come in. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, 0);
  });
}

async function render(job: Job): Promise<void> {
  const { piece, files, first, last, width, height, oversample } = job;
  let done = 0;
  let sink: Sink | null = null;
  let engine: CpuEngine | null = null;
  try {
    sink = await openSink(job);
    const threads = crossOriginIsolated ? Math.min(16, navigator.hardwareConcurrency) : 1;
    engine = await CpuEngine.create({ threads });
    const plan = compilePiece(piece, { files });
    engine.setPlan(plan);
    const total = last - first + 1;
    let looked = 0;
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      const frame = isDrawn(plan, engine.frame, first)
        ? engine.draw(width, height, oversample)
        : null;
      if (frame && engine.frame >= first) {
        await sink.add(frame, engine.frame);
        done += 1;
        if (performance.now() - looked > LOOK_EVERY || done === total) {
          looked = performance.now();
          const image = new ImageData(frame.pixels, width, height);
          const bitmap = await createImageBitmap(image, {
            resizeWidth: Math.min(width, LOOK_WIDTH),
            resizeQuality: 'high',
          });
          send({ type: 'look', bitmap }, [bitmap]);
        }
      }
      const warming = Math.max(0, first - 1 - engine.frame);
      send({ type: 'progress', done, total, warming });
      await breathe();
      if (cancelled) {
        await sink.cancel();
        send({ type: 'cancelled', done });
        return;
      }
    }
    send({ type: 'done', blob: await sink.finish() });
  } catch (error) {
    await sink?.cancel().catch(() => undefined);
    send({ type: 'failed', message: error instanceof Error ? error.message : String(error), done });
  } finally {
    engine?.close();
  }
}
