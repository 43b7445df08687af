import { onProgress, type ProgressListener } from '@vast-swarm/core/progress';
import { expose } from 'comlink';
import { SIGNS_EVERY, type Sign } from './signs';

/** The worker's own end of its channel. */
interface Scope {
  postMessage: (message: Sign) => void;
}

/**
 * The one way in which our workers offer what they do: they give signs of life while they wait and while they work.
 *
 * @param heard is told of long work now and then; see ProgressListener
 */
export function exposeWorker(offered: object, heard?: ProgressListener): void {
  let last = -Infinity;
  const sign = (alive: number): void => {
    last = performance.now();
    (self as unknown as Scope).postMessage({ alive });
  };
  onProgress((what, part, quiet) => {
    if (quiet === 0 && performance.now() - last < SIGNS_EVERY) return;
    sign(quiet);
    heard?.(what, part, quiet);
  });
  expose(offered);
  sign(0);
  setInterval(() => {
    sign(0);
  }, SIGNS_EVERY);
}
