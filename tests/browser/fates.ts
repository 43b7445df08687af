import type { Page, Worker } from 'playwright-core';

/** What can become of a worker, as it is done to one from outside. */
export const FATES = {
  loops: () => {
    for (;;);
  },
  'is gone': () => {
    self.close();
  },
  'is silent': () => {
    self.postMessage = () => undefined;
  },
};
export type Fate = keyof typeof FATES;

/** The page's newest worker of a kind; waits for one. */
export async function workerOf(page: Page, kind: string): Promise<Worker> {
  const is = (worker: Worker): boolean => worker.url().includes(kind);
  return page.workers().findLast(is) ?? page.waitForEvent('worker', { predicate: is });
}

/** Has something become of a worker; one that loops never answers. */
export function befalls(worker: Worker, fate: Fate): void {
  worker.evaluate(FATES[fate]).catch(() => undefined);
}
