import type { StoredRender } from '../data/db';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';

/** Says that a render has ended to who looks elsewhere: at another view, or at another program. */
export function tellEnded({ id, of, piece, state, problem }: StoredRender): void {
  if (state !== 'done' && state !== 'failed') return;
  const message =
    state === 'done'
      ? `${piece.name}: the render is done. It is in the list of renders.`
      : `${piece.name}: the render failed: ${problem ?? ''}`;
  if (document.hidden && 'Notification' in window && Notification.permission === 'granted') {
    new Notification('Vast Swarm', { body: message, tag: id });
  }
  if (['/renders', `/piece/${of}/render`].includes(location.pathname)) return;
  const kind = state === 'done' ? 'note' : 'wrong';
  store.dispatch(noticed({ key: `render ${id}`, kind, message }));
}
