import { pieceText, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../support/pieces';
import { openApp } from './openApp';
import { exportedPiece, openSmall, pictureTells } from './picture';

/** What makes the hand quick: words, variations, parts that travel, dials that are found, and the first steps. */

const app = openApp();
const exported = (): Promise<Piece> => exportedPiece(app.page);

async function newPiece(): Promise<void> {
  await app.page.goto(app.url);
  await app.page.getByRole('button', { name: 'New piece', exact: true }).click();
  await app.page.getByRole('group', { name: 'Begin' }).waitFor();
}

test('words are typed while the picture shows them, as one step to undo', async () => {
  await newPiece();
  await app.page.getByRole('button', { name: 'Words' }).click();
  await pictureTells(app.page, (d) => Number(d.alive) > 1000);
  const letters = app.page.getByRole('textbox', { name: 'Letters of Words' });
  await letters.fill('TIDE');
  await letters.press('End');
  await letters.press('Enter');
  await letters.pressSequentially('Tables');
  await letters.press('Escape');
  await app.page.getByRole('combobox', { name: 'Font of Words' }).click();
  await app.page.getByRole('option', { name: 'Heavy' }).click();
  const { stock } = await exported();
  expect(stock[0]!.source).toEqual({ words: 'TIDE\nTables', depth: 0.2, font: 'heavy' });
  await app.page.keyboard.press('Control+z');
  await app.page.keyboard.press('Control+z');
  expect((await exported()).stock[0]!.source).toMatchObject({ words: 'Saltglass' });
  // What the font does not have is told, and what is not there yet too.
  await letters.fill('Ω');
  await app.page.getByText('has none of its letters').waitFor();
  await letters.fill('');
  await app.page.getByText('has no letters yet').waitFor();
});

test('a variation is drawn, taken, undone, and taken again the same', async () => {
  await openSmall(app.page, app.url);
  await app.page.getByRole('button', { name: 'Pause' }).click();
  const before = await exported();
  await app.page.getByRole('button', { name: 'Variations' }).click();
  const strip = app.page.getByRole('region', { name: 'Variations' });
  const take = strip.getByRole('button', { name: 'Take Variation 3', exact: true });
  await app.page.waitForFunction(
    () =>
      document.querySelectorAll('[aria-label=Variations] canvas[style*="opacity: 1"]').length === 9,
  );
  await take.click();
  const taken = await exported();
  expect(taken).not.toEqual(before);
  await app.page.keyboard.press('Control+z');
  expect(await exported()).toEqual(before);
  await take.click();
  expect(await exported()).toEqual(taken);
  await app.page.keyboard.press('Control+z');
  // A dial that is locked stays as it is in all of them.
  await app.page.getByRole('button', { name: 'Lock Rate' }).click();
  await strip.getByRole('slider', { name: 'Reach' }).press('End');
  await take.click();
  expect((await exported()).swarms[0]!.dials.rate).toBe(before.swarms[0]!.dials.rate);
  await app.page.keyboard.press('Control+z');
  for (const n of [2, 5]) {
    await strip.getByRole('button', { name: `Mark variation ${String(n)} to be crossed` }).click();
  }
  await strip.getByRole('button', { name: 'Cross two' }).click();
  await strip.getByRole('button', { name: /^Take Variations 2 and 5, crossing 1$/ }).click();
  expect(await exported()).not.toEqual(before);
});

test('a swarm goes from one piece to another by keys, with what it needs', async () => {
  await openSmall(app.page, app.url, (p) => {
    p.swarms[0]!.name = 'Travellers';
  });
  const own = await exported();
  await app.page.getByRole('button', { name: 'Travellers', exact: true }).click();
  await app.page.keyboard.press('Control+c');
  await newPiece();
  await app.page.locator('body').press('Control+v');
  await app.page.getByRole('button', { name: 'Travellers', exact: true }).waitFor();
  const there = await exported();
  expect(there.swarms[0]!.dials).toEqual(own.swarms[0]!.dials);
  expect(there.forces.map((f) => f.kind)).toEqual(own.forces.map((f) => f.kind));
  await app.page.keyboard.press('Control+z');
  expect((await exported()).swarms).toEqual([]);
});

test('a part is kept as a recipe, and put in from the drawer', async () => {
  await openSmall(app.page, app.url);
  await app.page.getByRole('button', { name: 'More for Motes' }).click();
  await app.page.getByRole('menuitem', { name: 'Keep as a recipe' }).click();
  await app.page.getByText('Motes is kept as a recipe').waitFor();
  await app.page.getByRole('button', { name: 'Add a swarm' }).click();
  await app.page.getByRole('textbox', { name: 'Search kinds' }).fill('mot');
  const drawer = app.page.getByRole('region', { name: 'Recipes' });
  await drawer.getByRole('button', { name: 'Put in Motes' }).click();
  await app.page.getByRole('button', { name: 'Motes 2', exact: true }).waitFor();
  await app.page.getByRole('button', { name: 'Add a swarm' }).click();
  await app.page.getByRole('textbox', { name: 'Search kinds' }).fill('fire');
  await drawer.getByRole('button', { name: 'Put in Barge fire' }).click();
  const { swarms, forces } = await exported();
  expect(swarms).toHaveLength(3);
  expect(forces.length).toBeGreaterThan(1);
});

test('a dial of another part is found by one key, and lit; changed ones stand alone', async () => {
  await openSmall(app.page, app.url);
  await app.page.locator('body').press('/');
  await app.page.keyboard.type('curl strength');
  await app.page.keyboard.press('Enter');
  const dial = app.page.getByRole('textbox', { name: 'Strength' });
  await app.page.waitForFunction(
    () => document.activeElement?.getAttribute('aria-label') === 'Strength',
  );
  await dial.fill('2');
  await dial.press('Enter');
  expect((await exported()).forces[0]!.dials.strength).toBe(2);
  await app.page.getByRole('button', { name: 'Changed only' }).click();
  await app.page.getByRole('textbox', { name: 'Persistence' }).waitFor({ state: 'detached' });
  await dial.waitFor();
});

test('several swarms are turned together', async () => {
  await openSmall(app.page, app.url, (p) => {
    p.swarms.push({ ...structuredClone(p.swarms[0]!), id: 'others', name: 'Others' });
  });
  await app.page
    .getByRole('button', { name: 'Others', exact: true })
    .click({ modifiers: ['Control'] });
  await app.page.getByRole('note').filter({ hasText: 'One other is selected too' }).waitFor();
  const rate = app.page.getByRole('textbox', { name: 'Rate' });
  await rate.fill('321');
  await rate.press('Enter');
  expect((await exported()).swarms.map((s) => s.dials.rate)).toEqual([321, 321]);
});

test('what is turned at once after another part is pressed is turned in that part', async () => {
  await openSmall(app.page, app.url, (p) => {
    p.swarms.push({ ...structuredClone(p.swarms[0]!), id: 'others', name: 'Others' });
  });
  const mass = app.page.getByRole('textbox', { name: 'Mass', exact: true });
  for (const [name, value] of [
    ['Others', '3'],
    ['Motes', '7'],
  ] as const) {
    await app.page.getByRole('button', { name, exact: true }).click();
    await mass.fill(value);
    await mass.press('Enter');
  }
  const { swarms } = await exported();
  expect(swarms.map((s) => s.dials.mass)).toEqual([7, 3]);
  // The part whose dials are seen goes, and those of what is left are there.
  await app.page.getByRole('button', { name: 'Motes', exact: true }).press('Delete');
  await app.page.getByRole('button', { name: 'Others', exact: true }).click();
  await expect(mass.inputValue()).resolves.toBe('3');
});

test('the first steps are finished by doing them, and never come again', async () => {
  await newPiece();
  const steps = app.page.getByRole('status', { name: 'First steps' });
  await steps.getByText('First steps, 1 of 6').waitFor();
  await app.page.getByRole('button', { name: 'Sphere' }).click();
  await steps.getByText('2 of 6').waitFor();
  await app.page.getByRole('button', { name: 'Add a force' }).click();
  await app.page.getByRole('menuitem', { name: /^Curl noise/ }).click();
  await steps.getByText('3 of 6').waitFor();
  await app.page.getByRole('button', { name: 'Swarm', exact: true }).click();
  await app.page.getByRole('textbox', { name: 'Rate' }).fill('500');
  await app.page.getByRole('textbox', { name: 'Rate' }).press('Enter');
  await steps.getByText('4 of 6').waitFor();
  const box = (await app.page.getByRole('img', { name: 'Picture' }).boundingBox())!;
  await app.page.mouse.move(box.x + 60, box.y + 60);
  await app.page.mouse.down();
  await app.page.mouse.move(box.x + 160, box.y + 90, { steps: 4 });
  await app.page.mouse.up();
  await steps.getByText('5 of 6').waitFor();
  await app.page.keyboard.press('Control+z');
  await steps.getByText('6 of 6').waitFor();
  await app.page.getByRole('button', { name: 'Render' }).click();
  await app.page.waitForURL(/render/);
  await newPiece();
  expect(await steps.count()).toBe(0);
});

test('pieces are filed and found; a version is kept, and gone back to', async () => {
  await openSmall(app.page, app.url);
  await app.page.getByRole('button', { name: 'Versions that were kept' }).click();
  await app.page.getByRole('button', { name: 'Keep now' }).click();
  const versions = app.page.getByRole('region', { name: 'Versions' });
  await versions.getByText('Version 1').waitFor();
  await app.page.keyboard.press('Escape');
  const before = await exported();
  const rate = app.page.getByRole('textbox', { name: 'Rate' });
  await rate.fill('11');
  await rate.press('Enter');
  await app.page.getByRole('button', { name: 'Versions that were kept' }).click();
  await versions.getByRole('button', { name: 'Go back to Version 1' }).click();
  await app.page.keyboard.press('Escape');
  expect(await exported()).toEqual(before);
  await app.page.goto(app.url);
  const shelf = app.page.getByRole('region', { name: 'Your pieces' });
  await shelf.getByRole('button', { name: 'File Small: folder and tags' }).click();
  await shelf.getByRole('textbox', { name: 'Folder of Small' }).fill('Quay');
  await shelf.getByRole('textbox', { name: 'Tags of Small' }).fill('blue, tiny');
  await shelf.getByRole('textbox', { name: 'Tags of Small' }).press('Enter');
  await shelf.getByRole('button', { name: 'Quay (1)' }).click();
  await shelf.getByRole('textbox', { name: 'Find pieces' }).fill('tiny quay');
  await shelf.getByRole('article', { name: 'Small' }).waitFor();
  await shelf.getByRole('textbox', { name: 'Find pieces' }).fill('enormous');
  await shelf.getByText('No piece has all of these words').waitFor();
  await shelf.getByRole('button', { name: 'Show all' }).click();
  await shelf.getByRole('article', { name: 'Small' }).waitFor();
});

test('where nothing is yet, the next thing to do stands there', async () => {
  const { page } = app;
  await page.goto(`${app.url}/renders`);
  await page.getByRole('link', { name: 'Choose a piece' }).click();
  await page.getByRole('button', { name: 'Begin with a new one' }).click();
  await page.getByRole('group', { name: 'Begin' }).waitFor();
  await page.getByRole('tab', { name: 'Influence' }).click();
  const panel = page.getByRole('tabpanel');
  await panel.getByRole('button', { name: 'Add a swarm' }).click();
  await page.getByRole('menuitem', { name: /^Ring/ }).click();
  // There is one now: what is missing is something that it feels.
  await panel.getByRole('button', { name: 'Add a swarm' }).waitFor({ state: 'detached' });
  await panel.getByRole('button', { name: 'Add a force' }).click();
  await page.getByRole('menuitem', { name: /^Vortex/ }).click();
  await panel.getByRole('table').waitFor();
  const { swarms, forces } = await exported();
  expect([swarms[0]!.emitter.kind, forces[0]!.kind]).toEqual(['ring', 'vortex']);
  await page.getByRole('tab', { name: 'Controls' }).click();
  await panel.getByRole('button', { name: 'Find a dial to put forward' }).click();
  await expect(
    page
      .getByRole('combobox', { name: 'Find a dial' })
      .evaluate((e) => e === document.activeElement),
  ).resolves.toBe(true);
});

test('two thousand pieces: the shelf shows the first of them, and finds any', async () => {
  await app.page.goto(app.url);
  await app.page.getByRole('region', { name: 'Your pieces' }).waitFor();
  const text = pieceText(smallPiece());
  await app.page.evaluate(async (given) => {
    const open = indexedDB.open('vast-swarm');
    const db = await new Promise<IDBDatabase>((resolve, reject) => {
      open.onsuccess = () => resolve(open.result);
      open.onerror = () => reject(new Error('no database'));
    });
    const store = db.transaction('pieces', 'readwrite').objectStore('pieces');
    const piece = JSON.parse(given) as Record<string, unknown>;
    for (let i = 0; i < 2000; i++) {
      store.put({
        id: `p${String(i)}`,
        piece: { ...piece, name: `Piece ${String(i)}` },
        created: 0,
        changed: i,
      });
    }
    await new Promise((resolve) => (store.transaction.oncomplete = resolve));
    db.close();
  }, text);
  await app.page.reload();
  const shelf = app.page.getByRole('region', { name: 'Your pieces' });
  await shelf.getByRole('article', { name: 'Piece 1999', exact: true }).waitFor();
  expect(await shelf.getByRole('article').count()).toBe(24);
  await shelf.getByRole('textbox', { name: 'Find pieces' }).fill('piece 1234');
  await shelf.getByRole('article', { name: 'Piece 1234', exact: true }).waitFor();
});
