import type { RenderJob } from '@vast-swarm/core/formats';
import { noticed } from '../store/noticeSlice';
import { store } from '../store/store';

interface Ended extends Pick<RenderJob, 'id' | 'state' | 'problem'> {
  /** Of its piece. */
  name: string;
  /** The address of the view that shows it beside the list of renders. */
  view: string | null;
}

/** Says that a render has ended to who looks elsewhere: at another view, or at another program. */
export function tellEnded({ id, name, state, problem, view }: Ended): void {
  if (state !== 'done' && state !== 'failed') return;
  const message =
    state === 'done'
      ? `${name}: the render is done. It is in the list of renders.`
      : `${name}: the render failed: ${problem ?? ''}`;
  if (document.hidden && 'Notification' in window && Notification.permission === 'granted') {
    new Notification('Vast Swarm', { body: message, tag: id });
  }
  if (['/renders', view].includes(location.pathname)) return;
  const kind = state === 'done' ? 'note' : 'wrong';
  store.dispatch(noticed({ key: `render ${id}`, kind, message }));
}
