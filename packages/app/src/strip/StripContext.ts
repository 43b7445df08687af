import { createContext, useContext } from 'react';
import type { View } from './view';

/** The strip, as its rows see it. */
export interface Strip {
  /** The part that is seen. */
  view: View;
  /** Frames on which beats fall, in view. */
  beats: readonly number[];
  /** The last frame of the piece. */
  last: number;
  /** Frames a second. */
  rate: number;
  /** Where a frame stands: 0 to 1 from the left of the view to its right, and beyond. */
  part: (frame: number) => number;
  /** The same as CSS says it. */
  percent: (frame: number) => string;
  /** The frame under a pointer over an element as wide as the strip; not rounded. */
  frameAt: (event: { clientX: number; currentTarget: Element }) => number;
  /** The frame, or the beat close by; with Alt held the frame itself. */
  snap: (frame: number, event: { altKey: boolean; currentTarget: Element }) => number;
}

export const StripContext = createContext<Strip | null>(null);

export function useStrip(): Strip {
  const strip = useContext(StripContext);
  if (!strip) throw new Error('no strip here');
  return strip;
}
