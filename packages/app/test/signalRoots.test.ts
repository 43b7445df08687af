import { shallowEqual } from 'react-redux';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { kindOf } from '@vast-swarm/core/kinds';
import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import { swept } from '../../../tests/support/sweep';
import { rootsOf } from '../src/answers/useSignal';

/** A signal of a piece over its time, as the strip draws it. */
function curveOf(piece: Piece, id: string): number[] {
  const scene = new Scene(piece);
  return Array.from({ length: 40 }, (_, i) => scene.signal(id, i / 3));
}

/** The same piece with a number of one of its signals turned; the rest is shared, as in the store. */
function turned(piece: Piece, at: number, key: string): Piece {
  const signal = piece.signals[at]!;
  const spec = kindOf('signals', signal.kind).dials[key]!;
  const value = signal.dials[key];
  if (spec.type !== 'number' || typeof value !== 'number') return piece;
  const next = value + (spec.max - value > value - spec.min ? 0.37 : -0.37);
  const dials = { ...signal.dials, [key]: spec.whole ? Math.round(next * 3) : next };
  return { ...piece, signals: piece.signals.with(at, { ...signal, dials }) };
}

const withSignals = DEMO_SHOW.pieces.filter(({ piece }) => piece.signals.length > 1);

test('the show has signals that hang on each other', () => {
  expect(withSignals.length).toBeGreaterThan(2);
});

test.each(
  swept(
    withSignals.map(({ id, piece }) => [id, piece] as const),
    0.3,
  ),
)('where a curve of %s changes, something that it hangs on has', (_, piece) => {
  let changed = 0;
  piece.signals.forEach((signal, at) => {
    for (const key of Object.keys(signal.dials)) {
      const other = turned(piece, at, key);
      for (const { id } of piece.signals) {
        if (!shallowEqual(rootsOf(piece, id), rootsOf(other, id))) continue;
        expect(curveOf(other, id)).toEqual(curveOf(piece, id));
        changed += 1;
      }
    }
  });
  // Most signals do not hang on most others.
  expect(changed).toBeGreaterThan(0);
});

test('a formula hangs on the signals that it names, and on what these follow', () => {
  const piece = makePiece('Chain');
  for (const kind of ['wave', 'follow', 'formula', 'wave']) {
    piece.signals.push(makePart('signals', kind, piece.signals));
  }
  const [wave, follow, formula, apart] = piece.signals;
  follow!.dials.signal = wave!.id;
  formula!.dials.text = `signal("${follow!.id}") * 2`;
  const roots = rootsOf(piece, formula!.id);
  expect(roots).toEqual(expect.arrayContaining([wave, follow, formula]));
  expect(roots).not.toContain(apart);
});

test('swarms and forces may change as they like', () => {
  const [first] = withSignals;
  const { piece } = first!;
  const other = { ...piece, swarms: [...piece.swarms], forces: [], finish: [] };
  for (const { id } of piece.signals) {
    expect(shallowEqual(rootsOf(piece, id), rootsOf(other, id))).toBe(true);
  }
});
