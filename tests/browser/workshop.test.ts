import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { Browser, Locator, Page } from 'playwright-core';
import { DEMO_SHOW, parsePiece, pieceText, type Piece } from '@vast-swarm/core';
import { smallPiece } from '../support/pieces';
import { openSmall as open, pictureOf, pictureTells as tells } from './picture';
import { launch, startApp, type App } from './support';

let app: App;
let browser: Browser;
let page: Page;

beforeAll(async () => {
  [app, browser] = await Promise.all([startApp(), launch()]);
}, 45_000);
afterAll(async () => {
  app.stop();
  await browser.close();
});
beforeEach(async () => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  page = await context.newPage();
});
afterEach(() => page.context().close());

const picture = (): Locator => pictureOf(page);
const pictureTells = (test: (data: DOMStringMap) => boolean): Promise<void> => tells(page, test);
const openSmall = (change?: Parameters<typeof open>[2]): Promise<void> =>
  open(page, app.url, change);

/** A small picture of the canvas, as one hash. */
async function look(): Promise<string> {
  return createHash('sha256')
    .update(await picture().screenshot())
    .digest('hex');
}

async function pause(): Promise<void> {
  await page.getByRole('button', { name: 'Pause' }).click();
  await pictureTells((d) => d.playing === 'false' && d.settling === '0' && d.exact === 'true');
}

/** Closes the notice with this text. */
async function dismiss(text: RegExp): Promise<void> {
  const notice = page.getByRole('alert').filter({ hasText: text });
  await notice.getByRole('button', { name: 'Close' }).click();
  await notice.waitFor({ state: 'detached' });
}

/** The open piece, as it would be exported. */
async function exported(): Promise<Piece> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export the piece file' }).click(),
  ]);
  return parsePiece(await readFile(await download.path(), 'utf8'));
}

test('the demo show is there, and a piece of it moves at once', async () => {
  await page.goto(app.url);
  await expect(page.title()).resolves.toBe('Vast Swarm');
  const shelf = page.getByRole('region', { name: 'Saltglass Quay' });
  await shelf.getByRole('link', { name: 'Open Eddy at the Lock' }).click();
  await pictureTells((d) => Number(d.frame) > 3 && Number(d.alive) > 30_000);
  expect(await picture().getAttribute('data-engine')).toBe('cpu');
  // The address opens what it names after a reload.
  await page.reload();
  await pictureTells((d) => Number(d.alive) > 0);
});

test('from an empty page to a curl-noise swarm, kept over a reload', async () => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'New piece' }).click();
  await page.getByRole('button', { name: 'Add a swarm' }).click();
  await page.getByRole('menuitem', { name: /^Sphere/ }).click();
  await pictureTells((d) => Number(d.alive) > 100);
  await page.getByRole('button', { name: 'Add a force' }).click();
  await page.getByRole('textbox', { name: 'Search kinds' }).fill('swirl');
  await page.getByRole('menuitem', { name: /^Curl noise/ }).click();
  await page.getByRole('button', { name: 'Add a force' }).click();
  await page.getByRole('menuitem', { name: /^Vortex/ }).click();
  await page.getByRole('textbox', { name: 'Spin' }).fill('1turn');
  await page.getByRole('textbox', { name: 'Spin' }).press('Enter');

  await page.getByRole('button', { name: 'Swarm', exact: true }).click();
  await page.getByRole('textbox', { name: 'Rate' }).fill('2*1500');
  await page.getByRole('textbox', { name: 'Rate' }).press('Enter');
  await page.getByRole('button', { name: /^Size: what fills it/ }).click();
  await page.getByRole('menuitem', { name: /Shaped over life/ }).click();
  await page.getByRole('slider', { name: 'Size, point 2' }).press('ArrowDown');
  await page.getByRole('button', { name: /^Colour: what fills it/ }).click();
  await page.getByRole('menuitem', { name: /Gradient over life/ }).click();
  await page.getByRole('textbox', { name: 'Colour, stop light' }).fill('4');
  await page.getByRole('textbox', { name: 'Colour, stop light' }).press('Enter');
  const piece = await exported();
  expect(piece.forces.map((f) => f.kind)).toEqual(['curlNoise', 'vortex']);
  expect(piece.forces[1]!.dials.spin).toBe(360);
  const { rate, size, colour } = piece.swarms[0]!.dials;
  expect(rate).toBe(3000);
  expect(size).toMatchObject({ feed: 'fixed', over: [{}, { x: 0.2, y: 0.99 }, {}] });
  expect(colour).toMatchObject({ feed: 'gradient', by: 'life', stops: [{ light: 4 }, {}] });

  await page.reload();
  await pictureTells((d) => Number(d.alive) > 100);
  expect(await exported()).toEqual(piece);
}, 60_000);

test('undo and redo go over every edit, a drag being one', async () => {
  await openSmall();
  const before = await exported();
  const box = (await page.getByRole('textbox', { name: 'Rate' }).boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 8);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(box.x + 20 + 6 * i, box.y + 8);
  await page.mouse.up();
  const dragged = await exported();
  expect(dragged.swarms[0]!.dials.rate).toBeGreaterThan(1200);
  await page.getByRole('button', { name: 'More for Motes' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate', exact: true }).click();
  await page.getByRole('button', { name: 'More for Motes', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  expect((await exported()).swarms.map((s) => s.name)).toEqual(['Motes 2']);
  await page.getByRole('button', { name: 'Undo: Remove' }).click();
  await page.keyboard.press('Control+z');
  expect(await exported()).toEqual(dragged);
  await page.keyboard.press('Control+z');
  expect(await exported()).toEqual(before);
  await page.keyboard.press('Control+Shift+z');
  expect(await exported()).toEqual(dragged);
});

test('time goes both ways, and a frame looks the same from either side', async () => {
  await openSmall();
  await pause();
  const time = page.getByRole('slider', { name: 'Time' });
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

test('a dragged picture orbits the camera, the wheel moves it, and both can be undone', async () => {
  await openSmall();
  await pause();
  const before = await exported();
  const box = (await picture().boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 150);
  await page.mouse.down();
  await page.mouse.move(box.x + 260, box.y + 170, { steps: 4 });
  await page.mouse.up();
  await page.mouse.wheel(0, -300);
  const { camera } = await exported();
  expect(camera.dials.azimuth).toBeCloseTo(-24);
  expect(camera.dials.elevation).toBeCloseTo(18);
  expect(camera.dials.distance).toBeLessThan(6);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  expect(await exported()).toEqual(before);
});

test('a bad file is refused with its line, and the open show is untouched', async () => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Open Plankton Lantern' }).waitFor();
  const upload = async (name: string, text: string): Promise<void> => {
    const file = { name, mimeType: 'application/json', buffer: Buffer.from(text) };
    await page.getByLabel('Piece files').setInputFiles(file);
  };
  await upload('range.json', pieceText(smallPiece()).replace('"rate": 900', '"rate": -3'));
  await page
    .getByText(/range\.json was not imported.\s*line \d+, swarms\[0\]\.dials\.rate/)
    .waitFor();
  await upload('deep.json', '['.repeat(10_000));
  await page.getByText(/Nested more than 64 deep/).waitFor();
  await upload('notes.json', 'not json at all');
  await page.getByText(/notes\.json was not imported.\s*line 1: This is not JSON/).waitFor();
  expect(await page.getByRole('article').count()).toBe(DEMO_SHOW.pieces.length);
});

test('pieces are duplicated, deleted and brought back', async () => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Duplicate Eddy at the Lock' }).click();
  const copy = page.getByRole('article', { name: 'Eddy at the Lock copy' });
  await copy.waitFor();
  await copy.getByRole('button', { name: /^Delete/ }).click();
  await copy.waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Undo' }).click();
  await copy.waitFor();
  // Seeding never brings back what the artist deleted.
  await page.getByRole('button', { name: 'Delete Eddy at the Lock', exact: true }).click();
  await page.reload();
  await copy.waitFor();
  expect(await page.getByRole('link', { name: 'Open Eddy at the Lock', exact: true }).count()).toBe(
    0,
  );
});

test('more births than fit are told in numbers, with the limit that would be enough', async () => {
  await openSmall((p) => (p.swarms[0]!.dials.limit = 200));
  await page
    .getByText(/would have 2,\d{3} particles alive at once; its limit holds it at 200/)
    .waitFor();
});

test('full storage is said, with export offered', async () => {
  await openSmall();
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await page.getByRole('textbox', { name: 'Rate' }).fill('1000');
  await page.getByRole('textbox', { name: 'Rate' }).press('Enter');
  const told = page.getByRole('status', { name: 'Notices' });
  await told.getByText(/storage is full: changes are not saved/).waitFor();
  await told.getByRole('button', { name: 'Export piece' }).waitFor();
  expect((await exported()).swarms[0]!.dials.rate).toBe(1000);
});

test('a dead thread, and a dead worker, are replaced and the frame comes back', async () => {
  await page.addInitScript(() => {
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
    page.evaluate((what) => {
      const worker = (window as unknown as { made: Worker[] }).made.at(-1)!;
      if (what === 'crash') worker.postMessage({ type: 'crash' });
      else worker.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
    }, act);
  await openSmall();
  await pause();
  const time = page.getByRole('slider', { name: 'Time' });
  await time.press('Home');
  await time.press('Shift+ArrowRight');
  await pictureTells((d) => d.frame === '10' && d.settling === '0');
  const before = await look();
  await latest('crash');
  // A browser takes a moment to end a thread; playing needs it again and again.
  await page.getByRole('button', { name: 'Play' }).click();
  const told = page.getByRole('status', { name: 'Notices' });
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
});

test('an address without a piece says so and leads back', async () => {
  await page.goto(`${app.url}/piece/nowhere`);
  await page
    .getByRole('alert')
    .getByText(/There is no piece at this address/)
    .waitFor();
  await page.getByRole('link', { name: 'To the pieces' }).click();
  await page.getByRole('button', { name: 'New piece' }).waitFor();
});
