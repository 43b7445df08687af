import { compilePiece } from '@vast-swarm/core/plan';
import { parsePiece, pieceText } from '@vast-swarm/core/piece';
import { dice } from '../../../tests/support/mutate';
import { edited } from '../../../tests/support/randomEdits';
import { wornPiece } from '../../../tests/support/wornWays';
import type { PieceState } from '../src/store/history';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';
import { swept } from '../../../tests/support/sweep';

/** What holds for edits of all kinds, in whatever order they come. */

const opened = (): PieceState =>
  pieceReducer(undefined, pieceActions.opened({ id: 'a', piece: wornPiece() }));

const SEEDS = swept(
  Array.from({ length: 12 }, (_, i) => [i + 1] as const),
  0.4,
);

test.each(SEEDS)(
  'whatever is edited (%i), the piece is one that its own file gives again',
  (seed) => {
    for (const { piece } of edited(opened(), seed, 60).filter((_, k) => k % 6 === 0)) {
      expect(parsePiece(pieceText(piece!))).toEqual(piece);
    }
  },
);

test.each(SEEDS)(
  'whatever is edited (%i), the piece can be made ready, with words about what it lacks',
  (seed) => {
    const { piece } = edited(opened(), seed, 25).at(-1)!;
    const plan = compilePiece(piece!);
    expect(plan.swarms.length).toBeLessThanOrEqual(piece!.swarms.length);
    for (const { message } of plan.notices) expect(message).toMatch(/^[A-Z'].*\.$/s);
  },
);

test.each(SEEDS)(
  'steps taken back and done again, in any order (%i), give the pieces there were',
  (seed) => {
    const roll = dice(seed + 100);
    let state = opened();
    // The piece behind each step that is there, and where in them we are.
    let pieces = [state.piece!];
    let at = 0;
    for (let k = 0; k < 150; k++) {
      const what = roll(4);
      if (what === 0 && at > 0) {
        state = pieceReducer(state, pieceActions.undone());
        at -= 1;
      } else if (what === 1 && at < pieces.length - 1) {
        state = pieceReducer(state, pieceActions.redone());
        at += 1;
      } else {
        const before = state;
        state = edited(state, 1000 * seed + k, 1).at(-1)!;
        if (state.piece === before.piece) continue;
        // One that goes on with the last step is a part of it.
        const merged = state.past.length === before.past.length && before.future.length === 0;
        at = merged ? at : at + 1;
        pieces = [...pieces.slice(0, at), state.piece!];
      }
      expect(state.piece).toEqual(pieces[at]);
      expect(state.past.length).toBe(at);
      expect(state.future.length).toBe(pieces.length - 1 - at);
    }
  },
);

test.each(SEEDS)('what is selected is there (%i)', (seed) => {
  for (const { piece, selection } of edited(opened(), seed, 80)) {
    if (!selection?.id) continue;
    const list = piece![selection.list as 'swarms'];
    expect(list.map((p) => p.id)).toContain(selection.id);
  }
});
