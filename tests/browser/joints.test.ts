import '@vast-swarm/core/content';
import { spawn, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { unzipSync } from 'fflate';
import { made, placesAt, readStock, type Motion } from '@vast-swarm/core/stock';
import { exported, recordsAgain } from './liveInput';
import { CLI } from '../support/cli';
import { openApp } from './openApp';
import { lasting, openSmall, pictureTells } from './picture';

/** Live performers: joints that come in drive a piece, are recorded as a take, and go out as files. */

const app = openApp();
const button = (name: string) => app.page.getByRole('button', { name, exact: true });
const motion = made('pierDancers') as Motion;

let dance: ChildProcess | null = null;
afterEach(() => {
  dance?.kill();
  dance = null;
});

/** Two made-up dancers who send their joints to the server of the page. */
function dancing(): void {
  const command = [CLI, 'stand-in', 'performers', '--port', String(app.joints)];
  dance = spawn(process.execPath, command, { stdio: 'ignore' });
}

async function choose(label: string, option: string): Promise<void> {
  await app.page.getByRole('combobox', { name: label, exact: true }).click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
}

/** A piece whose swarm is born of live performers, whose sheet is open. */
async function openLive(): Promise<void> {
  const { page } = app;
  await openSmall(page, app.url, lasting);
  await button('Add a performer').click();
  await page.getByRole('menuitem', { name: 'Live joints' }).first().click();
  await page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  const lineUp = page.getByRole('navigation', { name: 'Line-up' });
  await lineUp.getByRole('button', { name: 'Motes', exact: true }).click();
  await choose('Emitter kind', 'Joints');
  await choose('Performer', 'Live joints');
  await page.getByRole('tab', { name: 'Doctor' }).click();
  await page.getByText('It is born of Live joints, who has no motion').waitFor();
  await page.getByRole('tab', { name: 'Timing' }).click();
  await lineUp.getByRole('button', { name: 'Live joints', exact: true }).click();
}

/** Looks at the dance a second. */
const LOOKS = 60;

/**
 * How far somebody is at the most, in metres, from the straight way between two moments of the dance that are a second
 * apart or less: so they go between two of their poses, and a busy machine sends few, at times none for a while.
 */
function farFromDance(take: Motion): number {
  const [ada] = motion.performers;
  const own = take.performers.find((p) => p.name === 'Ada')!;
  const count = 3 * own.joints.length;
  const dance = Array.from({ length: 16 * LOOKS }, (_, k) => {
    const places = new Float32Array(count);
    placesAt(motion, ada!, k / LOOKS, places);
    return places;
  });
  const off = (pose: Float32Array, a: Float32Array, b: Float32Array): number => {
    let [along, length, most] = [0, 0, 0];
    for (let i = 0; i < count; i++) {
      along += (pose[i]! - a[i]!) * (b[i]! - a[i]!);
      length += (b[i]! - a[i]!) ** 2;
    }
    const part = length > 0 ? Math.min(1, Math.max(0, along / length)) : 0;
    for (let i = 0; i < count; i++) {
      most = Math.max(most, Math.abs(pose[i]! - a[i]! - part * (b[i]! - a[i]!)));
    }
    return most;
  };
  let worst = 0;
  for (let k = 0; k < take.times.length; k += 5) {
    const pose = own.places.subarray(k * count, (k + 1) * count);
    let least = Infinity;
    dance.forEach((a, i) => {
      for (let on = 1; on <= LOOKS; on++) {
        least = Math.min(least, off(pose, a, dance[(i + on) % dance.length]!));
      }
    });
    worst = Math.max(worst, least);
  }
  return worst;
}

test('dancers who send their joints drive a piece; the take is how they danced, and goes out as BVH and CSV', async () => {
  const { page } = app;
  await openLive();
  await button('Open it').click();
  await page.getByText('Nobody is there yet.').waitFor();
  await page.getByText(`127.0.0.1:${String(app.joints)}`).waitFor();
  dancing();
  const ada = page.getByText(/^Ada: 18 joints, \d+ poses a second$/);
  await ada.waitFor();
  await page.getByText(/^Bo: 18 joints/).waitFor();
  await page.getByRole('img', { name: 'How they move' }).waitFor();

  await button('Pause').click();
  await page.keyboard.press('Home');
  await pictureTells(page, (d) => d.frame === '0');
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.frame) >= 50 && Number(d.alive) > 100);
  await button('Stop').click();
  await button('Record again').waitFor();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live joints, take').waitFor();
  await page.getByLabel('Figure of Live joints').waitFor();

  const { piece, files } = await exported<Motion>(page);
  const [take] = [...files.values()];
  expect(take!.performers.map((p) => p.name)).toEqual(['Ada', 'Bo']);
  expect(take!.performers[0]!.joints).toEqual(motion.performers[0]!.joints);
  expect(take!.times.length).toBeGreaterThanOrEqual(50);
  expect(take!.times[1]).toBe(1 / piece.frame.rate);
  expect(farFromDance(take!)).toBeLessThan(0.05);

  // After a reload it drives the piece with nobody there.
  dance!.kill();
  await page.reload();
  await page.getByTestId('picture').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);

  await page.goto(`${app.url}/stock`);
  const card = page.getByRole('listitem', { name: 'live-joints-take' });
  await card.getByText('2 performers, 36 joints').waitFor();
  const saved = async (form: string): Promise<[string, Uint8Array]> => {
    const download = page.waitForEvent('download');
    await card.getByRole('button', { name: `Save live-joints-take as ${form}` }).click();
    const file = await download;
    return [file.suggestedFilename(), await readFile(await file.path())];
  };
  const [name, csv] = await saved('CSV');
  expect((await readStock(name, csv)) as Motion).toEqual(take);
  const [zip, bytes] = await saved('BVH');
  expect(zip).toBe('live-joints-take.zip');
  const entries = Object.entries(unzipSync(bytes));
  expect(entries.map(([n]) => n)).toEqual(['live-joints-take Ada.bvh', 'live-joints-take Bo.bvh']);
  const bvh = (await readStock(...entries[0]!)) as Motion;
  expect(bvh.times).toHaveLength(take!.times.length);
});

test('with nobody there it says so; a stand-in of the page itself can be recorded, and again', async () => {
  const { page } = app;
  await openLive();
  await button('Record').click();
  await page.getByRole('alert').getByText('Nobody is there').waitFor();
  await page.getByRole('combobox', { name: 'Device' }).click();
  await page.getByRole('option', { name: 'Stand-in: Two dancers' }).click();
  await page.getByText(/^Ada: 18 joints/).waitFor();
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 50);
  // To go elsewhere in time ends it: a take has no gaps.
  await page.keyboard.press('Home');
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live joints, take').waitFor();
  await recordsAgain(page);
});

test('who is live takes over a whole piece from a motion, and dances in it', async () => {
  const { page } = app;
  await page.goto(app.url);
  await page.getByRole('link', { name: /Pier Dancers/ }).click();
  await page.getByTestId('picture').waitFor();
  await button('Add a performer').click();
  await page.getByRole('menuitem', { name: 'Live joints' }).first().click();
  await page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  await choose('Take over from', 'Dancers');
  await page.getByRole('combobox', { name: 'Take over from' }).waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Undo: Take over' }).waitFor();
  await page.getByRole('combobox', { name: 'Device' }).click();
  await page.getByRole('option', { name: 'Stand-in: Two dancers' }).click();
  await page.getByTestId('picture').waitFor();
  await page.keyboard.press('Home');
  await button('Record').click();
  await page.getByText('It drives the piece, and is recorded.').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 1000);
  await button('Stop').click();
  await page.getByRole('combobox', { name: 'Take' }).getByText('Live joints, take').waitFor();
});
