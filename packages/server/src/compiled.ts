import { compilePiece, type Plan, type Sources } from '@vast-swarm/core/plan';
import { onProgress } from '@vast-swarm/core/progress';
import type { Piece } from '@vast-swarm/core/piece';

/** Milliseconds of work that are nothing to speak of. */
const SOON = 1000;

/** A piece made ready for an engine; what takes long shows how far it is on a terminal. */
export function compiled(piece: Piece, sources: Sources): Plan {
  const { stderr } = process;
  const since = performance.now();
  let shown = '';
  onProgress((what, part) => {
    if (!stderr.isTTY || what === '' || performance.now() - since < SOON) return;
    const text = `building ${what}, ${String(Math.round(100 * part))} %`;
    if (text !== shown) stderr.write(`\r${text}\u001b[K`);
    shown = text;
  });
  try {
    return compilePiece(piece, sources);
  } finally {
    onProgress(() => undefined);
    if (shown !== '') stderr.write('\r\u001b[K');
  }
}
