import { addToys, toyPiece } from '../../../tests/support/toys';
import { Sheet } from '../src/sheet/Sheet';
import { pieceActions } from '../src/store/pieceSlice';
import type { Selection } from '../src/store/selection';
import { store } from '../src/store/store';
import { shown } from './shown';

/** The sheet of a part, as the artist gets it. */
function sheetOf(selection: Selection): string {
  store.dispatch(pieceActions.selected(selection));
  return shown(<Sheet />);
}

beforeAll(() => {
  addToys();
  store.dispatch(pieceActions.opened({ id: 'toys', piece: toyPiece() }));
});

test.each([
  [{ list: 'forces', id: 'toyLift' }, 'Toy lift', 'A steady push upwards.', ['Strength', 'Share']],
  [{ list: 'signals', id: 'toyRamp' }, 'Toy ramp', 'Rises from 0 to 1', ['Takes']],
  [{ list: 'finish', id: 'toyDim' }, 'Toy dim', 'Less light everywhere.', ['Keep', 'Share']],
] as const)('a kind from outside has its sheet: %j', (selection, title, help, dials) => {
  const html = sheetOf(selection);
  expect(html).toContain(title);
  expect(html).toContain(help);
  for (const dial of dials) expect(html).toContain(`role="group" aria-label="${dial}"`);
});

test('an emitter and a body from outside stand in the sheet of their swarm', () => {
  const html = sheetOf({ list: 'swarms', id: 'motes' });
  for (const text of ['Toy pair', 'Apart', 'Toy tile']) expect(html).toContain(text);
  expect(html).toContain('aria-label="Apart x"');
});
