import { createHash } from 'node:crypto';
import type { Locator } from 'playwright-core';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makePart, pieceText, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../support/pieces';
import { openApp } from './openApp';
import { exportedPiece, openSmall as open, pictureOf, pictureTells as tells } from './picture';

const app = openApp();

const picture = (): Locator => pictureOf(app.page);
const pictureTells = (test: (data: DOMStringMap) => boolean): Promise<void> =>
  tells(app.page, test);
const openSmall = (change?: Parameters<typeof open>[2]): Promise<void> =>
  open(app.page, app.url, change);

/** A small picture of the canvas, as one hash. */
async function look(): Promise<string> {
  return createHash('sha256')
    .update(await picture().screenshot())
    .digest('hex');
}

async function pause(): Promise<void> {
  await app.page.getByRole('button', { name: 'Pause' }).click();
  await pictureTells((d) => d.playing === 'false' && d.settling === '0' && d.exact === 'true');
}

/** Closes the notice with this text. */
async function dismiss(text: RegExp): Promise<void> {
  const notice = app.page.getByRole('alert').filter({ hasText: text });
  await notice.getByRole('button', { name: 'Close' }).click();
  await notice.waitFor({ state: 'detached' });
}

const exported = (): Promise<Piece> => exportedPiece(app.page);

test('the demo show is there, and a piece of it moves at once', async () => {
  await app.page.goto(app.url);
  await expect(app.page.title()).resolves.toBe('Vast Swarm');
  const shelf = app.page.getByRole('region', { name: 'Saltglass Quay' });
  await shelf.getByRole('link', { name: 'Open Eddy at the Lock' }).click();
  await pictureTells((d) => Number(d.frame) > 3 && Number(d.alive) > 30_000);
  expect(await picture().getAttribute('data-engine')).toBe('cpu');
  // The address opens what it names after a reload.
  await app.page.reload();
  await pictureTells((d) => Number(d.alive) > 0);
});

test('from an empty page to a curl-noise swarm, kept over a reload', async () => {
  await app.page.goto(app.url);
  await app.page.getByRole('button', { name: 'New piece', exact: true }).click();
  const begin = app.page.getByRole('group', { name: 'Begin' });
  await begin.getByRole('button', { name: 'Sphere' }).click();
  await begin.waitFor({ state: 'detached' });
  await pictureTells((d) => Number(d.alive) > 100);
  await app.page.getByRole('button', { name: 'Add a force' }).click();
  await app.page.getByRole('textbox', { name: 'Search kinds' }).fill('swirl');
  await app.page.getByRole('menuitem', { name: /^Curl noise/ }).click();
  await app.page.getByRole('button', { name: 'Add a force' }).click();
  await app.page.getByRole('menuitem', { name: /^Vortex/ }).click();
  await app.page.getByRole('textbox', { name: 'Spin' }).fill('1turn');
  await app.page.getByRole('textbox', { name: 'Spin' }).press('Enter');

  await app.page.getByRole('button', { name: 'Swarm', exact: true }).click();
  await app.page.getByRole('textbox', { name: 'Rate' }).fill('2*1500');
  await app.page.getByRole('textbox', { name: 'Rate' }).press('Enter');
  // What is folded away in one sheet stays so until it is wanted.
  await app.page.getByRole('button', { name: 'Birth', exact: true }).click();
  await app.page.getByRole('textbox', { name: 'Rate' }).waitFor({ state: 'detached' });
  await app.page.getByRole('button', { name: 'Birth', exact: true, expanded: false }).click();
  await app.page.getByRole('textbox', { name: 'Rate' }).waitFor();
  await app.page.getByRole('button', { name: /^Size: what fills it/ }).click();
  await app.page.getByRole('menuitem', { name: /Shaped over life/ }).click();
  await app.page.getByRole('slider', { name: 'Size, point 2' }).press('ArrowDown');
  await app.page.getByRole('textbox', { name: 'Colour, stop light' }).fill('4');
  await app.page.getByRole('textbox', { name: 'Colour, stop light' }).press('Enter');
  const piece = await exported();
  expect(piece.forces.map((f) => f.kind)).toEqual(['curlNoise', 'vortex']);
  expect(piece.forces[1]!.dials.spin).toBe(360);
  const { rate, size, colour } = piece.swarms[0]!.dials;
  expect(rate).toBe(3000);
  expect(size).toMatchObject({ feed: 'spread', over: [{}, { x: 0.2, y: 0.99 }, {}] });
  expect(colour).toMatchObject({ feed: 'gradient', by: 'life', stops: [{ light: 4 }, {}, {}, {}] });

  await app.page.reload();
  await pictureTells((d) => Number(d.alive) > 100);
  expect(await exported()).toEqual(piece);
});

test('undo and redo go over every edit, a drag being one', async () => {
  await openSmall();
  const before = await exported();
  const box = (await app.page.getByRole('textbox', { name: 'Rate' }).boundingBox())!;
  await app.page.mouse.move(box.x + 20, box.y + 8);
  await app.page.mouse.down();
  for (let i = 1; i <= 8; i++) await app.page.mouse.move(box.x + 20 + 6 * i, box.y + 8);
  await app.page.mouse.up();
  const dragged = await exported();
  expect(dragged.swarms[0]!.dials.rate).toBeGreaterThan(1200);
  await app.page.getByRole('button', { name: 'More for Motes' }).click();
  await app.page.getByRole('menuitem', { name: 'Duplicate', exact: true }).click();
  await app.page.getByRole('button', { name: 'More for Motes', exact: true }).click();
  await app.page.getByRole('menuitem', { name: 'Remove' }).click();
  expect((await exported()).swarms.map((s) => s.name)).toEqual(['Motes 2']);
  await app.page.getByRole('button', { name: 'Undo: Remove' }).click();
  await app.page.keyboard.press('Control+z');
  expect(await exported()).toEqual(dragged);
  await app.page.keyboard.press('Control+z');
  expect(await exported()).toEqual(before);
  await app.page.keyboard.press('Control+Shift+z');
  expect(await exported()).toEqual(dragged);
});

test('time goes both ways, and a frame looks the same from either side', async () => {
  await openSmall();
  await pause();
  const time = app.page.getByRole('slider', { name: 'Time' });
  await time.press('Home');
  for (let i = 0; i < 3; i++) await time.press('Shift+ArrowRight');
  await pictureTells((d) => d.frame === '30' && d.settling === '0');
  const forward = await look();
  await time.press('End');
  await pictureTells((d) => d.frame === '89' && d.settling === '0');
  expect(await look()).not.toBe(forward);
  for (let i = 0; i < 6; i++) await time.press('Shift+ArrowLeft');
  await pictureTells((d) => d.frame === '29' && d.settling === '0');
  await time.press('ArrowRight');
  await pictureTells((d) => d.frame === '30' && d.settling === '0');
  expect(await look()).toBe(forward);
});

test('a piece that loops plays on from its last frame to the first', async () => {
  await openSmall();
  const lineUp = app.page.getByRole('navigation', { name: 'Line-up' });
  await lineUp.getByRole('button', { name: 'Frame', exact: true }).click();
  const length = app.page.getByRole('textbox', { name: 'Length', exact: true });
  await length.fill('40');
  await length.press('Enter');
  await app.page.getByRole('switch', { name: 'Loop' }).check();
  await pause();
  const time = app.page.getByRole('slider', { name: 'Time' });
  await time.press('Home');
  await pictureTells((d) => d.frame === '0' && d.settling === '0');
  // It is full from the beginning: what was born before the end is there.
  const first = await look();
  const alive = Number(await pictureOf(app.page).getAttribute('data-alive'));
  expect(alive).toBeGreaterThan(500);
  await time.press('End');
  await pictureTells((d) => d.frame === '39' && d.settling === '0');
  // As many are there at the end and, played on, behind it.
  const last = Number(await pictureOf(app.page).getAttribute('data-alive'));
  expect(Math.abs(last - alive)).toBeLessThan(0.1 * alive);
  await app.page.getByRole('button', { name: 'Play' }).click();
  await pictureTells((d) => Number(d.frame) < 20);
  await pause();
  await time.press('Home');
  await pictureTells((d) => d.frame === '0' && d.settling === '0');
  expect(await look()).toBe(first);
});

test('a dragged picture orbits the camera, the wheel moves it, and both can be undone', async () => {
  await openSmall();
  await pause();
  const before = await exported();
  const box = (await picture().boundingBox())!;
  await app.page.mouse.move(box.x + 200, box.y + 150);
  await app.page.mouse.down();
  await app.page.mouse.move(box.x + 260, box.y + 170, { steps: 4 });
  await app.page.mouse.up();
  await app.page.mouse.wheel(0, -300);
  const { camera } = await exported();
  expect(camera.dials.azimuth).toBeCloseTo(-24);
  expect(camera.dials.elevation).toBeCloseTo(18);
  expect(camera.dials.distance).toBeLessThan(6);
  await app.page.getByRole('button', { name: /^Undo/ }).click();
  await app.page.getByRole('button', { name: /^Undo/ }).click();
  expect(await exported()).toEqual(before);
});

test('a bad file is refused with its line, and the open show is untouched', async () => {
  await app.page.goto(app.url);
  await app.page.getByRole('link', { name: 'Open Plankton Lantern' }).waitFor();
  const upload = async (name: string, text: string): Promise<void> => {
    const file = { name, mimeType: 'application/json', buffer: Buffer.from(text) };
    await app.page.getByLabel('Piece files').setInputFiles(file);
  };
  await upload('range.json', pieceText(smallPiece()).replace('"rate": 900', '"rate": -3'));
  await app.page
    .getByText(/range\.json was not imported.\s*line \d+, swarms\[0\]\.dials\.rate/)
    .waitFor();
  await upload('deep.json', '['.repeat(10_000));
  await app.page.getByText(/Nested more than 64 deep/).waitFor();
  await upload('notes.json', 'not json at all');
  await app.page.getByText(/notes\.json was not imported.\s*line 1: This is not JSON/).waitFor();
  // Its pieces, and the show itself.
  expect(await app.page.getByRole('article').count()).toBe(DEMO_SHOW.pieces.length + 1);
});

test('pieces are duplicated, deleted and brought back', async () => {
  await app.page.goto(app.url);
  await app.page.getByRole('button', { name: 'Duplicate Eddy at the Lock' }).click();
  const copy = app.page.getByRole('article', { name: 'Eddy at the Lock copy' });
  await copy.waitFor();
  await copy.getByRole('button', { name: /^Delete/ }).click();
  await copy.waitFor({ state: 'detached' });
  await app.page.getByRole('button', { name: 'Undo' }).click();
  await copy.waitFor();
  // Seeding never brings back what the artist deleted.
  const first = app.page.getByRole('link', { name: 'Open Eddy at the Lock', exact: true });
  await app.page.getByRole('button', { name: 'Delete Eddy at the Lock', exact: true }).click();
  await first.waitFor({ state: 'detached' });
  await app.page.reload();
  await copy.waitFor();
  expect(await first.count()).toBe(0);
});

test('more births than fit are told in numbers, with the limit that would be enough', async () => {
  await openSmall((p) => (p.swarms[0]!.dials.limit = 200));
  await app.page
    .getByText(/would have 2,\d{3} particles alive at once; its limit holds it at 200/)
    .waitFor();
  const told = app.page.getByRole('status', { name: 'About the picture' });
  await told.getByRole('button', { name: /Raise the limit to 2,\d{3}/ }).click();
  await told.waitFor({ state: 'detached' });
});

test('a picture without anything alive says so', async () => {
  const barren = (p: Piece): void => {
    p.swarms[0]!.dials.rate = 0;
  };
  await open(app.page, app.url, barren, (d) => d.alive === '0');
  await app.page.getByText(/Nothing is alive at this frame/).waitFor();
});

test('? opens the keys beside the work, which plays on, and closes them', async () => {
  await openSmall();
  await app.page.keyboard.press('?');
  const help = app.page.getByRole('complementary', { name: 'Help' });
  await help.getByText('Frame the selected swarm').waitFor();
  expect(new URL(app.page.url()).pathname).toMatch(/^\/piece\//);
  await pictureTells((d) => d.playing === 'true');
  await app.page.keyboard.press('?');
  await help.waitFor({ state: 'hidden' });
});

test('full storage is said, with export offered', async () => {
  await openSmall();
  await app.page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await app.page.getByRole('textbox', { name: 'Rate' }).fill('1000');
  await app.page.getByRole('textbox', { name: 'Rate' }).press('Enter');
  const told = app.page.getByRole('status', { name: 'Notices' });
  await told.getByText(/storage is full: changes are not saved/).waitFor();
  await told.getByRole('button', { name: 'Export piece' }).waitFor();
  expect((await exported()).swarms[0]!.dials.rate).toBe(1000);
});

test('a dead thread, and a dead worker, are replaced and the frame comes back', async () => {
  await app.page.addInitScript(() => {
    const made: Worker[] = [];
    Object.assign(window, { made });
    window.Worker = class extends Worker {
      constructor(url: string | URL, options?: WorkerOptions) {
        super(url, options);
        made.push(this);
      }
    };
  });
  const latest = (act: 'crash' | 'die'): Promise<void> =>
    app.page.evaluate((what) => {
      const worker = (window as unknown as { made: Worker[] }).made.at(-1)!;
      // As the interface asks for it, see workers/openWorker.ts.
      const crash = { id: 'crash', type: 'APPLY', path: ['crash'], argumentList: [] };
      if (what === 'crash') worker.postMessage(crash);
      else worker.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    }, act);
  await openSmall((p) => {
    p.sounds = [makePart('sounds', 'played', [])];
    p.sounds[0]!.dials.sound = 'fogSignal';
  });
  await pause();
  const time = app.page.getByRole('slider', { name: 'Time' });
  await time.press('Home');
  await time.press('Shift+ArrowRight');
  await pictureTells((d) => d.frame === '10' && d.settling === '0');
  const before = await look();
  await latest('crash');
  // A browser takes a moment to end a thread; playing needs it again and again.
  await app.page.getByRole('button', { name: 'Play' }).click();
  const told = app.page.getByRole('status', { name: 'Notices' });
  await told.getByText(/thread stopped answering. It was started again/).waitFor();
  await dismiss(/started again/);
  await pause();
  await time.press('Home');
  await time.press('Shift+ArrowRight');
  await pictureTells((d) => d.frame === '10' && d.settling === '0');
  expect(await look()).toBe(before);
  await latest('die');
  await told.getByText(/engine stopped \(out of memory\). It was started again/).waitFor();
  await dismiss(/started again/);
  // The new canvas is empty until the first frame: another frame and back tells that it is there.
  await time.press('ArrowRight');
  await pictureTells((d) => d.frame === '11' && d.settling === '0');
  await time.press('ArrowLeft');
  await pictureTells((d) => d.frame === '10' && d.settling === '0');
  expect(await look()).toBe(before);
  // The next one is asked what the last one cannot answer any more.
  await app.page.getByRole('button', { name: 'Add a signal' }).click();
  await app.page.getByRole('menuitem', { name: 'Beat' }).first().click();
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  await app.page.getByRole('button', { name: 'Find it in' }).click();
  await app.page.getByText('100.0 a minute').waitFor();
});

test('an address without a piece says so and leads back', async () => {
  await app.page.goto(`${app.url}/piece/nowhere`);
  await app.page
    .getByRole('alert')
    .getByText(/There is no piece at this address/)
    .waitFor();
  await app.page.getByRole('link', { name: 'To the pieces' }).click();
  await app.page.getByRole('button', { name: 'New piece', exact: true }).waitFor();
});
