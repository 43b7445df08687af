import type { Piece } from '../piece/schema';
import { eddyAtTheLock } from './eddyAtTheLock';
import { planktonLantern } from './planktonLantern';

export interface DemoPiece {
  id: string;
  piece: Piece;
}

/** The opening night of a harbour town that does not exist, projected on its salt warehouses. */
export const DEMO_SHOW: { name: string; pieces: readonly DemoPiece[] } = {
  name: 'Saltglass Quay',
  pieces: [
    { id: 'plankton-lantern', piece: planktonLantern },
    { id: 'eddy-at-the-lock', piece: eddyAtTheLock },
  ],
};
