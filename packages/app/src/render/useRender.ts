import { useEffect, useRef, useState } from 'react';
import type { FromRender, Job, ToRender } from './messages';

export type RenderState =
  | { phase: 'idle' }
  | { phase: 'running'; done: number; total: number; warming: number; seconds: number }
  | { phase: 'done'; blob: Blob | null; frames: number; seconds: number; job: Job }
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
  const worker = useRef<Worker | null>(null);

  const end = (): void => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => end, []);

  const start = (job: Job): void => {
    end();
    const started = performance.now();
    const total = job.last - job.first + 1;
    setState({ phase: 'running', done: 0, total, warming: job.first, seconds: 0 });
    const made = new Worker(new URL('./renderWorker.ts', import.meta.url), { type: 'module' });
    worker.current = made;
    made.onmessage = ({ data }: MessageEvent<FromRender>) => {
      if (data.type === 'look') setLook(data.bitmap);
      else if (data.type === 'progress') {
        const { done, warming } = data;
        const seconds = (performance.now() - started) / 1000;
        setState({ phase: 'running', done, total: data.total, warming, seconds });
      } else {
        end();
        if (data.type === 'done') {
          const seconds = (performance.now() - started) / 1000;
          setState({ phase: 'done', blob: data.blob, frames: total, seconds, job });
        } else if (data.type === 'cancelled') setState({ phase: 'cancelled', done: data.done });
        else setState({ phase: 'failed', message: data.message, done: data.done });
      }
    };
    made.onerror = (event) => {
      event.preventDefault();
      end();
      setState((s) => ({
        phase: 'failed',
        message: `The render stopped: ${event.message}`,
        done: s.phase === 'running' ? s.done : 0,
      }));
    };
    const message: ToRender = { type: 'start', job };
    made.postMessage(message);
  };
  const cancel = (): void => {
    const message: ToRender = { type: 'cancel' };
    worker.current?.postMessage(message);
  };
  return { state, look, start, cancel };
}
