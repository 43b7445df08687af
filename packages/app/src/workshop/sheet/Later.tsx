import { useEffect, useState, type ReactNode } from 'react';
import { afterFrame } from '../../ui/afterFrame';

/** Text for who does not draw has all of it at once. */
const HAS_FRAMES = typeof requestAnimationFrame === 'function';

interface Shown {
  id: string;
}

interface Props<T extends Shown> {
  /** What is shown: of the same part at once, of another part in the frame after. */
  of: T;
  /** Whether what is shown still, of the part before, is there at all. */
  stays: (shown: T) => boolean;
  children: (shown: T) => ReactNode;
}

/**
 * The lower groups of a sheet: when another part is selected, the upper ones follow at once and these a frame
 * later, so that no press waits for all of them. Until then they are seen and cannot be used.
 */
export function Later<T extends Shown>({ of, stays, children }: Props<T>) {
  const [shown, setShown] = useState<T | null>(HAS_FRAMES ? null : of);
  const now = shown?.id === of.id;
  useEffect(() => {
    if (now) return;
    return afterFrame(() => {
      setShown(of);
    });
  }, [now, of]);
  const part = now ? of : shown;
  if (!part || (!now && !stays(part))) return null;
  return <div inert={!now}>{children(part)}</div>;
}
