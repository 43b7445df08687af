import type { Piece } from '../piece/types';
import { gathered, type Parts } from '../piece/travel/parts';
import type { Travelling } from '../piece/travel/closure';
import { DEMO_SHOW } from './saltglassQuay';

/** Parts of the show that are offered by themselves, to be used again. */
export interface ShippedRecipe {
  id: string;
  name: string;
  list: Travelling;
  /** The frame that shows them best. */
  frame: number;
  parts: () => Parts;
  /** The piece of its picture: the recipe itself, or the piece that it was taken from. */
  shown: () => Piece;
}

type Row = [id: string, name: string, piece: string, list: Travelling, part: string, frame: number];

const ROWS: readonly Row[] = [
  ['glowing-threads', 'Glowing threads', 'plankton-lantern', 'swarms', 'threads', 200],
  ['drifting-plankton', 'Drifting plankton', 'plankton-lantern', 'swarms', 'plankton', 120],
  ['lanterns-in-an-eddy', 'Lanterns in an eddy', 'eddy-at-the-lock', 'swarms', 'lanterns', 200],
  ['hail-that-splashes', 'Hail that splashes', 'hail-on-the-slipway', 'swarms', 'spray', 150],
  ['mended-net', 'Mended net', 'net-menders', 'swarms', 'knots', 120],
  ['circling-trails', 'Circling trails', 'gull-trails', 'swarms', 'gulls', 200],
  ['twisting-rope', 'Twisting rope', 'rope-walk', 'swarms', 'strands', 100],
  ['water-over-a-chart', 'Water over a chart', 'tide-chart', 'swarms', 'water', 120],
  ['salt-lattice', 'Salt lattice', 'salt-cubes', 'swarms', 'salt', 150],
  ['beacon-rays', 'Beacon rays', 'beacon-rush', 'swarms', 'rays', 120],
  ['rain-running-down', 'Rain running down', 'window-rain', 'swarms', 'runs', 200],
  ['barge-fire', 'Barge fire', 'ember-barge', 'swarms', 'flames', 200],
  ['gulls-flocking', 'Gulls flocking', 'gull-trails', 'forces', 'flock', 200],
  ['eddy-of-a-lock', 'Eddy of a lock', 'eddy-at-the-lock', 'forces', 'eddy', 200],
  ['paint-that-stays', 'Paint that stays', 'lamplighters-copy', 'finish', 'paint', 200],
];

function pieceOf(id: string): Piece {
  return DEMO_SHOW.pieces.find((p) => p.id === id)!.piece;
}

export const RECIPES: readonly ShippedRecipe[] = ROWS.map(
  ([id, name, from, list, part, frame]) => ({
    id, name, list, frame,
    parts: () => gathered(pieceOf(from), [{ list, id: part }], name)!,
    shown: () =>
      list === 'swarms' ? gathered(pieceOf(from), [{ list, id: part }], name)!.piece : pieceOf(from),
  }),
);
