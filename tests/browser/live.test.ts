import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { wavBytes } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import type { Sound } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { frameHash } from '../support/frameHash';
import { exported, recordsAgain, refusesFirst, unplug } from './liveInput';
import { openApp } from './openApp';
import { lasting, openSmall, pictureTells } from './picture';
import { call, startHarness, type Harness } from './support';

/** Loud and quiet in turn, half a second each. */
const LOUD = 0.5;
const QUIET = 0.1;
const folder = mkdtempSync(join(tmpdir(), 'heard-'));
const file = join(folder, 'heard.wav');
const heard: Sound = {
  type: 'sound',
  rate: 48_000,
  channels: [
    Int16Array.from({ length: 48_000 * 4 }, (_, i) =>
      Math.round(
        32768 * ((i / 24_000) & 1 ? LOUD : QUIET) * Math.sin((2 * Math.PI * 1000 * i) / 48_000),
      ),
    ),
  ],
};
writeFileSync(file, wavBytes(heard));

const app = openApp({ hears: file });
let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => {
  harness.stop();
  rmSync(folder, { recursive: true });
});

const button = (name: string) => app.page.getByRole('button', { name, exact: true });

async function add(menu: string, kind: string): Promise<void> {
  await button(menu).click();
  await app.page.getByRole('menuitem', { name: kind }).first().click();
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

/** What a level is over the frames of its take, from the quietest to the loudest. */
function levels({ piece, files }: { piece: Piece; files: Map<string, Sound> }): number[] {
  const scene = new Scene(piece, files);
  const { start, take } = piece.sounds[0]!.dials as { start: number; take: string };
  const entry = piece.stock.find((s) => s.id === take)!;
  const { rate, channels } = files.get((entry.source as { hash: string }).hash)!;
  const { rate: frames } = piece.frame;
  const count = Math.floor((channels[0]!.length / rate) * frames);
  // What the window begins with is not there yet.
  return Array.from({ length: count - 6 }, (_, i) =>
    scene.signal('level', (start + i + 6) / frames),
  ).sort((a, b) => a - b);
}

test('a microphone drives a piece, and its take is heard as the file was, to the same pixels everywhere', async () => {
  const { page } = app;
  await openSmall(page, app.url, lasting);
  await page.getByRole('combobox', { name: 'Preview size' }).click();
  await page.getByRole('option', { name: '216 lines' }).click();
  await add('Add a sound', 'Live input');
  await page.getByText('Nothing was recorded yet.').waitFor();
  await add('Add a signal', 'Level');
  await page.getByRole('group', { name: 'Fall' }).getByRole('textbox').fill('0');
  await page.getByRole('group', { name: 'Fall' }).getByRole('textbox').press('Enter');
  await page
    .getByRole('navigation', { name: 'Line-up' })
    .getByRole('button', { name: 'Motes', exact: true })
    .click();
  await page
    .getByRole('group', { name: 'Size', exact: true })
    .getByRole('button', { name: /what fills it/ })
    .click();
  await page.getByRole('menuitem', { name: 'Signal: Level' }).click();
  await page
    .getByRole('navigation', { name: 'Line-up' })
    .getByRole('button', { name: 'Live input', exact: true })
    .click();

  // Its level is seen before anything is recorded.
  await button('Open it').click();
  const meter = page.getByRole('meter', { name: 'Level of the input' });
  await page.waitForFunction(
    (el) => Number(el.getAttribute('aria-valuenow')) > -12,
    await meter.elementHandle(),
  );
  await button('Pause').click();
  await page.keyboard.press('Home');
  await pictureTells(page, (d) => d.frame === '0');
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.frame) >= 50);
  await button('Stop').click();
  await button('Record again').waitFor();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live input, take').waitFor();

  const first = await exported<Sound>(page);
  const found = levels(first);
  const at = (part: number): number => found[Math.floor(part * found.length)]!;
  expect(at(0.2) / (QUIET * Math.SQRT1_2)).toBeCloseTo(1, 1);
  expect(Math.abs(at(0.2) / (QUIET * Math.SQRT1_2) - 1)).toBeLessThan(0.05);
  expect(Math.abs(at(0.8) / (LOUD * Math.SQRT1_2) - 1)).toBeLessThan(0.05);

  // The same frame here and there.
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(first.piece, { files: first.files }));
  while (engine.frame < 40) engine.step();
  const here = frameHash(engine.draw(128, 72).pixels);
  engine.close();
  const other = await page.context().newPage();
  await other.goto(harness.url);
  const files = [...first.files].map(([hash, { rate, channels }]) => ({
    hash,
    rate,
    samples: [...channels[0]!],
  }));
  expect(await call(other, 'cpuHashHeard', first.piece, files, 40, 128, 72)).toBe(here);
  await other.close();

  // Another take counts from then on; the first one is there still.
  await recordsAgain(page);
});

test('without permission, and unplugged, it says so and keeps what was recorded', async () => {
  const { page } = app;
  await refusesFirst(page);
  await openSmall(page, app.url, lasting);
  await add('Add a sound', 'Live input');
  await button('Record').click();
  await page.getByRole('alert').getByText('The browser does not let the page hear').waitFor();
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  const frame = (): Promise<number> =>
    page.getByTestId('picture').evaluate((el) => Number(el.dataset.frame));
  const begun = await frame();
  await page.waitForFunction(
    (from) =>
      Number(document.querySelector<HTMLElement>('[data-testid=picture]')!.dataset.frame) >
      from + 3,
    begun,
  );
  await unplug(page);
  await page.getByRole('alert').getByText('it was unplugged').waitFor();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live input, take').waitFor();
  const { files } = await exported<Sound>(page);
  expect([...files.values()][0]!.channels[0]!.length).toBeGreaterThan(1000);
});
