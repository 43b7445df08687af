import { applyPatches } from 'immer';
import { useMemo } from 'react';
import { validatePiece, type Piece } from '@vast-swarm/core/piece';
import { library, type Snapshot, type StoredPiece } from '../data/db';
import { useLive } from '../data/useLive';
import { useApp } from '../store/store';

export interface Version {
  key: string;
  title: string;
  group: 'Kept versions' | 'Undo points' | 'Other pieces';
  piece: Piece;
}

const NO_SNAPSHOTS: Snapshot[] = [];
const NO_PIECES: StoredPiece[] = [];
const allSnapshots = (): Promise<Snapshot[]> =>
  library.snapshots.orderBy('made').reverse().toArray();
const allPieces = (): Promise<StoredPiece[]> =>
  library.pieces.orderBy('changed').reverse().toArray();
/** A stored piece as this version of the application reads it; none where it cannot. */
function versionsOf(key: string, title: string, group: Version['group'], stored: Piece): Version[] {
  try {
    return [{ key, title, group, piece: validatePiece(stored) }];
  } catch {
    return [];
  }
}

/** Undo points that are offered. */
const MOST = 20;

/** Versions that the open piece can be compared with. */
export function useVersions(id: string): Version[] {
  const { piece, past } = useApp((s) => s.piece);
  const snapshots = useLive(allSnapshots, NO_SNAPSHOTS);
  const pieces = useLive(allPieces, NO_PIECES);
  const kept = useMemo(
    () =>
      snapshots
        .filter((s) => s.of === id)
        .flatMap((s) => versionsOf(`kept ${s.id}`, s.name, 'Kept versions', s.piece)),
    [id, snapshots],
  );
  const others = useMemo(
    () =>
      pieces
        .filter((p) => p.id !== id)
        .flatMap((p) => versionsOf(`piece ${p.id}`, p.piece.name, 'Other pieces', p.piece)),
    [id, pieces],
  );
  return useMemo(() => {
    const undo: Version[] = [];
    let before = piece;
    for (const [i, step] of [...past.entries()].reverse().slice(0, MOST)) {
      before = before && applyPatches(before, step.inverse);
      if (!before) break;
      const title = `Before: ${step.label}`;
      undo.push({ key: `undo ${String(i)}`, title, group: 'Undo points', piece: before });
    }
    return [...kept, ...undo, ...others];
  }, [kept, others, piece, past]);
}
