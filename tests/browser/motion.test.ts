import { makePart, type Piece } from '@vast-swarm/core/piece';
import { openApp } from './openApp';
import { openSmall, pictureOf, pictureTells } from './picture';

const app = openApp();

const open = (change?: (piece: Piece) => void): Promise<void> =>
  openSmall(app.page, app.url, change);
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const dial = (name: string) => app.page.getByRole('group', { name, exact: true });

async function add(button: string, kind: string): Promise<void> {
  await app.page.getByRole('button', { name: button }).click();
  await app.page.getByRole('menuitem', { name: kind }).first().click();
  await unveiled();
}

/** The veil of a list lies over the page for a moment longer than the list itself. */
const unveiled = (): Promise<void> =>
  app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });

/** Chooses in one of the sheet's lists. */
async function choose(list: string, option: string): Promise<void> {
  await app.page.getByRole('combobox', { name: list, exact: true }).click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
  await unveiled();
}

test('a dial follows a new wave, and a formula whose error is at its character', async () => {
  await open();
  await dial('Size')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await app.page.getByRole('menuitem', { name: /A new wave/ }).click();
  await dial('Size').getByRole('img', { name: 'Size over time' }).waitFor();
  await lineUp().getByRole('button', { name: 'Wave', exact: true }).waitFor();

  await dial('Opacity')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await app.page.getByRole('menuitem', { name: /^Formula/ }).click();
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
  await app.page.getByRole('button', { name: 'More for Wave' }).click();
  await app.page.getByRole('menuitem', { name: 'Remove' }).click();
  await dial('Size').getByRole('img').waitFor({ state: 'detached' });
  await pictureTells(app.page, (d) => Number(d.alive) > 0);
});

test('a collider is added, felt, and left out by the influence grid', async () => {
  await open((p) => {
    p.forces = [makePart('forces', 'gravity', [])];
  });
  await add('Add a collider or zone', 'Plane');
  await choose('Does', 'Die');
  await app.page.getByRole('textbox', { name: 'Centre y' }).fill('0.9');
  await app.page.getByRole('textbox', { name: 'Centre y' }).press('Enter');
  // The swarm is a ball of one metre: under the floor nothing lives.
  await pictureTells(app.page, (d) => Number(d.alive) < 400);
  await app.page.getByRole('tab', { name: 'Influence' }).click();
  await app.page.getByRole('checkbox', { name: 'Motes feels Plane' }).uncheck();
  await pictureTells(app.page, (d) => Number(d.alive) > 900);
});

test('the doctor tells why nothing is seen, and mends it', async () => {
  const barren = (p: Piece): void => {
    p.swarms[0]!.dials.rate = 0;
  };
  await openSmall(app.page, app.url, barren, (d) => d.alive === '0');
  await app.page.getByRole('tab', { name: 'Doctor' }).click();
  await app.page.getByText('Nothing is born: rate and burst are 0.').waitFor();
  await app.page.getByRole('button', { name: 'Set a rate of 2000 /s' }).click();
  await pictureTells(app.page, (d) => Number(d.alive) > 0);
  await app.page.getByText('Motes is seen as it should be.').waitFor();
});

test('an outline comes from a file, is drawn with the pen, and births stand on it', async () => {
  await open();
  await choose('Emitter kind', 'Outline');
  const svg = '<svg><path d="M-2 0 L2 0"/></svg>';
  await app.page
    .getByLabel('File for Outline')
    .setInputFiles({ name: 'bar.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) });
  await app.page.getByRole('combobox', { name: 'Outline', exact: true }).getByText('bar').waitFor();
  await pictureTells(app.page, (d) => Number(d.alive) > 100);

  await choose('Outline', 'Draw with the pen');
  const box = (await app.page.getByRole('application', { name: /Pen/ }).boundingBox())!;
  const at = (u: number, v: number): [number, number] => [
    box.x + u * box.width,
    box.y + v * box.height,
  ];
  await app.page.mouse.move(...at(0.3, 0.5));
  await app.page.mouse.down();
  for (let i = 1; i <= 20; i++) await app.page.mouse.move(...at(0.3 + 0.02 * i, 0.5 - 0.01 * i));
  await app.page.mouse.up();
  await app.page
    .getByRole('combobox', { name: 'Outline', exact: true })
    .getByText('Drawn outline')
    .waitFor();
  await app.page.getByRole('button', { name: 'Put the pen away' }).click();

  await app.page.goto(`${app.url}/stock`);
  const card = app.page.getByRole('listitem', { name: 'bar', exact: true });
  await card.getByText('1 curves').waitFor();
  await card.getByRole('img', { name: 'Preview of bar' }).waitFor();
});

test('all of a coloured point cloud is seen by choosing its file', async () => {
  const colours = ['255 40 20', '30 200 90', '40 90 255'];
  const points = Array.from({ length: 3000 }, (_, i) => {
    const at = [(i % 50) / 25, Math.floor(i / 50) / 30, 0];
    return [...at, colours[Math.floor((i % 50) / 17)]].join(' ');
  });
  const names = ['float x', 'float y', 'float z', 'uchar red', 'uchar green', 'uchar blue'];
  const properties = names.map((name) => `property ${name}`).join('\n');
  const head = `ply\nformat ascii 1.0\nelement vertex 3000\n${properties}\nend_header\n`;
  const file = {
    name: 'quay.ply',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(`${head}${points.join('\n')}\n`),
  };
  await app.page.goto(app.url);
  await app.page.getByRole('button', { name: 'New piece', exact: true }).click();
  const chooser = app.page.waitForEvent('filechooser');
  await app.page.getByRole('button', { name: 'A file…' }).click();
  await (await chooser).setFiles(file);
  await pictureTells(app.page, (d) => d.alive === '3000' && d.exact === 'true');
  await lineUp().getByRole('button', { name: 'quay', exact: true }).waitFor();
  await app.page
    .getByRole('combobox', { name: 'When', exact: true })
    .getByText('All places once')
    .waitFor();

  // Undone in one step, and there again with all its points.
  await app.page.keyboard.press('Control+z');
  await app.page.getByRole('button', { name: 'A file…' }).waitFor();
  await app.page.keyboard.press('Control+Shift+z');
  await pictureTells(app.page, (d) => d.alive === '3000');

  // Chosen as an emitter first, it comes to the same look when it gets its file.
  const size = app.page.getByRole('textbox', { name: 'Size', exact: true });
  await lineUp().getByRole('button', { name: 'quay', exact: true }).click();
  const fitting = await size.inputValue();
  await add('Add a swarm', 'Point cloud');
  await app.page.getByLabel('File for Points').setInputFiles(file);
  await pictureTells(app.page, (d) => d.alive === '6000');
  expect(await size.inputValue()).toBe(fitting);
});

test('a bad file of the stock is told with what is wrong, and kept out', async () => {
  await app.page.goto(`${app.url}/stock`);
  await app.page.getByLabel('Files for the stock').setInputFiles({
    name: 'points.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('x,y,z\n1,2,3\n4,salt,6\n'),
  });
  await app.page.getByRole('alert').getByText("line 3: 'salt' in column 2 is no number").waitFor();
  await app.page.getByText('Nothing yet.').waitFor();
});

test('the flow brush lays a stroke that can be taken back', async () => {
  await open();
  await add('Add a force', 'Painted flow');
  await app.page.getByRole('button', { name: 'Take the flow brush' }).click();
  const box = (await app.page.getByRole('application', { name: /Flow brush/ }).boundingBox())!;
  await app.page.mouse.move(box.x + 0.3 * box.width, box.y + 0.5 * box.height);
  await app.page.mouse.down();
  for (let i = 1; i <= 10; i++) {
    await app.page.mouse.move(box.x + (0.3 + 0.04 * i) * box.width, box.y + 0.5 * box.height);
  }
  await app.page.mouse.up();
  await app.page.getByText('1 stroke', { exact: true }).waitFor();
  await app.page.getByRole('button', { name: /^Undo/ }).click();
  await app.page.getByText('0 strokes').waitFor();
});

test('the flow brush runs over the surface of a mesh', async () => {
  await open((p) => {
    p.forces = [makePart('forces', 'brushed', [])];
    Object.assign(p.forces[0]!.dials, { over: 'surface', mesh: 'buoy' });
  });
  await lineUp().getByRole('button', { name: 'Painted flow', exact: true }).click();
  await app.page.getByRole('button', { name: 'Take the flow brush' }).click();
  const box = (await app.page.getByRole('application', { name: /Flow brush/ }).boundingBox())!;
  const at = (u: number): [number, number] => [box.x + u * box.width, box.y + 0.6 * box.height];
  await app.page.mouse.move(...at(0.45));
  await app.page.mouse.down();
  for (let i = 1; i <= 10; i++) await app.page.mouse.move(...at(0.45 + 0.01 * i));
  await app.page.mouse.up();
  await app.page.getByText('1 stroke', { exact: true }).waitFor();
  await pictureTells(app.page, (d) => Number(d.alive) > 0);
});

test('handles move the emitter by mouse and by keys', async () => {
  await open();
  const handle = app.page.getByRole('slider', { name: 'Centre handle' });
  const box = (await handle.boundingBox())!;
  await app.page.mouse.move(box.x + 6, box.y + 6);
  await app.page.mouse.down();
  await app.page.mouse.move(box.x + 106, box.y + 6, { steps: 5 });
  await app.page.mouse.up();
  const centre = (): Promise<string> =>
    app.page.getByRole('textbox', { name: 'Centre x' }).inputValue();
  const moved = Number(await centre());
  expect(moved).toBeGreaterThan(0.3);
  await handle.focus();
  await app.page.keyboard.press('ArrowLeft');
  expect(Number(await centre())).toBeLessThan(moved);
  await app.page.keyboard.press('h');
  await handle.waitFor({ state: 'detached' });
});

test('a particle is followed by a click, and let go by Escape', async () => {
  await open((p) => {
    Object.assign(p.swarms[0]!.emitter.dials, { radius: 0.02 });
    Object.assign(p.swarms[0]!.dials, { lifetime: 3 });
    p.forces = [];
    p.swarms[0]!.launch.dials.speed = 0;
  });
  await app.page.keyboard.press('h');
  await pictureOf(app.page).click();
  const status = app.page.getByRole('status', { name: 'Followed particle' });
  await status.getByText(/Motes \d+/).waitFor();
  await status.getByText(/of 3 s/).waitFor();
  await app.page.keyboard.press('Escape');
  await status.waitFor({ state: 'detached' });
});

test('a follower has what its leader has, until it is changed or freed', async () => {
  await open();
  await app.page.getByRole('button', { name: 'More for Motes', exact: true }).click();
  await app.page.getByRole('menuitem', { name: 'Duplicate, following' }).click();
  await app.page.getByText(/Follows Motes/).waitFor();
  await lineUp().getByRole('button', { name: 'Motes', exact: true }).click();
  const rate = app.page.getByRole('textbox', { name: 'Rate', exact: true });
  await rate.fill('300');
  await rate.press('Enter');
  await lineUp().getByRole('button', { name: 'Motes 2', exact: true }).click();
  expect(await rate.inputValue()).toBe('300');
  await rate.fill('500');
  await rate.press('Enter');
  await app.page.getByText(/so far rate/).waitFor();
  await app.page.getByRole('button', { name: 'Make independent' }).click();
  await app.page.getByText(/Follows Motes/).waitFor({ state: 'detached' });
  expect(await rate.inputValue()).toBe('500');
});

test('a bake plays back the same frame, goes stale by itself, and is deleted', async () => {
  await open((p) => {
    p.frame.length = 1500;
    p.swarms[0]!.dials.rate = 200;
  });
  const look = async (): Promise<Buffer> => {
    await app.page.getByRole('slider', { name: 'Time' }).focus();
    await app.page.keyboard.press('Home');
    await pictureTells(app.page, (d) => d.frame === '0' && d.settling === '0');
    for (let i = 0; i < 3; i++) await app.page.keyboard.press('Shift+ArrowRight');
    await pictureTells(app.page, (d) => d.frame === '30' && d.settling === '0');
    return pictureOf(app.page).screenshot();
  };
  await app.page.getByRole('button', { name: 'Pause' }).click();
  await app.page.keyboard.press('h');
  const live = await look();
  await app.page.getByRole('button', { name: 'Bake', exact: true }).click();
  await app.page.getByText(/^Baked, \d+ MB$/).waitFor();
  expect((await look()).equals(live)).toBe(true);
  // Another look leaves it valid, another motion does not.
  const size = app.page.getByRole('textbox', { name: 'Light', exact: true });
  await size.fill('2');
  await size.press('Enter');
  await app.page.getByText(/^Baked, \d+ MB$/).waitFor();
  const rate = app.page.getByRole('textbox', { name: 'Rate', exact: true });
  await rate.fill('50');
  await rate.press('Enter');
  await app.page.getByText(/stale: something it depends on has changed/).waitFor();
  // Still played as it was: as many particles as before.
  await look();
  await pictureTells(app.page, (d) => Number(d.alive) > 200);
  // A bake that is given up leaves the one before.
  // It may be whole before a hand could stop it: the button is pressed as soon as it is there.
  await app.page.evaluate(() => {
    const observer = new MutationObserver(() => {
      const button = [...document.querySelectorAll('button')].find(
        (b) => b.textContent === 'Cancel',
      );
      if (!button) return;
      observer.disconnect();
      button.click();
    });
    observer.observe(document.body, { childList: true, subtree: true });
  });
  await app.page.getByRole('button', { name: 'Bake again' }).click();
  await app.page.getByText(/stale: something/).waitFor();
  await app.page.reload();
  await app.page.getByText(/stale: something/).waitFor();
  await app.page.getByRole('button', { name: 'Delete the bake' }).click();
  await app.page.getByText('Simulated live').waitFor();
  await pictureTells(app.page, (d) => Number(d.alive) > 0 && Number(d.alive) < 150);
});

test('keys are added and moved on the timing strip', async () => {
  await open();
  await add('Add a signal', 'Keyframes');
  const row = app.page.getByRole('group', { name: 'Keyframes over time' });
  await row.waitFor();
  const box = (await row.boundingBox())!;
  await app.page.mouse.dblclick(box.x + box.width * 0.9, box.y + 10);
  const key = row.getByRole('slider', { name: 'Keyframes, key 2' });
  await key.focus();
  const before = await key.getAttribute('aria-valuetext');
  await app.page.keyboard.press('ArrowUp');
  expect(await key.getAttribute('aria-valuetext')).not.toBe(before);
});

test('a signal is moved by hand while the piece plays, and what was recorded stays', async () => {
  await open();
  await add('Add a signal', 'By hand');
  await app.page.getByText('Nothing recorded').waitFor();
  const hand = app.page.getByRole('slider', { name: 'By hand' });
  const box = (await hand.locator('xpath=..').boundingBox())!;
  await app.page.mouse.move(box.x + 6, box.y + 6);
  await app.page.mouse.down();
  await app.page.mouse.move(box.x + 90, box.y + 6, { steps: 4 });
  // The hand stays where it is until some frames have gone by.
  const frame = Number(await pictureOf(app.page).getAttribute('data-frame'));
  await pictureTells(app.page, (d) => Math.abs(Number(d.frame) - frame) > 4);
  await app.page.mouse.up();
  const told = app.page.getByText(/Recorded from \d/);
  await told.waitFor();
  const before = await told.textContent();
  await app.page.reload();
  await lineUp().getByRole('button', { name: 'By hand', exact: true }).click();
  await app.page.getByText(before!).waitFor();
  await app.page.getByRole('button', { name: 'Forget it' }).click();
  await app.page.getByText('Nothing recorded').waitFor();
  await app.page.keyboard.press('Control+z');
  await app.page.getByText(before!).waitFor();
});
