import {
  gathered,
  parseParts,
  partsText,
  pasted,
  type PartRef,
  type Parts,
} from '@vast-swarm/core/piece';
import { noticed } from '../store/noticeSlice';
import { pieceActions } from '../store/pieceSlice';
import { store } from '../store/store';

/** The latest copy, for where the clipboard cannot be read. */
let last: string | null = null;

/** Parts of the open piece, with all that they name; null where they cannot travel. */
export function chosenParts(refs: readonly PartRef[]): Parts | null {
  const { piece } = store.getState().piece;
  if (!piece || refs.length === 0) return null;
  const names = refs.map(({ list, id }) => piece[list].find((p) => p.id === id)?.name ?? id);
  const parts = gathered(piece, refs, names.join(', '));
  if (!parts) {
    const message = 'Controls and cues belong to their piece: they cannot be copied to another.';
    store.dispatch(noticed({ key: 'copied', kind: 'wrong', message }));
  }
  return parts;
}

/** Parts as text for the clipboard; null where they cannot travel. */
export function copiedText(refs: readonly PartRef[]): string | null {
  const parts = chosenParts(refs);
  return parts && (last = partsText(parts));
}

/** Puts them on the clipboard, from a menu. */
export async function copyParts(refs: readonly PartRef[]): Promise<void> {
  const text = copiedText(refs);
  if (text === null) return;
  // A browser that does not let us is no trouble within this page.
  await navigator.clipboard.writeText(text).catch(() => undefined);
}

/** Adds parts to the open piece, as one step; what is wrong with them is told, and nothing is changed. */
export function putParts(read: () => Parts): void {
  const { piece } = store.getState().piece;
  if (!piece) return;
  try {
    const parts = read();
    const { piece: next, added } = pasted(piece, parts);
    store.dispatch(pieceActions.pasted({ piece: next, added, label: `Paste ${parts.name}` }));
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    store.dispatch(
      noticed({ key: 'pasted', kind: 'wrong', message: `Nothing was pasted.\n${why}` }),
    );
  }
}

export function pasteText(text: string): void {
  putParts(() => parseParts(text));
}

/** Takes parts from the clipboard, from a menu. */
export async function pasteParts(): Promise<void> {
  const read = await navigator.clipboard.readText().catch(() => '');
  pasteText(read.includes('"vast-swarm') ? read : (last ?? read));
}
