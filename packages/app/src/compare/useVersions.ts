import { applyPatches } from 'immer';
import { useMemo } from 'react';
import type { Piece } from '@vast-swarm/core';
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
/** Undo points that are offered. */
const MOST = 20;

/** What the open piece can be compared with. */
export function useVersions(id: string): Version[] {
  const { piece, past } = useApp((s) => s.piece);
  const snapshots = useLive(allSnapshots, NO_SNAPSHOTS);
  const pieces = useLive(allPieces, NO_PIECES);
  return useMemo(() => {
    const kept = snapshots
      .filter((s) => s.of === id)
      .map((s): Version => ({
        key: `kept ${s.id}`,
        title: s.name,
        group: 'Kept versions',
        piece: s.piece,
      }));
    const undo: Version[] = [];
    let before = piece;
    for (const [i, step] of [...past.entries()].reverse().slice(0, MOST)) {
      before = before && applyPatches(before, step.inverse);
      if (!before) break;
      undo.push({
        key: `undo ${String(i)}`,
        title: `Before: ${step.label}`,
        group: 'Undo points',
        piece: before,
      });
    }
    const others = pieces
      .filter((p) => p.id !== id)
      .map((p): Version => ({
        key: `piece ${p.id}`,
        title: p.piece.name,
        group: 'Other pieces',
        piece: p.piece,
      }));
    return [...kept, ...undo, ...others];
  }, [id, piece, past, snapshots, pieces]);
}
