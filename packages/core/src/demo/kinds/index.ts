import type { Shelf } from '../../sections';
import type { Piece } from '../../piece/types';
import * as driven from './driven';
import { finish } from './finish';
import * as scene from './scene';
import { Stage, type Show } from './stage';

/** Small pieces that show what a kind does, for the guide. */

const SHOWS: Record<Shelf, Show> = { ...scene, ...driven, finish };

/** Frame that shows it. */
const FRAME = 70;

/** A piece that shows a kind, and the frame that does. */
export function kindPiece(shelf: Shelf, kind: string): { piece: Piece; frame: number } {
  const stage = new Stage();
  SHOWS[shelf](stage, kind);
  return { piece: stage.piece, frame: FRAME };
}
