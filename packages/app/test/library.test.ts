import '@vast-swarm/core/content';
import 'fake-indexeddb/auto';
import '../../../tests/support/page';
import Dexie from 'dexie';
import { makePiece } from '@vast-swarm/core/piece';
import { makeShow } from '@vast-swarm/core/show';
import { bakeMessage, loadBakes, makeBake, removeBake } from '../src/data/bakes';
import { library } from '../src/data/db';
import { addPiece, loadPiece } from '../src/data/pieces';
import { addShow } from '../src/data/shows';
import type { EngineClient } from '../src/engine/client';
import type { BakeFile } from '../src/engine/messages';
import { store } from '../src/store/store';

/** The data of a browser in which an earlier version of the application was used. */

const TABLES: readonly Record<string, string>[] = [
  { pieces: 'id, changed', seeded: 'id' },
  { stock: 'hash, added', failures: 'file', bakes: 'id' },
  { snapshots: 'id, of, made' },
];

/** What a browser had after some version, with a piece in it, and a bake where there were any. */
async function earlier(version: number): Promise<void> {
  library.close();
  await Dexie.delete('vast-swarm');
  const db = new Dexie('vast-swarm');
  TABLES.slice(0, version).forEach((stores, i) => db.version(i + 1).stores(stores));
  await db.open();
  const piece = makePiece('Old');
  await db.table('pieces').put({ id: 'old', piece, created: 1, changed: 2 });
  await db.table('seeded').put({ id: 'lantern' });
  if (version > 1) {
    const bake = { id: 'old/motes', key: 'k', file: 'old.motes.1', first: 0, last: 3, capacity: 4 };
    await db.table('bakes').put({ ...bake, state: ['px'], born: [1, 2, 3, 4], bytes: 40, made: 5 });
  }
  db.close();
  await library.open();
}

const given: BakeFile[][] = [];
const engine = {
  setBakes: (files: BakeFile[]) => given.push(files),
  bake: () => undefined,
} as unknown as EngineClient;

afterEach(() => {
  given.length = 0;
});

test.each([1, 2, 3])(
  'what version %i kept is there still, and can be added to',
  async (version) => {
    await earlier(version);
    expect(await loadPiece('old')).toMatchObject({ name: 'Old' });
    // What was removed of the demo does not come again.
    expect(await library.seeded.get('lantern')).toEqual({ id: 'lantern' });
    const fresh = await addPiece(makePiece('New'));
    const show = await addShow(makeShow('Slip'));
    const names = await library.pieces.bulkGet(['old', fresh]);
    expect(names.map((p) => p?.piece.name)).toEqual(['Old', 'New']);
    expect((await library.shows.get(show))?.show.name).toBe('Slip');
    expect(await library.bakes.count()).toBe(version > 1 ? 1 : 0);
  },
);

test('bakes come to the engine under their swarms, are replaced when whole, and go where they are removed', async () => {
  await earlier(3);
  const known = (): string[] => Object.keys(store.getState().bakes.bakes);
  await loadBakes('old', engine);
  expect(given.at(-1)).toMatchObject([{ swarm: 'motes', file: 'old.motes.1', last: 3 }]);
  expect(known()).toEqual(['motes']);
  // Another piece has none of them, though its id begins the same.
  await loadBakes('ol', engine);
  expect(given.at(-1)).toEqual([]);
  await loadBakes('old', engine);
  makeBake(engine, 'sparks');
  expect(store.getState().bakes.making).toMatchObject({ swarm: 'sparks', done: 0 });
  await bakeMessage('old', { type: 'baking', swarm: 'sparks', done: 2, total: 4 });
  expect(store.getState().bakes.making).toMatchObject({ done: 2, total: 4 });
  await bakeMessage('old', {
    type: 'bakeStopped' as const,
    swarm: 'sparks',
    message: 'There is no room.',
  });
  expect(store.getState().notices.at(-1)).toMatchObject({ message: 'There is no room.' });
  expect(known()).toEqual(['motes']);
  const bake = {
    swarm: 'sparks',
    file: 'f',
    first: 0,
    last: 1,
    capacity: 2,
    state: ['px'],
    born: [1],
  };
  await bakeMessage('old', { type: 'baked', swarm: 'sparks', bake, bytes: 8, key: 'k2' });
  expect(known().sort()).toEqual(['motes', 'sparks']);
  expect((await library.bakes.get('old/sparks'))!.file).toBe('f');
  await removeBake(engine, 'motes');
  expect(known()).toEqual(['sparks']);
  expect(given.at(-1)!.map((b) => b.swarm)).toEqual(['sparks']);
});
