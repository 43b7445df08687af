import type { Piece } from '@vast-swarm/core/piece';
import { openApp } from './openApp';
import { openSmall, pictureOf, pictureTells } from './picture';

const app = openApp();

const sheet = () => app.page.getByRole('region', { name: 'Sheet' });

/** Opens a small piece that stands still at a frame, without handles over it. */
async function openStill(change?: (piece: Piece) => void): Promise<void> {
  await openSmall(app.page, app.url, (p) => {
    p.finish = [];
    change?.(p);
  });
  await app.page.keyboard.press('h');
  await app.page.keyboard.press('Space');
  await pictureTells(app.page, (d) => d.playing === 'false' && d.settling === '0');
}

async function choose(list: string, option: string): Promise<void> {
  await app.page.getByRole('combobox', { name: list, exact: true }).first().click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
  // The veil of the list lies over the page for a moment longer than the list itself.
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

async function add(button: string, kind: string): Promise<void> {
  await app.page.getByRole('button', { name: button }).click();
  await app.page.getByRole('textbox', { name: 'Search kinds' }).fill(kind);
  await app.page.keyboard.press('Enter');
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

/** The picture on the screen. */
async function shot(): Promise<string> {
  return (await pictureOf(app.page).screenshot()).toString('base64');
}

/** Waits until the picture is another one, or the same again. */
async function becomes(test: (picture: string) => boolean): Promise<string> {
  const end = Date.now() + 20_000;
  for (;;) {
    const now = await shot();
    if (test(now)) return now;
    if (Date.now() > end) throw new Error('the picture stays as it is');
  }
}

test('bodies are added, hidden, changed and removed, and the picture follows', async () => {
  await openStill();
  const plain = await shot();
  await add('Add a body', 'Mesh copies');
  await sheet().getByRole('region', { name: 'Body 2' }).waitFor();
  const both = await becomes((p) => p !== plain);
  await app.page.getByRole('button', { name: 'Hide body 2' }).click();
  await becomes((p) => p === plain);
  await choose('Body 1 kind', 'Ring');
  await becomes((p) => p !== plain && p !== both);
  await app.page.getByRole('button', { name: 'Remove body 1' }).click();
  await app.page.getByRole('button', { name: 'Remove body 1' }).click();
  await sheet().getByText('Nothing is drawn of it').waitFor();
  await app.page.getByRole('tab', { name: 'Doctor' }).click();
  await app.page.getByRole('button', { name: 'Give it a disc' }).click();
  await sheet().getByRole('region', { name: 'Body 1' }).waitFor();
});

test('colours lie in layers, and a gradient comes from a file or says why not', async () => {
  await openStill();
  const plain = await shot();
  await sheet()
    .getByRole('button', { name: /^Colour: what fills it/ })
    .click();
  await app.page.getByRole('menuitem', { name: /^Layers/ }).click();
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  await sheet().getByRole('button', { name: 'Add a layer' }).click();
  await choose('Layer 3, which reading', 'Height, m');
  await sheet().getByRole('group', { name: 'Colour, layer 3' }).waitFor();
  const layered = await becomes((p) => p !== plain);
  const file = (text: string) => ({
    name: 'warm.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(text),
  });
  const input = app.page.getByLabel('Gradient file for Colour result');
  await input.setInputFiles(file('<svg/>'));
  await app.page.getByText('There is no gradient with stops in it.').waitFor();
  const stops = '<stop offset="0" stop-color="#ff2200"/><stop offset="1" stop-color="#ffee00"/>';
  await input.setInputFiles(file(`<svg><linearGradient>${stops}</linearGradient></svg>`));
  await becomes((p) => p !== layered);
  await sheet().getByRole('slider', { name: 'Colour result, stop 2' }).waitFor();
});

test('a treatment is seen within a mask that is drawn in the picture', async () => {
  await openStill();
  const plain = await shot();
  await add('Add a finish', 'Colour layer');
  const whole = await becomes((p) => p !== plain);
  await sheet().getByRole('button', { name: 'Add an ellipse' }).click();
  const masked = await becomes((p) => p !== whole);
  const grip = app.page.getByRole('slider', { name: 'Middle of mask shape 1' });
  const box = (await grip.boundingBox())!;
  await app.page.mouse.move(box.x + 5, box.y + 5);
  await app.page.mouse.down();
  await app.page.mouse.move(box.x - 120, box.y + 5, { steps: 4 });
  await app.page.mouse.up();
  await becomes((p) => p !== masked);
  const pad = app.page.getByRole('application', { name: /^Mask/ });
  const at = (await pad.boundingBox())!;
  const corners = [
    [0.6, 0.2],
    [0.9, 0.2],
    [0.9, 0.6],
    [0.6, 0.6],
  ] as const;
  const [first, ...others] = corners.map(
    ([u, v]) => [at.x + u * at.width, at.y + v * at.height] as const,
  );
  await app.page.mouse.move(...first!);
  await app.page.mouse.down();
  for (const corner of others) await app.page.mouse.move(...corner, { steps: 6 });
  await app.page.mouse.up();
  await sheet()
    .getByText(/Polygon of \d+/)
    .waitFor();
  // A corner goes by itself; Delete takes it out.
  const shaped = await shot();
  const corner = app.page.getByRole('slider', { name: 'Corner 1 of mask shape 2' });
  const count = await app.page.getByRole('slider', { name: /^Corner/ }).count();
  await corner.press('Shift+ArrowLeft');
  await becomes((p) => p !== shaped);
  await corner.press('Delete');
  await sheet()
    .getByText(`Polygon of ${String(count - 1)}`)
    .waitFor();
  await sheet().getByRole('button', { name: 'Add an outline' }).click();
  const without = await shot();
  await sheet().getByRole('combobox', { name: 'Outline' }).click();
  await app.page.getByRole('option', { name: /^harbour ?mark/i }).click();
  await becomes((p) => p !== without);
  await app.page.getByRole('slider', { name: 'Size and turn of mask shape 3' }).waitFor();
  await app.page.getByRole('button', { name: 'Remove shape 1 of the mask' }).click();
  await sheet().getByText('Ellipse', { exact: true }).waitFor({ state: 'detached' });
});

test('two versions stand side by side at one frame, and a dial is taken over', async () => {
  await openStill();
  const size = sheet().getByRole('textbox', { name: 'Body scale', exact: true });
  await size.fill('3');
  await size.press('Enter');
  await app.page.getByRole('button', { name: 'Compare with another version' }).click();
  await app.page.waitForURL(/\/compare$/);
  const differences = app.page.getByRole('region', { name: 'Differences' });
  await differences.getByText('1 difference').waitFor();
  await differences.getByRole('group', { name: 'Motes, Disc: Body scale' }).waitFor();
  for (const name of ['This version', 'Other version']) {
    const there = app.page.getByRole('img', { name }).and(app.page.locator('[data-frame="60"]'));
    await there.waitFor();
  }
  await app.page.getByRole('button', { name: 'Keep this version' }).click();
  await differences.getByRole('button', { name: 'Take over' }).click();
  await differences.getByText('Nothing differs').waitFor();
  await app.page.getByRole('combobox', { name: 'Version to compare with' }).click();
  await app.page.getByRole('option', { name: 'Version 1' }).click();
  await differences.getByText('1 difference').waitFor();
  await app.page.getByRole('link', { name: 'Small' }).click();
  await app.page.waitForURL(/\/piece\/[^/]+$/);
  expect(await size.inputValue()).toBe('1');
  await app.page.getByRole('button', { name: /^Undo/ }).click();
  expect(await size.inputValue()).toBe('3');
});

test('feedback is right again after scrubbing back', async () => {
  await openStill((p) => {
    p.finish = [
      {
        id: 'feedback',
        name: 'Feedback',
        on: true,
        kind: 'feedback',
        dials: { fade: 0.9, scale: 1.03, share: 1, mask: [] },
      },
    ];
    p.frame.length = 60;
  });
  const time = app.page.getByRole('slider', { name: 'Time' });
  const arrived = (frame: number): Promise<void> =>
    pictureTells(
      app.page,
      (d) => d.frame === String(frame) && d.settling === '0' && d.exact === 'true',
    );
  await time.press('Home');
  await arrived(0);
  const shots: string[] = [];
  for (const frame of [10, 20]) {
    await time.press('Shift+ArrowRight');
    await arrived(frame);
    shots.push(await shot());
  }
  expect(shots[1]).not.toBe(shots[0]);
  await time.press('Shift+ArrowLeft');
  await arrived(10);
  expect(await shot()).toBe(shots[0]);
});

test('a card of the list moves while the pointer is on it', async () => {
  await app.page.emulateMedia({ reducedMotion: 'no-preference' });
  await app.page.goto(app.url);
  const card = app.page.getByRole('link', { name: 'Open Signal Flags' });
  await card.hover();
  await app.page.locator('[data-testid=moving-thumb][data-frame]').waitFor();
  await app.page.getByRole('heading', { name: 'Vast Swarm' }).hover();
  await app.page.getByTestId('moving-thumb').waitFor({ state: 'detached' });
});
