import { reportProgress } from '../progress';

const memos = new WeakMap<object, Map<string, unknown>>();

/** The result of `make` for a thing of the stock, worked out once for each key. */
export function memo<T>(item: object, key: string, make: () => T): T {
  let known = memos.get(item);
  if (!known) memos.set(item, (known = new Map<string, unknown>()));
  if (!known.has(key)) {
    reportProgress();
    known.set(key, make());
  }
  return known.get(key) as T;
}

/** Whether `memo` has something for the key already. */
export function remembered(item: object, key: string): boolean {
  return memos.get(item)?.has(key) ?? false;
}

let counter = 0;
/** A number for each thing of the stock, to name buffers by. */
export function serialOf(item: object): number {
  return memo(item, 'serial', () => ++counter);
}
