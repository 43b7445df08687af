import { current, enablePatches, isDraft, produceWithPatches, type Patch } from 'immer';
import { hasScore } from '@vast-swarm/core/plan';
import { tidyControls, type Piece } from '@vast-swarm/core/piece';
import type { Selection } from './selection';

enablePatches();

interface Step {
  label: string;
  /** Steps with the same key in a row, as while a dial is dragged, are one step to undo. */
  merge: string | null;
  patches: Patch[];
  inverse: Patch[];
}

/** The open piece, what is selected of it, and how it came to be. */
export interface PieceState {
  id: string | null;
  piece: Piece | null;
  selection: Selection | null;
  past: Step[];
  future: Step[];
  /** The piece that was open last: opened again as it was left, it has its undo points still. */
  left: Pick<PieceState, 'id' | 'piece' | 'past' | 'future'> | null;
}

const MOST_STEPS = 500;

/** Changes the piece by a recipe, and remembers how to take it back. */
export function edit(
  state: PieceState,
  label: string,
  recipe: (piece: Piece) => void,
  merge: string | null = null,
): void {
  const before = state.piece;
  if (!before) return;
  const changed = produceWithPatches(before, recipe);
  const plain = isDraft(changed[0]) ? current(changed[0]) : changed[0];
  const tidied = hasScore(plain) ? tidyControls(plain) : plain;
  // What controls named that is gone goes in the same step.
  const tidy = produceWithPatches(changed[0], (piece) => {
    const { controls, cues, played } = tidied;
    if (tidied !== plain) Object.assign(piece, { controls, cues, played });
  });
  const [after] = tidy;
  const patches = [...changed[1], ...tidy[1]];
  const inverse = [...tidy[2], ...changed[2]];
  if (patches.length === 0) return;
  state.piece = after;
  state.future = [];
  const last = state.past.at(-1);
  if (merge && last?.merge === merge) {
    last.patches = [...last.patches, ...patches];
    last.inverse = [...inverse, ...last.inverse];
    return;
  }
  state.past = [...state.past, { label, merge, patches, inverse }].slice(-MOST_STEPS);
}
