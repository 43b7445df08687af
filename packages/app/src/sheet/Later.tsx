import { useEffect, useState, type ReactNode } from 'react';

/** Text for who does not draw has all of it at once. */
const HAS_FRAMES = typeof requestAnimationFrame === 'function';

/** Does something once the frame that is being made has been drawn; gives what calls it off. */
function afterFrame(act: () => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const frame = requestAnimationFrame(() => {
    timer = setTimeout(act);
  });
  return () => {
    cancelAnimationFrame(frame);
    clearTimeout(timer);
  };
}

interface Shown {
  id: string;
}

interface Props<T extends Shown> {
  /** The part that is shown: the same at once, another one in the frame after. */
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
  // What is seen for a frame more is the part as it was left.
  if (now && shown !== of) setShown(of);
  useEffect(() => {
    if (now) return;
    return afterFrame(() => {
      setShown(of);
    });
  }, [now, of]);
  if (!shown || (!now && !stays(shown))) return null;
  return <div inert={!now}>{children(shown)}</div>;
}
