import { makeEntry, makeShow, type Entry, type Show } from '../show/show';
import { makePanel, makeWall } from '../show/wall';
import type { Piece } from '../piece/types';
import { beaconRush } from './pieces/beaconRush';
import { bellBreath } from './pieces/bellBreath';
import { conchToBuoy } from './pieces/conchToBuoy';
import { eddyAtTheLock } from './pieces/eddyAtTheLock';
import { emberBarge } from './pieces/emberBarge';
import { ferryWindows } from './pieces/ferryWindows';
import { foghorn } from './pieces/foghorn';
import { gullTrails } from './pieces/gullTrails';
import { hailOnTheSlipway } from './pieces/hailOnTheSlipway';
import { lamplightersCopy } from './pieces/lamplightersCopy';
import { netMenders } from './pieces/netMenders';
import { pierDancers } from './pieces/pierDancers';
import { planktonLantern } from './pieces/planktonLantern';
import { ropeWalk } from './pieces/ropeWalk';
import { saltCubes } from './pieces/saltCubes';
import { signalFlags } from './pieces/signalFlags';
import { stormGlass } from './pieces/stormGlass';
import { tideChart } from './pieces/tideChart';
import { tideTables } from './pieces/tideTables';
import { windowRain } from './pieces/windowRain';

export interface DemoPiece {
  id: string;
  piece: Piece;
}

/** The evening in order, each piece with how it differs from an entry as one begins with. */
const EVENING: readonly [piece: string, Partial<Entry>?][] = [
  // It blows until the doors are closed.
  ['foghorn', { next: 'hand', fade: 3 }],
  ['plankton-lantern', { fade: 3 }],
  ['net-menders'],
  ['gull-trails'],
  ['tide-chart'],
  ['eddy-at-the-lock'],
  ['conch-to-buoy'],
  ['rope-walk'],
  ['signal-flags', { fade: 1 }],
  ['salt-cubes'],
  ['ferry-windows'],
  ['tide-tables'],
  ['window-rain', { fade: 3 }],
  ['hail-on-the-slipway', { fade: 0 }],
  ['storm-glass'],
  ['beacon-rush', { fade: 0.5 }],
  ['pier-dancers'],
  ['bell-breath'],
  // It burns until it is let go out.
  ['ember-barge', { fade: 3, next: 'cue', cue: 'embers' }],
  ['lamplighters-copy', { fade: 4, next: 'hand' }],
];

/** The front of a warehouse: a broad middle, a column on each side, and two boards that hang askew under the eaves. */
const wall = makeWall([
  makePanel('front', { name: 'Front', x: 4, y: 2.55, columns: 88, rows: 56, pitch: 50 }),
  makePanel('west', { name: 'West column', x: 0.75, y: 2.6, columns: 16, rows: 60, pitch: 56 }),
  makePanel('east', { name: 'East column', x: 7.25, y: 2.6, columns: 16, rows: 60, pitch: 56 }),
  makePanel('gable-west', {
    ...{ name: 'Gable west', x: 2.5, y: 0.62, columns: 40, rows: 10, pitch: 60, turn: -12 },
    order: { along: 'columns', from: 'bottomLeft', snake: true },
  }),
  makePanel('gable-east', {
    ...{ name: 'Gable east', x: 5.5, y: 0.62, columns: 40, rows: 10, pitch: 60, turn: 12 },
    order: { along: 'columns', from: 'bottomRight', snake: true },
  }),
]);

function evening(): Show {
  const entries = EVENING.map(([piece, given]) => ({ ...makeEntry(piece, piece), ...given }));
  return { ...makeShow('Saltglass Quay'), entries, wall };
}

/** The opening night of a harbour town that does not exist, projected on its salt warehouses. */
export const DEMO_SHOW: {
  id: string;
  name: string;
  show: Show;
  pieces: readonly DemoPiece[];
} = {
  id: 'saltglass-quay',
  name: 'Saltglass Quay',
  show: evening(),
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
    { id: 'foghorn', piece: foghorn },
    { id: 'bell-breath', piece: bellBreath },
    { id: 'tide-tables', piece: tideTables },
    { id: 'ferry-windows', piece: ferryWindows },
    { id: 'lamplighters-copy', piece: lamplightersCopy },
    { id: 'pier-dancers', piece: pierDancers },
    { id: 'storm-glass', piece: stormGlass },
    { id: 'ember-barge', piece: emberBarge },
  ],
};
