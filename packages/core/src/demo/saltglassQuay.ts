import type { Piece } from '../piece/schema';
import { beaconRush } from './beaconRush';
import { conchToBuoy } from './conchToBuoy';
import { eddyAtTheLock } from './eddyAtTheLock';
import { gullTrails } from './gullTrails';
import { hailOnTheSlipway } from './hailOnTheSlipway';
import { netMenders } from './netMenders';
import { planktonLantern } from './planktonLantern';
import { ropeWalk } from './ropeWalk';
import { saltCubes } from './saltCubes';
import { signalFlags } from './signalFlags';
import { tideChart } from './tideChart';
import { windowRain } from './windowRain';

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
    { id: 'net-menders', piece: netMenders },
    { id: 'gull-trails', piece: gullTrails },
    { id: 'rope-walk', piece: ropeWalk },
    { id: 'tide-chart', piece: tideChart },
    { id: 'salt-cubes', piece: saltCubes },
    { id: 'signal-flags', piece: signalFlags },
    { id: 'beacon-rush', piece: beaconRush },
    { id: 'window-rain', piece: windowRain },
  ],
};
