/** Milliseconds between the signs of life of a worker, and between two looks for them. */
export const SIGNS_EVERY = 250;
/** Looks without a sign, after which a worker is dead: less than three seconds. */
const PATIENCE = 10;
/** Before its first sign it may still be on its way over the network. */
const ON_ITS_WAY = 120;

/** A sign of life: beside what comlink says, and told from it by its one field. */
export interface Sign {
  /** Seconds that may pass until the next one. */
  alive: number;
}

/**
 * Watches for the signs of life of a worker. Looks are counted, and no clock: a page that is held up itself, or sleeps,
 * does not take its workers for dead.
 *
 * @param silent is told once, when they have stopped
 * @returns ends the watch
 */
export function watchSigns(worker: Worker, silent: () => void): () => void {
  let left = ON_ITS_WAY;
  let began = false;
  const heard = ({ data }: MessageEvent<Partial<Sign> | null>): void => {
    if (typeof data?.alive !== 'number') return;
    // It has come: what it had for its way is over.
    if (!began) left = 0;
    began = true;
    // What it announced may begin only after a sign that it gives while it waits.
    left = Math.max(left, PATIENCE + Math.ceil((data.alive * 1000) / SIGNS_EVERY));
  };
  const timer = setInterval(() => {
    left -= 1;
    if (left > 0) return;
    end();
    silent();
  }, SIGNS_EVERY);
  const end = (): void => {
    clearInterval(timer);
    worker.removeEventListener('message', heard);
  };
  worker.addEventListener('message', heard);
  return end;
}
