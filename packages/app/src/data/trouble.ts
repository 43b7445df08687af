import { dismissed, noticed } from '../store/noticeSlice';
import { store } from '../store/store';

/** Why the browser's storage did not take something, in words. */
export function whyNotKept(error: unknown): string {
  const text = error instanceof Error ? `${error.name} ${error.message}` : String(error);
  return /quota/i.test(text) ? 'is full' : 'is not available';
}

/** Says that something is in this page alone. */
export function tellUnkept(what: string, error: unknown): void {
  const message = `The browser's storage ${whyNotKept(error)}: ${what}. Export the piece to keep it.`;
  store.dispatch(noticed({ key: 'storage', kind: 'wrong', message, action: 'export' }));
}

/** Storage takes things again. */
export function keptAgain(): void {
  if (store.getState().notices.some((n) => n.key === 'storage'))
    store.dispatch(dismissed('storage'));
}
