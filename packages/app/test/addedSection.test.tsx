import {
  addSection,
  number,
  partDial,
  signal,
  stockDial,
  type Section,
} from '@vast-swarm/core/kinds';
import { variationOf, type Part, type PartList, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { differences, withNeeds } from '../src/compare/differences';
import { LineUp } from '../src/lineUp/LineUp';
import { Sheet } from '../src/sheet/Sheet';
import { pieceActions } from '../src/store/pieceSlice';
import { store } from '../src/store/store';
import { Timing } from '../src/strip/Timing';
import { shown } from './shown';

/** A section from outside, as the artist finds it in the workshop: no line of the application knows it. */

const section: Section = { list: 'kites', one: 'kite', most: 3, place: 'end', varies: 'look' };
const list = section.list as Exclude<PartList, 'swarms'>;
const open = (): Piece => store.getState().piece.piece!;
const kites = (): Part[] => open()[list];

beforeAll(() => {
  const box = signal({
    kind: 'boxKite',
    title: 'Box kite',
    help: 'Stands in the wind.',
    icon: 'M4 12h16',
    dials: {
      span: number('Span', 2, [0.1, 10], 'From tip to tip.', { unit: 'm' }),
      sail: stockDial('Sail', ['picture'], 'The picture on it.'),
      line: partDial('Line', 'signals', 'What it is flown by.'),
    },
    follow: () => () => 0,
  });
  addSection(section, [box]);
});

beforeEach(() => {
  store.dispatch(pieceActions.opened({ id: 'sky', piece: smallPiece() }));
});

test('its parts are added, stand in the line-up, and are taken back in one step', () => {
  expect(shown(<LineUp />)).toContain('aria-label="Add a kite"');
  expect(shown(<LineUp />)).not.toContain('Box kite');
  store.dispatch(pieceActions.added({ list, kind: 'boxKite' }));
  expect(kites()).toHaveLength(1);
  expect(shown(<LineUp />)).toContain('Box kite');
  store.dispatch(pieceActions.undone());
  expect(kites()).toEqual([]);
  store.dispatch(pieceActions.redone());
  expect(kites()).toHaveLength(1);
});

test('its sheet has its dials, which are turned and undone', () => {
  store.dispatch(pieceActions.added({ list, kind: 'boxKite' }));
  const html = shown(<Sheet />);
  expect(html).toContain('Stands in the wind.');
  for (const dial of ['Span', 'Sail', 'Line']) expect(html).toContain(`aria-label="${dial}"`);
  const path = [list, 0, 'dials', 'span'];
  store.dispatch(pieceActions.set({ path, value: 5, label: 'Span' }));
  expect(kites()[0]!.dials.span).toBe(5);
  store.dispatch(pieceActions.undone());
  expect(kites()[0]!.dials.span).toBe(2);
});

test('the strip goes on without a row for it; one that goes is not named any more', () => {
  store.dispatch(pieceActions.added({ list: 'signals', kind: 'wave' }));
  store.dispatch(pieceActions.added({ list, kind: 'boxKite' }));
  const line = open().signals[0]!.id;
  store.dispatch(
    pieceActions.set({ path: [list, 0, 'dials', 'line'], value: line, label: 'Line' }),
  );
  expect(shown(<Timing />)).toContain('Motes');
  store.dispatch(pieceActions.removed({ list: 'signals', id: line }));
  expect(kites()[0]!.dials.line).toBe('');
  store.dispatch(pieceActions.removed({ list, id: kites()[0]!.id }));
  expect(kites()).toEqual([]);
});

test('variations turn its dials, and what it differs in is found and taken over', () => {
  store.dispatch(pieceActions.added({ list, kind: 'boxKite' }));
  const piece = open();
  const turning = { groups: ['look'], reach: 1 } as const;
  const spans = Array.from({ length: 12 }, (_, n) => {
    return variationOf(piece, n, turning)[list][0]!.dials.span;
  });
  expect(new Set(spans).size).toBeGreaterThan(6);
  const path = [list, 0, 'dials', 'span'];
  store.dispatch(pieceActions.set({ path, value: 7, label: 'Span' }));
  const other = open();
  const [one, ...more] = differences(piece, other);
  expect(more).toEqual([]);
  expect(withNeeds(piece, other, one!.change)).toEqual([{ path, value: 7 }]);
});
