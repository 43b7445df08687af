import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

const app = openApp();
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const dial = (name: string) => app.page.getByRole('group', { name, exact: true });

/** A WAV file of one channel, 16 bits, 8,000 samples a second: half a second of a tone, half a second of none. */
function beating(seconds: number): Buffer {
  const samples = Int16Array.from({ length: 8000 * seconds }, (_, i) =>
    i % 8000 < 4000 ? Math.round(20_000 * Math.sin((2 * Math.PI * 440 * i) / 8000)) : 0,
  );
  const bytes = 2 * samples.length;
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + bytes, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(8000, 24);
  head.writeUInt32LE(16_000, 28);
  head.writeUInt16LE(2, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(bytes, 40);
  return Buffer.concat([head, Buffer.from(samples.buffer)]);
}

async function add(button: string, kind: string): Promise<void> {
  await app.page.getByRole('button', { name: button }).click();
  await app.page.getByRole('menuitem', { name: kind }).first().click();
  await app.page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
}

/** Waits until a curve goes up and down so often, or is flat. */
async function curveTurns(name: string, least: number, most: number): Promise<void> {
  const curve = await app.page.getByRole('img', { name: `${name} over time` }).elementHandle();
  await app.page.waitForFunction(
    ([svg, low, high]) => {
      const d = svg.querySelector('path')!.getAttribute('d')!;
      const ys = [...d.matchAll(/[ML]\S+ (\S+?)(?=[ML]|$)/g)].map((m) => Number(m[1]));
      const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
      const over = ys.map((y) => y < (top + bottom) / 2);
      const rises = bottom - top < 1 ? 0 : over.filter((o, i) => o && i > 0 && !over[i - 1]).length;
      return rises >= low && rises <= high;
    },
    [curve, least, most] as const,
  );
}

interface Started {
  started: number[];
}

test('a sound is taken from a file, heard, and drives a dial; all of it is there after a reload', async () => {
  const { page } = app;
  await page.addInitScript(() => {
    const seen: number[] = [];
    (window as unknown as Started).started = seen;
    type Start = (this: AudioBufferSourceNode, when?: number, offset?: number) => void;
    const start: Start = Reflect.get(AudioBufferSourceNode.prototype, 'start');
    AudioBufferSourceNode.prototype.start = function (when?: number, offset?: number) {
      seen.push(offset ?? 0);
      start.call(this, when, offset);
    };
  });
  await openSmall(page, app.url);
  await add('Add a sound', 'Sound');
  await page
    .getByLabel('File for Sound')
    .setInputFiles({ name: 'beating.wav', mimeType: 'audio/wav', buffer: beating(3) });
  await page.getByRole('combobox', { name: 'Sound' }).getByText('beating').waitFor();
  // It is begun where the picture is.
  await page.waitForFunction(() => (window as unknown as Started).started.length > 0);
  const started = await page.evaluate(() => (window as unknown as Started).started);
  expect(Math.min(...started)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...started)).toBeLessThan(3);

  // Its waveform is moved along the strip, by keys and by hand; one step undoes it.
  const wave = page.getByRole('slider', { name: 'Sound begins at' });
  await wave.press('ArrowRight');
  await wave.and(page.locator('[aria-valuenow="1"]')).waitFor();
  await wave.press('ArrowLeft');
  const box = (await wave.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 20 + box.width / 10, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await wave.and(page.locator('[aria-valuenow="9"]')).waitFor();
  await page.getByRole('button', { name: 'Undo' }).click();
  await wave.and(page.locator('[aria-valuenow="0"]')).waitFor();

  await add('Add a signal', 'Level');
  await page.getByRole('combobox', { name: 'Hears' }).getByText('Sound').waitFor();
  await curveTurns('Level', 2, 3);

  await lineUp().getByRole('button', { name: 'Motes', exact: true }).click();
  await dial('Size')
    .getByRole('button', { name: /what fills it/ })
    .click();
  await page.getByRole('menuitem', { name: 'Signal: Level' }).click();
  await dial('Size').getByRole('img', { name: 'Size over time' }).waitFor();
  await page.getByRole('button', { name: 'Silence' }).click();
  await page.getByRole('button', { name: 'Let it be heard' }).waitFor();

  await page.reload();
  await pictureTells(page, (d) => Number(d.alive) > 0);
  await lineUp().getByRole('button', { name: 'Level', exact: true }).click();
  await curveTurns('Level', 2, 3);

  // Without its sound it rests.
  await page.getByRole('button', { name: 'More for Sound' }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await curveTurns('Level', 0, 0);
});

test('a strike is made from a level, and never from itself', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await add('Add a signal', 'Wave');
  await add('Add a signal', 'Strike');
  await page.getByRole('combobox', { name: 'Watches' }).getByText('Wave').waitFor();
  await add('Add a signal', 'Formula');
  const field = page.getByRole('textbox', { name: 'Formula, formula' });
  await field.fill('2 * signal(wav)');
  await dial('Formula').getByRole('alert').getByText("there is no signal 'wav'").waitFor();
  await field.fill('2 * signal(strike)');
  await field.press('Enter');
  await dial('Formula').getByRole('alert').waitFor({ state: 'detached' });
  await lineUp().getByRole('button', { name: 'Strike', exact: true }).click();
  await page.getByRole('combobox', { name: 'Watches' }).click();
  // What hangs on the strike is not offered to it.
  await page.getByRole('option', { name: 'Wave', exact: true }).waitFor();
  expect(await page.getByRole('option', { name: 'Formula' }).count()).toBe(0);
});
