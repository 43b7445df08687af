import 'fake-indexeddb/auto';
import '../../../tests/support/page';
import { makeShow, type Show } from '@vast-swarm/core/show';
import { library } from '../src/data/db';
import { readPendingShow } from '../src/data/pending';
import { addShow, heldListeners, keepPendingShow, saveShow, showOf } from '../src/data/shows';

/** Keeping a show: a page that ends at once, a storage that takes nothing. */

const stored = async (id: string): Promise<Show> => (await library.shows.get(id))!.show;

let id: string;
beforeEach(async () => {
  id = await addShow(makeShow('Slip'));
});
afterEach(async () => {
  jest.restoreAllMocks();
  await library.shows.clear();
  localStorage.clear();
});

test('an edit whose page ends before it is stored is there when the show is opened again, once', async () => {
  const edited = { ...makeShow('Slip'), name: 'Edited' };
  // What is written never arrives.
  jest.spyOn(library.shows, 'update').mockReturnValue(new Promise(() => undefined) as never);
  void saveShow(id, edited);
  jest.restoreAllMocks();
  expect((await stored(id)).name).toBe('Slip');
  await keepPendingShow(id);
  expect((await stored(id)).name).toBe('Edited');
  expect(readPendingShow(id)).toBeNull();
  // What was done since is not undone by it.
  await saveShow(id, { ...edited, name: 'Later' });
  await keepPendingShow(id);
  expect((await stored(id)).name).toBe('Later');
});

test('what the storage does not take is what the show is all the same, and is told as soon as it is asked for', async () => {
  const told: (string | undefined)[] = [];
  const stop = heldListeners.add(() => void showOf(id).then((s) => told.push(s?.name)));
  const full = jest.spyOn(library.shows, 'update');
  full.mockRejectedValue(new DOMException('no room', 'QuotaExceededError'));
  await expect(saveShow(id, { ...makeShow('Slip'), name: 'Unkept' })).rejects.toThrow('no room');
  expect((await showOf(id))?.name).toBe('Unkept');
  expect(told).toEqual(['Unkept']);
  full.mockRestore();
  await saveShow(id, { ...makeShow('Slip'), name: 'Kept' });
  expect((await showOf(id))?.name).toBe('Kept');
  expect((await stored(id)).name).toBe('Kept');
  stop();
});

test.each(['', '{', '{"show":{"name":7}}', 'null'])(
  'what is written down and cannot be read (%j) is as none',
  async (text) => {
    localStorage.setItem(`vast-swarm pending ${id}`, text);
    await keepPendingShow(id);
    expect((await showOf(id))?.name).toBe('Slip');
    expect(localStorage.getItem(`vast-swarm pending ${id}`)).toBeNull();
  },
);

test('a show that is not there, or was deleted, is not made by what was written down of it', async () => {
  jest.spyOn(library.shows, 'update').mockReturnValue(new Promise(() => undefined) as never);
  void saveShow('gone', makeShow('Gone'));
  jest.restoreAllMocks();
  await keepPendingShow('gone');
  expect(await library.shows.get('gone')).toBeUndefined();
});
