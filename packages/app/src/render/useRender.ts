import { useEffect, useRef, useState } from 'react';
import type { Job } from './messages';
import { OneRender, type RenderState } from './oneRender';

interface Rendering {
  state: RenderState;
  /** The latest frame, small. */
  look: ImageBitmap | null;
  start: (job: Job) => void;
  cancel: () => void;
}

/** One render at a time. */
export function useRender(): Rendering {
  const [state, setState] = useState<RenderState>({ phase: 'idle' });
  const [look, setLook] = useState<ImageBitmap | null>(null);
  const render = useRef<OneRender | null>(null);
  useEffect(
    () => () => {
      render.current?.close();
    },
    [],
  );
  const start = (job: Job): void => {
    render.current?.close();
    setLook(null);
    render.current = new OneRender(job, { state: setState, look: setLook });
  };
  const cancel = (): void => {
    render.current?.cancel();
  };
  return { state, look, start, cancel };
}
