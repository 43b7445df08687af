import type { RenderState } from './oneRender';

/** How fast a render is, and how long it will still take; nothing is known before its first frame. */
export function paceOf({ done, there, total, seconds }: RenderState & { phase: 'running' }): {
  perSecond: number;
  secondsLeft: number | null;
} {
  const perSecond = done > there ? (done - there) / seconds : 0;
  return { perSecond, secondsLeft: perSecond > 0 ? (total - done) / perSecond : null };
}
