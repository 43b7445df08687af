import type { Browser, Page } from 'playwright-core';
import { makePart, type Piece } from '@vast-swarm/core';
import { openSmall, pictureOf, pictureTells } from './picture';
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

const open = (change?: (piece: Piece) => void): Promise<void> => openSmall(page, app.url, change);
const lineUp = () => page.getByRole('navigation', { name: 'Line-up' });
const dial = (name: string) => page.getByRole('group', { name, exact: true });

async function add(button: string, kind: string): Promise<void> {
  await page.getByRole('button', { name: button }).click();
  await page.getByRole('menuitem', { name: kind }).first().click();
}

/** Chooses in one of the sheet's lists. */
async function choose(list: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: list, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
  // The veil of the list lies over the page for a moment longer than the list itself.
  await page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

test('a dial follows a new wave, and a formula whose error is at its character', async () => {
  await open();
  await dial('Size')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await page.getByRole('menuitem', { name: /A new wave/ }).click();
  await dial('Size').getByRole('img', { name: 'Size over time' }).waitFor();
  await lineUp().getByRole('button', { name: 'Wave', exact: true }).waitFor();

  await dial('Opacity')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await page.getByRole('menuitem', { name: /^Formula/ }).click();
  const field = dial('Opacity').getByRole('textbox', { name: 'Opacity, formula' });
  await field.fill('lived * speeed');
  await dial('Opacity')
    .getByRole('alert')
    .getByText("Character 9: 'speeed' is not known")
    .waitFor();
  await field.fill('1 - lived');
  await field.press('Enter');
  await dial('Opacity').getByRole('alert').waitFor({ state: 'detached' });

  // With its signal gone the dial keeps a value of its own.
  await page.getByRole('button', { name: 'More for Wave' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await dial('Size').getByRole('img').waitFor({ state: 'detached' });
  await pictureTells(page, (d) => Number(d.alive) > 0);
}, 60_000);

test('a collider is added, felt, and left out by the influence grid', async () => {
  await open((p) => {
    p.forces = [makePart('forces', 'gravity', [])];
  });
  await add('Add a collider or zone', 'Plane');
  await choose('Does', 'Die');
  await page.getByRole('textbox', { name: 'Centre y' }).fill('0.9');
  await page.getByRole('textbox', { name: 'Centre y' }).press('Enter');
  // The swarm is a ball of one metre: under the floor nothing lives.
  await pictureTells(page, (d) => Number(d.alive) < 400);
  await page.getByRole('tab', { name: 'Influence' }).click();
  const cell = page.getByRole('textbox', { name: 'Motes feels Plane' });
  await cell.fill('0');
  await cell.press('Enter');
  await pictureTells(page, (d) => Number(d.alive) > 900);
}, 60_000);

test('the doctor tells why nothing is seen, and mends it', async () => {
  const barren = (p: Piece): void => {
    p.swarms[0]!.dials.rate = 0;
  };
  await openSmall(page, app.url, barren, (d) => d.alive === '0');
  await page.getByRole('tab', { name: 'Doctor' }).click();
  await page.getByText('Nothing is born: rate and burst are 0.').waitFor();
  await page.getByRole('button', { name: 'Set a rate of 2000 /s' }).click();
  await pictureTells(page, (d) => Number(d.alive) > 0);
  await page.getByText('Motes is seen as it should be.').waitFor();
}, 90_000);

test('an outline comes from a file, is drawn with the pen, and births stand on it', async () => {
  await open();
  await choose('Emitter kind', 'Outline');
  const svg = '<svg><path d="M-2 0 L2 0"/></svg>';
  await page
    .getByLabel('File for Outline')
    .setInputFiles({ name: 'bar.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await page.getByRole('combobox', { name: 'Outline', exact: true }).getByText('bar').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);

  await choose('Outline', 'Draw with the pen');
  const box = (await page.getByRole('application', { name: /Pen/ }).boundingBox())!;
  const at = (u: number, v: number): [number, number] => [
    box.x + u * box.width,
    box.y + v * box.height,
  ];
  await page.mouse.move(...at(0.3, 0.5));
  await page.mouse.down();
  for (let i = 1; i <= 20; i++) await page.mouse.move(...at(0.3 + 0.02 * i, 0.5 - 0.01 * i));
  await page.mouse.up();
  await page
    .getByRole('combobox', { name: 'Outline', exact: true })
    .getByText('Drawn outline')
    .waitFor();
  await page.getByRole('button', { name: 'Put the pen away' }).click();

  await page.goto(`${app.url}/stock`);
  const card = page.getByRole('listitem', { name: 'bar', exact: true });
  await card.getByText('1 curves').waitFor();
  await card.getByRole('img', { name: 'Preview of bar' }).waitFor();
}, 90_000);

test('a bad file of the stock is told with what is wrong, and kept out', async () => {
  await page.goto(`${app.url}/stock`);
  await page.getByLabel('Files for the stock').setInputFiles({
    name: 'points.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('x,y,z\n1,2,3\n4,salt,6\n'),
  });
  await page.getByRole('alert').getByText("line 3: 'salt' in column 2 is no number").waitFor();
  await page.getByText('Nothing yet.').waitFor();
}, 60_000);

test('the flow brush lays a stroke that can be taken back', async () => {
  await open();
  await add('Add a force', 'Painted flow');
  await page.getByRole('button', { name: 'Take the flow brush' }).click();
  const box = (await page.getByRole('application', { name: /Flow brush/ }).boundingBox())!;
  await page.mouse.move(box.x + 0.3 * box.width, box.y + 0.5 * box.height);
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) {
    await page.mouse.move(box.x + (0.3 + 0.04 * i) * box.width, box.y + 0.5 * box.height);
  }
  await page.mouse.up();
  await page.getByText('1 stroke', { exact: true }).waitFor();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByText('0 strokes').waitFor();
}, 60_000);

test('the flow brush runs over the surface of a mesh', async () => {
  await open((p) => {
    p.forces = [makePart('forces', 'brushed', [])];
    Object.assign(p.forces[0]!.dials, { over: 'surface', mesh: 'buoy' });
  });
  await lineUp().getByRole('button', { name: 'Painted flow', exact: true }).click();
  await page.getByRole('button', { name: 'Take the flow brush' }).click();
  const box = (await page.getByRole('application', { name: /Flow brush/ }).boundingBox())!;
  const at = (u: number): [number, number] => [box.x + u * box.width, box.y + 0.6 * box.height];
  await page.mouse.move(...at(0.45));
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) await page.mouse.move(...at(0.45 + 0.01 * i));
  await page.mouse.up();
  await page.getByText('1 stroke', { exact: true }).waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 0);
}, 60_000);

test('handles move the emitter by mouse and by keys', async () => {
  await open();
  const handle = page.getByRole('slider', { name: 'Centre handle' });
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 6, box.y + 6);
  await page.mouse.down();
  await page.mouse.move(box.x + 106, box.y + 6, { steps: 5 });
  await page.mouse.up();
  const centre = (): Promise<string> =>
    page.getByRole('textbox', { name: 'Centre x' }).inputValue();
  const moved = Number(await centre());
  expect(moved).toBeGreaterThan(0.3);
  await handle.focus();
  await page.keyboard.press('ArrowLeft');
  expect(Number(await centre())).toBeLessThan(moved);
  await page.keyboard.press('h');
  await handle.waitFor({ state: 'detached' });
}, 60_000);

test('a particle is followed by a click, and let go by Escape', async () => {
  await open((p) => {
    Object.assign(p.swarms[0]!.emitter.dials, { radius: 0.02 });
    Object.assign(p.swarms[0]!.dials, { lifetime: 3 });
    p.forces = [];
    p.swarms[0]!.launch.dials.speed = 0;
  });
  await page.keyboard.press('h');
  await pictureOf(page).click();
  const status = page.getByRole('status', { name: 'Followed particle' });
  await status.getByText(/Motes \d+/).waitFor();
  await status.getByText(/of 3 s/).waitFor();
  await page.keyboard.press('Escape');
  await status.waitFor({ state: 'detached' });
}, 60_000);

test('a follower has what its leader has, until it is changed or freed', async () => {
  await open();
  await page.getByRole('button', { name: 'More for Motes', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Duplicate, following' }).click();
  await page.getByText(/Follows Motes/).waitFor();
  await lineUp().getByRole('button', { name: 'Motes', exact: true }).click();
  const rate = page.getByRole('textbox', { name: 'Rate', exact: true });
  await rate.fill('300');
  await rate.press('Enter');
  await lineUp().getByRole('button', { name: 'Motes 2', exact: true }).click();
  expect(await rate.inputValue()).toBe('300');
  await rate.fill('500');
  await rate.press('Enter');
  await page.getByText(/so far rate/).waitFor();
  await page.getByRole('button', { name: 'Make independent' }).click();
  await page.getByText(/Follows Motes/).waitFor({ state: 'detached' });
  expect(await rate.inputValue()).toBe('500');
}, 60_000);

test('a bake plays back the same frame, goes stale by itself, and is deleted', async () => {
  await open((p) => {
    p.frame.length = 1500;
    p.swarms[0]!.dials.rate = 200;
  });
  const look = async (): Promise<Buffer> => {
    await page.getByRole('slider', { name: 'Time' }).focus();
    await page.keyboard.press('Home');
    await pictureTells(page, (d) => d.frame === '0' && d.settling === '0');
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
    await pictureTells(page, (d) => d.frame === '30' && d.settling === '0');
    return pictureOf(page).screenshot();
  };
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.keyboard.press('h');
  const live = await look();
  await page.getByRole('button', { name: 'Bake', exact: true }).click();
  await page.getByText(/^Baked, \d+ MB$/).waitFor();
  expect((await look()).equals(live)).toBe(true);
  // Another look leaves it valid, another motion does not.
  const size = page.getByRole('textbox', { name: 'Light', exact: true });
  await size.fill('2');
  await size.press('Enter');
  await page.getByText(/^Baked, \d+ MB$/).waitFor();
  const rate = page.getByRole('textbox', { name: 'Rate', exact: true });
  await rate.fill('50');
  await rate.press('Enter');
  await page.getByText(/stale: something it depends on has changed/).waitFor();
  // Still played as it was: as many particles as before.
  await look();
  await pictureTells(page, (d) => Number(d.alive) > 200);
  // A bake that is given up leaves the one before.
  await page.getByRole('button', { name: 'Bake again' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByText(/stale: something/).waitFor();
  await page.reload();
  await page.getByText(/stale: something/).waitFor();
  await page.getByRole('button', { name: 'Delete the bake' }).click();
  await page.getByText('Simulated live').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 0 && Number(d.alive) < 150);
}, 120_000);

test('keys are added and moved on the timing strip', async () => {
  await open();
  await add('Add a signal', 'Keyframes');
  const row = page.getByRole('group', { name: 'Keyframes over time' });
  await row.waitFor();
  const box = (await row.boundingBox())!;
  await page.mouse.dblclick(box.x + box.width * 0.9, box.y + 10);
  const key = row.getByRole('slider', { name: 'Keyframes, key 2' });
  await key.focus();
  const before = await key.getAttribute('aria-valuetext');
  await page.keyboard.press('ArrowUp');
  expect(await key.getAttribute('aria-valuetext')).not.toBe(before);
}, 60_000);
