import { makeEntry, makeShow, type Entry, type Show } from '../show/show';
import { makePanel, makeWall } from '../show/wall';
import { DEMO_NAME } from './content/name';
import type { Piece } from '../piece/types';
import beaconRush from '../../../../demo/beacon-rush.json';
import bellBreath from '../../../../demo/bell-breath.json';
import conchToBuoy from '../../../../demo/conch-to-buoy.json';
import eddyAtTheLock from '../../../../demo/eddy-at-the-lock.json';
import emberBarge from '../../../../demo/ember-barge.json';
import ferryWindows from '../../../../demo/ferry-windows.json';
import foghorn from '../../../../demo/foghorn.json';
import gullTrails from '../../../../demo/gull-trails.json';
import hailOnTheSlipway from '../../../../demo/hail-on-the-slipway.json';
import lamplightersCopy from '../../../../demo/lamplighters-copy.json';
import netMenders from '../../../../demo/net-menders.json';
import pierDancers from '../../../../demo/pier-dancers.json';
import planktonLantern from '../../../../demo/plankton-lantern.json';
import ropeWalk from '../../../../demo/rope-walk.json';
import saltCubes from '../../../../demo/salt-cubes.json';
import signalFlags from '../../../../demo/signal-flags.json';
import stormGlass from '../../../../demo/storm-glass.json';
import tideChart from '../../../../demo/tide-chart.json';
import tideTables from '../../../../demo/tide-tables.json';
import windowRain from '../../../../demo/window-rain.json';

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
    name: 'Gable west', x: 2.5, y: 0.62, columns: 40, rows: 10, pitch: 60, turn: -12,
    order: { along: 'columns', from: 'bottomLeft', snake: true },
  }),
  makePanel('gable-east', {
    name: 'Gable east', x: 5.5, y: 0.62, columns: 40, rows: 10, pitch: 60, turn: 12,
    order: { along: 'columns', from: 'bottomRight', snake: true },
  }),
]);

function evening(): Show {
  const entries = EVENING.map(([piece, given]) => ({ ...makeEntry(piece, piece), ...given }));
  return { ...makeShow(DEMO_NAME), entries, wall };
}

/** A file of the show as a piece. That each is one, of today's version, is tested and not found out again in each page. */
const shipped = (file: unknown): Piece => file as Piece;

/** The opening night of a harbour town that does not exist, projected on its salt warehouses. */
export const DEMO_SHOW: {
  id: string;
  name: string;
  show: Show;
  pieces: readonly DemoPiece[];
} = {
  id: 'saltglass-quay',
  name: DEMO_NAME,
  show: evening(),
  pieces: [
    // Curl noise: a lantern let down into the harbour at night, and what gathers round it.
    { id: 'plankton-lantern', piece: shipped(planktonLantern) },
    // Vortex and drag: the water behind a lock gate turns, and takes the lights of the quay with it.
    { id: 'eddy-at-the-lock', piece: shipped(eddyAtTheLock) },
    // Bursts and collisions: hail comes down in squalls, rattles over the stone and gathers in the basin.
    { id: 'hail-on-the-slipway', piece: shipped(hailOnTheSlipway) },
    // Morph: what the tide brought in turns into what the harbour put out, and back.
    { id: 'conch-to-buoy', piece: shipped(conchToBuoy) },
    // Links: a net hangs in the dark, sways, tears apart and is mended thread by thread.
    { id: 'net-menders', piece: shipped(netMenders) },
    // Trails: gulls wheel over the harbour mouth, and the evening keeps the lines they draw.
    { id: 'gull-trails', piece: shipped(gullTrails) },
    // Outline, creeping, copies: down the long shed where ropes are laid, strand over strand. One map runs along and around them all, and changes in steps.
    { id: 'rope-walk', piece: shipped(ropeWalk) },
    // Picture-driven flow: the water of an old chart begins to run along its depth lines.
    { id: 'tide-chart', piece: shipped(tideChart) },
    // Lattice and mesh copies: a block of salt is stirred up, and settles back crystal by crystal.
    { id: 'salt-cubes', piece: shipped(saltCubes) },
    // Picture sets: flags on their lines over the quay change what they say, a ripple at a time.
    { id: 'signal-flags', piece: shipped(signalFlags) },
    // Streaks: into the beam of the lighthouse, faster with every turn of the lamp.
    { id: 'beacon-rush', piece: shipped(beaconRush) },
    // Depth of field and masks: the lights of the quay through a wet window, four panes to a sash.
    { id: 'window-rain', piece: shipped(windowRain) },
    // Sound: every beat of a boat's engine throws a lantern that is carried along the mole; the fog signal calls.
    { id: 'foghorn', piece: shipped(foghorn) },
    // Live input: a bell of light that is blown sideways by the high end of what a microphone hears, over its own past.
    { id: 'bell-breath', piece: shipped(bellBreath) },
    // Made maps: a field of salt boxes rises and falls with a slow noise between two limits; in steps, some light up.
    { id: 'tide-tables', piece: shipped(tideTables) },
    // A clip, its flow and links: lit windows of ferries shed light that is carried off as they go, thread by thread.
    { id: 'ferry-windows', piece: shipped(ferryWindows) },
    // A picture as a map, and build-up: points wander over the dark and paint the quay as they go.
    { id: 'lamplighters-copy', piece: shipped(lamplightersCopy) },
    // Joints: two dance on the pier; their bones draw ribbons of light, their bodies shed sparks, their feet kick up dust, and confetti bounces off them.
    { id: 'pier-dancers', piece: shipped(pierDancers) },
    // A medium: rain stirs and lights the water in a storm glass, a keel passes through it, and sparks ride on what both leave.
    { id: 'storm-glass', piece: shipped(stormGlass) },
    // A fire on a barge, with controls and cues: it is kindled, opens, leans in a gust, throws sparks, and burns green with salt.
    { id: 'ember-barge', piece: shipped(emberBarge) },
  ],
};
