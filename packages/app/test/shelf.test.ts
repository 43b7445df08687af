import 'fake-indexeddb/auto';
import '../../../tests/support/page';
import { makePiece } from '@vast-swarm/core/piece';
import { library } from '../src/data/db';
import { filePiece, shelfRows, wantedRows, type ShelfRow } from '../src/data/shelf';
import { History, keepSnapshot } from '../src/data/snapshots';

beforeEach(async () => {
  await library.pieces.clear();
  await library.snapshots.clear();
});

const row = (name: string, change: Partial<ShelfRow> = {}): ShelfRow => ({
  id: name,
  name,
  changed: 0,
  folder: '',
  tags: [],
  demo: false,
  ...change,
});

test('a shelf of two thousand pieces is known without reading one of them', async () => {
  const piece = makePiece('Any');
  await library.pieces.bulkAdd(
    Array.from({ length: 2000 }, (_, i) => ({
      id: `p${String(i)}`,
      piece: { ...piece, name: `Piece ${String(i)}` },
      created: 0,
      changed: i,
      ...(i % 10 === 0 ? { folder: 'Tenths', tags: ['ten', `n${String(i)}`] } : {}),
    })),
  );
  let read = 0;
  library.pieces.hook('reading', (found) => {
    read += 1;
    return found;
  });
  const rows = await shelfRows();
  expect(rows).toHaveLength(2000);
  expect(read).toBe(0);
  const seven = rows.find((r) => r.id === 'p70');
  expect(seven).toEqual(
    row('Piece 70', { id: 'p70', changed: 70, folder: 'Tenths', tags: ['n70', 'ten'] }),
  );
  expect(wantedRows(rows, { search: 'ten', folder: 'Tenths', sort: 'changed' })).toHaveLength(200);
});

test('what is filed is found by folder and tags, until it is filed otherwise', async () => {
  await library.pieces.add({ id: 'a', piece: makePiece('Buoys'), created: 0, changed: 5 });
  await filePiece('a', ' Harbour ', ['wide', ' blue', 'blue', '']);
  expect(await shelfRows()).toEqual([
    row('Buoys', { id: 'a', changed: 5, folder: 'Harbour', tags: ['blue', 'wide'] }),
  ]);
  await filePiece('a', '', []);
  expect(await shelfRows()).toEqual([row('Buoys', { id: 'a', changed: 5 })]);
  // The piece itself is untouched.
  expect((await library.pieces.get('a'))?.piece.name).toBe('Buoys');
});

test('rows are found by all of the words, and put in order', () => {
  const rows = [
    row('Foam 2', { changed: 1, tags: ['wet'] }),
    row('Foam 10', { changed: 3, folder: 'Night' }),
    row('Amber', { changed: 2, folder: 'Night', tags: ['dry'] }),
  ];
  const names = (search: string, folder: string | null, sort: 'changed' | 'name' | 'oldest') =>
    wantedRows(rows, { search, folder, sort }).map((r) => r.name);
  expect(names('', null, 'changed')).toEqual(['Foam 10', 'Amber', 'Foam 2']);
  expect(names('', null, 'oldest')).toEqual(['Foam 2', 'Amber', 'Foam 10']);
  expect(names('', null, 'name')).toEqual(['Amber', 'Foam 2', 'Foam 10']);
  expect(names('foam NIGHT', null, 'name')).toEqual(['Foam 10']);
  expect(names('wet', 'Night', 'name')).toEqual([]);
});

test('a piece that has changed for ten minutes is due once, and one that has not never', () => {
  const history = new History();
  const [first, second] = [makePiece('One'), makePiece('Two')];
  const minute = 60_000;
  expect(history.due(first, 0)).toBe(false);
  expect(history.due(first, 30 * minute)).toBe(false);
  expect(history.due(second, 31 * minute)).toBe(false);
  expect(history.due(second, 39 * minute)).toBe(false);
  expect(history.due(second, 40 * minute)).toBe(true);
  expect(history.due(second, 55 * minute)).toBe(false);
});

test('versions kept by hand stay, of those kept by themselves the newest sixty', async () => {
  const piece = makePiece('One');
  await keepSnapshot('a', piece);
  for (let i = 0; i < 65; i++) await keepSnapshot('a', piece, { auto: true });
  await keepSnapshot('b', piece, { auto: true });
  const kept = await library.snapshots.where('of').equals('a').toArray();
  expect(kept.filter((s) => s.auto)).toHaveLength(60);
  expect(kept.filter((s) => !s.auto).map((s) => s.name)).toEqual(['Version 1']);
  expect(kept.some((s) => s.name === 'Version 66')).toBe(true);
  expect(await library.snapshots.where('of').equals('b').count()).toBe(1);
});
