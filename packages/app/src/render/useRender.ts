import { useEffect, useRef, useState } from 'react';
import { openWorker, type OpenWorker } from '../workers/openWorker';
import type { Job, RenderEnd, RenderEvents, RenderWorker } from './messages';

export type RenderState =
  | { phase: 'idle' }
  | { phase: 'running'; done: number; total: number; warming: number; seconds: number }
  | (RenderEnd & { phase: 'done' } & { frames: number; seconds: number; job: Job })
  | { phase: 'cancelled'; done: number }
  | { phase: 'failed'; message: string; done: number };

interface Rendering {
  state: RenderState;
  /** The latest frame, small. */
  look: ImageBitmap | null;
  start: (job: Job) => void;
  cancel: () => void;
}

/** One render at a time, in a worker of its own. */
export function useRender(): Rendering {
  const [state, setState] = useState<RenderState>({ phase: 'idle' });
  const [look, setLook] = useState<ImageBitmap | null>(null);
  const worker = useRef<OpenWorker<RenderWorker> | null>(null);

  const end = (): void => {
    worker.current?.close();
    worker.current = null;
  };
  useEffect(() => end, []);

  const start = (job: Job): void => {
    end();
    const started = performance.now();
    const seconds = (): number => (performance.now() - started) / 1000;
    const total = job.last - job.first + 1;
    setState({ phase: 'running', done: 0, total, warming: job.first, seconds: 0 });
    const made = new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' });
    const own = openWorker<RenderWorker>(made);
    worker.current = own;
    let done = 0;
    const events: RenderEvents = {
      // Events come by another way than the end does, and may come behind it.
      progress: (now, all, warming) => {
        if (worker.current !== own) return;
        done = now;
        setState({ phase: 'running', done, total: all, warming, seconds: seconds() });
      },
      look: setLook,
    };
    const finished = (ended: RenderState): void => {
      if (worker.current !== own) return;
      end();
      setState(ended);
    };
    const rendered: Promise<RenderEnd> = own.call.render(job, own.called(events));
    own.ask(rendered).then(
      (ended) => {
        const more = { frames: total, seconds: seconds(), job };
        finished(ended.phase === 'done' ? { ...ended, ...more } : ended);
      },
      (error: unknown) => {
        const why = error instanceof Error ? error.message : String(error);
        finished({ phase: 'failed', message: `The render stopped: ${why}`, done });
      },
    );
  };
  const cancel = (): void => {
    void worker.current?.call.cancel();
  };
  return { state, look, start, cancel };
}
