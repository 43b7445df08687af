import type { Piece } from '../piece/schema';
import { conchToBuoy } from './conchToBuoy';
import { eddyAtTheLock } from './eddyAtTheLock';
import { hailOnTheSlipway } from './hailOnTheSlipway';
import { planktonLantern } from './planktonLantern';
import { ropeWalk } from './ropeWalk';
import { saltCubes } from './saltCubes';
import { tideChart } from './tideChart';

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
    { id: 'hail-on-the-slipway', piece: hailOnTheSlipway },
    { id: 'conch-to-buoy', piece: conchToBuoy },
    { id: 'tide-chart', piece: tideChart },
    { id: 'rope-walk', piece: ropeWalk },
    { id: 'salt-cubes', piece: saltCubes },
  ],
};
