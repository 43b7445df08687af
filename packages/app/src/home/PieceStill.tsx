import type { ReactNode } from 'react';
import type { StoredPiece } from '../data/db';
import { useBlobSource } from '../ui/useBlobSource';

interface Props {
  stored: StoredPiece | undefined;
  style: React.CSSProperties;
  /** The view until the picture is there. */
  children: ReactNode;
}

/** A piece as it was seen last; one of the demo that has not been opened yet as it is shipped. */
export function PieceStill({ stored, style, children }: Props) {
  const source = useBlobSource(stored?.thumb);
  const shipped = stored?.demo && !stored.thumb ? `/demo/${stored.demo}.png` : undefined;
  if (!stored?.thumb && !shipped) return children;
  return (
    <img
      key={shipped ?? 'own'}
      ref={source}
      src={shipped}
      alt=""
      style={{ objectFit: 'cover', display: 'block', ...style }}
    />
  );
}
