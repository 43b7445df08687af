import { parsePiece, pieceText, type Piece } from '@vast-swarm/core/piece';
import { edited } from '../../../tests/support/randomEdits';
import { wornPiece } from '../../../tests/support/wornWays';
import { differences, withNeeds } from '../src/compare/differences';
import type { PieceState } from '../src/store/history';
import { pieceActions, pieceReducer } from '../src/store/pieceSlice';

const opened = (): PieceState =>
  pieceReducer(undefined, pieceActions.opened({ id: 'a', piece: wornPiece() }));

/** The piece with what is felt as ever left out, and without things of the stock: what nobody uses is not taken over. */
function plain(piece: Piece): unknown {
  const rows = Object.entries(piece.influence).flatMap(([id, row]) => {
    const felt = Object.entries(row).filter(([, v]) => v !== 1);
    return felt.length > 0 ? [[id, Object.fromEntries(felt)] as const] : [];
  });
  return { ...piece, influence: Object.fromEntries(rows), stock: [] };
}

/** Takes all over, one after the other as they are offered. */
function taken(here: PieceState, there: Piece): Piece {
  let state = here;
  for (let k = 0; k < 500; k++) {
    const [first] = differences(state.piece!, there);
    if (!first) return state.piece!;
    for (const change of withNeeds(state.piece!, there, first.change)) {
      const action =
        'remove' in change
          ? pieceActions.removed(change.remove)
          : pieceActions.set({ ...change, label: first.title });
      state = pieceReducer(state, action);
    }
    // What is on the way is a piece as well.
    if (k % 10 === 0) expect(parsePiece(pieceText(state.piece!))).toEqual(state.piece);
  }
  throw new Error(`it does not end: ${differences(state.piece!, there)[0]!.title}`);
}

test.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])(
  'what differs between a piece and what was made of it (%i) can be taken over, both ways, until they are equal',
  (seed) => {
    const states = edited(opened(), seed, 30);
    const [before, after] = [states[0]!, states.at(-1)!];
    expect(plain(taken(before, after.piece!))).toEqual(plain(after.piece!));
    expect(plain(taken(after, before.piece!))).toEqual(plain(before.piece!));
  },
);

test('equal pieces differ in nothing; in another order they are others', () => {
  const piece = parsePiece(pieceText(wornPiece()));
  expect(differences(piece, parsePiece(pieceText(wornPiece())))).toEqual([]);
  const turned = { ...piece, swarms: piece.swarms.toReversed() };
  const [order, ...more] = differences(piece, turned);
  expect(more).toEqual([]);
  expect(order).toMatchObject({ title: 'Order of swarms', change: { value: turned.swarms } });
});

test('what a difference names comes along, with what that names in turn', () => {
  const piece = wornPiece();
  const there = pieceReducer(
    opened(),
    pieceActions.signalled({ path: ['swarms', 0, 'dials', 'size'], from: 0.1, to: 1 }),
  ).piece!;
  const size = differences(piece, there).find((d) => d.title.endsWith(': Size'))!;
  const changes = withNeeds(piece, there, size.change);
  expect(changes.map((c) => ('path' in c ? c.path : c.remove))).toEqual([
    ['signals'],
    ['swarms', 0, 'dials', 'size'],
  ]);
});
