import '@vast-swarm/core/content';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { openApp } from './openApp';
import { openSmall } from './picture';

/** The bench of a signal and the timing strip, as an artist uses them: by pointer and by keys. */

const app = openApp();
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const select = (part: string) => lineUp().getByRole('button', { name: part, exact: true }).click();
const slider = (name: string) => app.page.getByRole('slider', { name, exact: true });
const typed = (name: string) =>
  app.page.getByRole('group', { name, exact: true }).getByRole('textbox').first().inputValue();
const amount = async (name: string): Promise<number> =>
  Number((await typed(name)).replace(/\s/g, ''));

/** The fog signal, with a level that a strike watches; the strike drives a size and a wind. */
function heardPiece(p: Piece): void {
  Object.assign(p.frame, { length: 240 });
  p.stock.push({ id: 'fog', name: 'Fog', type: 'sound', source: { made: 'fogSignal' } });
  p.sounds = [makePart('sounds', 'played', [])];
  p.sounds[0]!.dials.sound = 'fog';
  const level = makePart('signals', 'level', []);
  Object.assign(level.dials, { sound: 'sound', low: 30, high: 90, gain: 12 });
  p.sounds[0]!.id = 'sound';
  const strike = makePart('signals', 'strike', [level]);
  Object.assign(strike.dials, { signal: level.id, threshold: 0.4, least: 0.3 });
  p.signals = [level, strike];
  const feed = { feed: 'signal' as const, signal: strike.id };
  p.swarms[0]!.dials.size = { ...feed, from: 0.01, to: 0.06 };
  const wind = makePart('forces', 'wind', []);
  wind.dials.speed = { ...feed, from: 0, to: 2 };
  p.forces = [wind];
}

async function drag(name: string, dx: number, dy: number): Promise<void> {
  const { page } = app;
  const box = (await slider(name).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 5 });
  await page.mouse.up();
}

test('cuts, threshold and envelope are dragged where they are seen; the chain is a click away', async () => {
  const { page } = app;
  await openSmall(page, app.url, heardPiece);
  await page.getByRole('button', { name: 'Pause' }).click();
  await select('Level');
  // What it hears has a shape, now.
  await page.waitForFunction(() => {
    const shape = document.querySelector('[aria-label="How loud, by frequency"] path');
    return (shape?.getAttribute('d')?.match(/L/g)?.length ?? 0) > 60;
  });
  await slider('Cut above').press('Shift+ArrowRight');
  expect(await amount('Up to')).toBe(180);
  await drag('Cut below', -40, 0);
  expect(await amount('From')).toBeLessThan(25);
  await page.getByRole('button', { name: 'Undo' }).click();
  expect(await amount('From')).toBe(30);

  const chain = page.getByRole('navigation', { name: 'Chain' });
  await chain.getByRole('button', { name: 'Strike' }).click();
  const fired = page.locator('[data-fired]');
  await fired.first().waitFor({ state: 'attached' });
  const before = await fired.count();
  // Higher than anything that is heard, it never fires.
  await drag('Threshold over what goes in', 0, -200);
  await fired.first().waitFor({ state: 'detached' });
  expect(await amount('Threshold')).toBeGreaterThan(0.8);
  await page.getByRole('button', { name: 'Undo' }).click();
  await fired.nth(before - 1).waitFor({ state: 'attached' });

  const decay = await amount('Decay');
  await slider('Decay and sustain').press('Shift+ArrowRight');
  expect(await amount('Decay')).toBeGreaterThan(decay);
  await slider('Decay and sustain').press('Shift+ArrowUp');
  expect(await amount('Sustain')).toBeGreaterThan(0.2);
  await drag('Release', 60, 0);
  expect(await amount('Release')).toBeGreaterThan(0.01);

  // All that it feeds follows the level instead, in one step.
  await page.getByText('These 2 dials now follow').waitFor();
  await page.getByRole('combobox', { name: 'What they follow' }).click();
  await page.getByRole('option', { name: 'Level' }).click();
  await page.getByText('It feeds nothing yet.').waitFor();
  await page.getByRole('button', { name: 'Undo: Follow Level' }).click();
  await page.getByText('These 2 dials now follow').waitFor();
  await chain.getByRole('button', { name: 'Wind' }).click();
  await page.getByRole('heading', { name: 'Wind' }).waitFor();
});

test('a tempo is found and shown on the strip, and what is dragged snaps to its beats', async () => {
  const { page } = app;
  await openSmall(page, app.url, heardPiece);
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Beat' }).first().click();
  await page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Find it in' }).click();
  await page.getByText('100.0 a minute').waitFor();
  // Eight seconds at a hundred a minute.
  const beats = page.locator('[data-beat]');
  expect(await beats.count()).toBeGreaterThanOrEqual(13);
  expect(await beats.count()).toBeLessThanOrEqual(14);

  // Down to single frames, and back.
  const nearer = page.getByRole('button', { name: 'See less of the piece' });
  for (let i = 0; i < 6; i++) await nearer.click();
  expect(await beats.count()).toBeLessThanOrEqual(1);
  await page.getByRole('button', { name: 'See the whole piece' }).click();

  const frame = async (): Promise<number> =>
    Number(await slider('Sound begins at').getAttribute('aria-valuenow'));
  const strip = (await slider('Time').boundingBox())!;
  const beat = (18 / 239) * strip.width;
  const wave = (await slider('Sound begins at').boundingBox())!;
  await page.mouse.move(wave.x + 200, wave.y + 20);
  await page.mouse.down();
  await page.mouse.move(wave.x + 200 + beat + 4, wave.y + 20, { steps: 5 });
  await page.mouse.up();
  expect(await frame()).toBe(18);
  // With Alt it goes where the pointer is.
  await page.keyboard.down('Alt');
  await page.mouse.move(wave.x + 200, wave.y + 20);
  await page.mouse.down();
  await page.mouse.move(wave.x + 204, wave.y + 20, { steps: 2 });
  await page.mouse.up();
  await page.keyboard.up('Alt');
  expect(await frame()).toBe(19);

  // Its ends trim it, and what is heard stays where it is.
  await slider('Sound, trimmed at its beginning').press('Shift+ArrowRight');
  expect(await frame()).toBe(29);
  await select('Sound');
  expect(await amount('From')).toBeCloseTo(10 / 30, 3);
  await slider('Sound, fade in').press('Shift+ArrowRight');
  expect(await amount('Fade in')).toBeCloseTo(10 / 30, 3);

  // Tapped along: the third tap says it.
  await select('Beat');
  const tap = page.getByRole('button', { name: 'Tap' });
  for (let i = 0; i < 3; i++) await tap.press('Enter');
  await page.getByText(/a minute, by 3 taps/).waitFor();
});

test('the loudness is kept for the next time, and silence is not', async () => {
  const { page } = app;
  await openSmall(page, app.url, heardPiece);
  await slider('Loudness').press('Home');
  await slider('Loudness').press('ArrowRight');
  await page.getByRole('button', { name: 'Silence' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'Silence' }).waitFor();
  await slider('Loudness').and(page.locator('[aria-valuenow="0.01"]')).waitFor();
});
