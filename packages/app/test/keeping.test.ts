import 'fake-indexeddb/auto';
import '../../../tests/support/page';
import { makePiece, type Piece } from '@vast-swarm/core/piece';
import { autosave, keepCopy, keepOpenPiece } from '../src/data/autosave';
import { library } from '../src/data/db';
import { readPending } from '../src/data/pending';
import { addPiece, letUnkept, loadPiece, openPiece, unkeptPieces } from '../src/data/pieces';
import { pieceActions } from '../src/store/pieceSlice';
import { store } from '../src/store/store';

/** Keeping the open piece: reloads at any moment, other tabs, a storage that does not take anything. */

const shown = (): Piece => store.getState().piece.piece!;
const notices = (): string[] => store.getState().notices.map((n) => n.key);

/** Waits until something holds. */
async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  while (!(await holds())) await new Promise((resolve) => setTimeout(resolve, 1));
}

const stored = async (id: string) => (await library.pieces.get(id))?.piece;
const named = (id: string, name: string) => async () => (await stored(id))?.name === name;

/** Opens a piece as a view does. */
async function open(id: string): Promise<() => void> {
  const opened = (await openPiece(id))!;
  store.dispatch(pieceActions.opened({ id, piece: opened.piece }));
  const stop = autosave(id, opened);
  return () => {
    stop();
    store.dispatch(pieceActions.closed());
  };
}

const rename = (name: string): void => {
  store.dispatch(pieceActions.set({ path: ['name'], value: name, label: 'Rename' }));
};

/** Writes a piece as another tab does. */
async function elsewhere(id: string, change: (piece: Piece) => Piece): Promise<void> {
  await library.transaction('rw', library.pieces, async () => {
    const there = (await library.pieces.get(id))!;
    const rev = (there.rev ?? 0) + 1;
    await library.pieces.update(id, { piece: change(there.piece), rev, by: 'other' });
  });
}

/** What is written from here on never arrives, as when a page ends. */
function neverSaved(): void {
  jest.spyOn(library, 'transaction').mockReturnValue(new Promise(() => undefined) as never);
}

/** The page is about to end. */
function hide(): void {
  window.dispatchEvent(new Event('pagehide'));
}

let id: string;
let close: () => void;
beforeEach(async () => {
  id = await addPiece(makePiece('One'));
  close = await open(id);
});
afterEach(async () => {
  close();
  jest.restoreAllMocks();
  await library.pieces.clear();
  localStorage.clear();
  for (const { id: own } of unkeptPieces()) letUnkept(own);
  for (const { key } of store.getState().notices) {
    store.dispatch({ type: 'notices/dismissed', payload: key });
  }
});

test('every change is stored, the last one of many too', async () => {
  for (const name of ['Two', 'Three', 'Four', 'Five']) rename(name);
  await until(named(id, 'Five'));
  rename('Six');
  close();
  // Whoever opens it at once gets it as it is.
  expect((await loadPiece(id))!.name).toBe('Six');
  await until(named(id, 'Six'));
  await until(() => unkeptPieces().length === 0);
});

test('what is changed while a save is on its way is saved after it: never two at once, never an older one last', async () => {
  const own = library.transaction.bind(library);
  const written: string[] = [];
  let [under, most] = [0, 0];
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  jest.spyOn(library, 'transaction').mockImplementation((async (...args: unknown[]) => {
    most = Math.max(most, ++under);
    // The first one takes as long as a slow disk.
    if (written.length === 0) await held;
    const saved: unknown = await (own as (...all: unknown[]) => Promise<unknown>)(...args);
    written.push((await stored(id))!.name);
    under -= 1;
    return saved;
  }) as never);
  rename('Two');
  rename('Three');
  hide();
  rename('Four');
  // What is written down for the next page is not dropped for an older one that was stored.
  expect(readPending(id)!.piece.name).toBe('Three');
  release();
  await until(named(id, 'Four'));
  await until(() => under === 0 && readPending(id) === null);
  expect(written).toEqual(['Two', 'Four']);
  expect(most).toBe(1);
  expect((await library.pieces.get(id))!.rev).toBe(2);
});

test('an edit right before a page ends is there when it is opened again', async () => {
  neverSaved();
  rename('Late');
  hide();
  expect(readPending(id)!.piece.name).toBe('Late');
  jest.restoreAllMocks();
  // A new page knows nothing of this one.
  const { openPiece: opened } = await fresh();
  expect((await opened(id))!.piece.name).toBe('Late');
  expect(await stored(id)).toMatchObject({ name: 'Late' });
  expect(readPending(id)).toBeNull();
});

test('where it cannot be stored then, it is shown all the same, and written down still', async () => {
  neverSaved();
  rename('Late');
  hide();
  jest.restoreAllMocks();
  const { library: its, openPiece: opened } = await fresh();
  jest.spyOn(its, 'transaction').mockRejectedValue(new Error('no room'));
  expect(await opened(id)).toMatchObject({ piece: { name: 'Late' }, rev: 0 });
  expect(readPending(id)!.piece.name).toBe('Late');
});

test('what was written down is dropped once it is stored, and is no piece of its own then', async () => {
  rename('Stored');
  hide();
  expect(readPending(id)!.piece.name).toBe('Stored');
  await until(named(id, 'Stored'));
  await until(() => readPending(id) === null);
  expect(await library.pieces.count()).toBe(1);
});

test('edits of a page that ended, on a piece that was changed elsewhere since, are a piece of their own', async () => {
  neverSaved();
  rename('Mine');
  hide();
  jest.restoreAllMocks();
  await elsewhere(id, (p) => ({ ...p, name: 'Theirs' }));
  const { openPiece: opened, store: its } = await fresh();
  expect((await opened(id))!.piece.name).toBe('Theirs');
  const names = (await library.pieces.toArray()).map((p) => p.piece.name).sort();
  expect(names).toEqual(['Mine (unsaved)', 'Theirs']);
  expect(its.getState().notices.map((n) => n.key)).toEqual(['pending']);
});

test('a change in another tab is followed, as a step that can be undone, and is not written back', async () => {
  await elsewhere(id, (p) => ({ ...p, seed: 99 }));
  await until(() => shown().seed === 99);
  const { rev, by } = (await library.pieces.get(id))!;
  expect([rev, by]).toEqual([1, 'other']);
  rename('Both');
  await until(named(id, 'Both'));
  expect(await stored(id)).toMatchObject({ seed: 99, name: 'Both' });
  expect(notices()).toEqual([]);
});

test('where both change it at one moment, nothing is overwritten: the own change can be kept', async () => {
  const theirs = elsewhere(id, (p) => ({ ...p, name: 'Theirs' }));
  rename('Mine');
  await theirs;
  await until(() => notices().includes('twice'));
  expect([shown().name, (await stored(id))!.name]).toEqual(['Theirs', 'Theirs']);
  await keepCopy();
  const names = (await library.pieces.toArray()).map((p) => p.piece.name).sort();
  expect(names).toEqual(['Mine copy', 'Theirs']);
  store.dispatch(pieceActions.undone());
  expect(shown().name).toBe('Mine');
});

test('a piece that is deleted elsewhere says so, stays, and can be kept', async () => {
  await library.pieces.delete(id);
  await until(() => notices().includes('gone'));
  rename('Changed');
  expect(await stored(id)).toBeUndefined();
  await keepOpenPiece();
  expect(await stored(id)).toMatchObject({ name: 'Changed' });
  rename('And on');
  await until(named(id, 'And on'));
});

describe('a storage that takes nothing', () => {
  const full = (): Promise<never> =>
    Promise.reject(Object.assign(new Error('no room'), { name: 'QuotaExceededError' }));

  test('says so, and what is shown is not lost on the way to another view and back', async () => {
    jest.spyOn(library.pieces, 'update').mockImplementation(full as never);
    rename('Full');
    await until(() => notices().includes('storage'));
    expect(store.getState().notices[0]!.message).toContain('storage is full');
    // It is written down as well, where a reload finds it.
    hide();
    expect(readPending(id)!.piece.name).toBe('Full');
    close();
    expect((await loadPiece(id))!.name).toBe('Full');
    close = await open(id);
    expect(shown().name).toBe('Full');
    jest.restoreAllMocks();
    rename('Again');
    await until(named(id, 'Again'));
    expect([notices(), unkeptPieces()]).toEqual([[], []]);
  });

  test('a new piece is in the page alone until it does', async () => {
    jest.spyOn(library.pieces, 'add').mockImplementation(full as never);
    const fresh = await addPiece(makePiece('New'));
    expect(notices()).toEqual(['storage']);
    expect(unkeptPieces().map((p) => p.piece.name)).toEqual(['New']);
    close();
    close = await open(fresh);
    expect(shown().name).toBe('New');
    rename('Newer');
    await until(named(fresh, 'Newer'));
    expect([notices(), unkeptPieces()]).toEqual([[], []]);
  });
});

afterAll(() => {
  library.close();
});

/** The application as another page has it, on the same storage. */
async function fresh() {
  let pieces!: typeof import('../src/data/pieces');
  let its!: typeof import('../src/store/store');
  let db!: typeof import('../src/data/db');
  await jest.isolateModulesAsync(async () => {
    pieces = await import('../src/data/pieces');
    its = await import('../src/store/store');
    db = await import('../src/data/db');
  });
  return { ...pieces, ...its, ...db };
}
