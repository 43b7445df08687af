import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

/** Somebody's joints in a piece: chosen from what is made by code, and from a file; where they fail, it is told. */

const app = openApp();
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const part = (name: string) => lineUp().getByRole('button', { name, exact: true });

async function choose(label: string, option: string | RegExp): Promise<void> {
  await app.page.getByRole('combobox', { name: label, exact: true }).click();
  await app.page.getByRole('option', { name: option, exact: true }).click();
}

/** An arm that is raised within a second. */
function arm(frames = 31): { name: string; mimeType: string; buffer: Buffer } {
  const lines = [
    'HIERARCHY',
    'ROOT shoulder',
    '{',
    'OFFSET 0 0 0',
    'CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation',
    'JOINT wrist',
    '{',
    'OFFSET 60 0 0',
    'CHANNELS 3 Zrotation Xrotation Yrotation',
    'End Site',
    '{',
    'OFFSET 20 0 0',
    '}',
    '}',
    '}',
    'MOTION',
    'Frames: 31',
    'Frame Time: 0.0333333',
    ...Array.from({ length: frames }, (_, i) => `0 100 0 ${String(3 * i)} 0 0 0 0 0`),
  ];
  return { name: 'arm.bvh', mimeType: 'text/plain', buffer: Buffer.from(lines.join('\n')) };
}

test('particles are born of two who are made by code: of all their joints, and of chosen ones', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Joints');
  await pictureTells(page, (d) => d.alive === '0');
  await choose('Performer', 'pierDancers (played anew)');
  // They stand in the line-up, and their joints can be chosen by name.
  await part('pierDancers').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);
  const which = page.getByRole('combobox', { name: 'Which joints' });
  await which.click();
  await page.getByRole('option', { name: 'Ada left hand', exact: true }).click();
  await page.getByRole('button', { name: 'Ada left hand' }).waitFor();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Ada left hand' }).waitFor({ state: 'detached' });

  // Their figure is drawn over the picture while their sheet is open.
  await part('pierDancers').click();
  await page.getByLabel('Figure of pierDancers').waitFor();
  await page.getByRole('textbox', { name: 'Height' }).waitFor();

  // A bone by itself can be thicker.
  await choose('Add a bone', 'Ada head');
  const radius = page.getByRole('group', { name: 'Bones' }).getByRole('textbox');
  await radius.fill('0.4');
  await radius.press('Enter');
  await page.getByRole('button', { name: 'Undo: Bones' }).click();
  await page.waitForFunction(
    (el) => Number((el as HTMLInputElement).value) < 0.2,
    await radius.elementHandle(),
  );
  await page.getByRole('button', { name: 'Take Ada head out' }).click();
  await radius.waitFor({ state: 'detached' });
  // Switched off, nothing is born of them.
  await page.getByRole('button', { name: 'More for pierDancers' }).click();
  await page.getByRole('menuitem', { name: 'Switch off' }).click();
  await page.getByLabel('Figure of pierDancers').waitFor({ state: 'detached' });
  await part('Motes').click();
  await page.getByRole('tab', { name: 'Doctor' }).click();
  await page.getByText('It is born of pierDancers, who is switched off.').waitFor();
});

test('a motion comes from a file, drives a dial by its wrist, and is there after a reload', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Joints');
  await page.getByLabel('File for Performer').setInputFiles(arm());
  await part('arm').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);

  await lineUp().getByRole('button', { name: 'Add a signal' }).click();
  await page.getByRole('menuitem', { name: 'Joint' }).first().click();
  await page.locator('.MuiPopover-root').waitFor({ state: 'detached' });
  // It follows the one performer there is.
  await page.getByRole('combobox', { name: 'Performer' }).getByText('arm').waitFor();
  await page.getByRole('combobox', { name: 'Joint', exact: true }).click();
  await page.getByRole('option', { name: 'wrist end' }).click();
  await page.getByRole('button', { name: 'wrist end' }).waitFor();

  await page.reload();
  await part('arm').click();
  await page.getByLabel('Figure of arm').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);
});

test('a motion that is cut off is refused with what is missing, and nothing changes', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Joints');
  await page.getByLabel('File for Performer').setInputFiles(arm(12));
  await page
    .getByText(/arm\.bvh: line 30: there are 12 of 31 frames; the file is cut off/)
    .waitFor();
  await page.getByRole('combobox', { name: 'Performer' }).getByText('None').waitFor();
});

test('a motion that is dropped on the picture has a swarm born of it', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  const { name, buffer } = arm();
  const data = await page.evaluateHandle(
    ([title, text]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([text!], title!));
      return transfer;
    },
    [name, buffer.toString()],
  );
  await page.getByTestId('picture').dispatchEvent('drop', { dataTransfer: data });
  await part('arm').first().waitFor();
  await page.getByRole('combobox', { name: 'Performer' }).getByText('arm').waitFor();
  await pictureTells(page, (d) => Number(d.alive) > 100);
});

test('a motion is moved and trimmed on the timing strip', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await choose('Emitter kind', 'Joints');
  await choose('Performer', 'pierDancers (played anew)');
  const row = page.getByRole('slider', { name: 'pierDancers begins at' });
  await row.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowRight');
  const begins = (): Promise<string | null> => row.getAttribute('aria-valuenow');
  expect(await begins()).toBe('11');
  await page.getByRole('button', { name: 'Undo: Begins at' }).click();
  await page.waitForFunction(
    () => document.querySelector('[aria-label="pierDancers begins at"]')?.ariaValueNow === '0',
  );

  const end = page.getByRole('slider', { name: 'pierDancers, trimmed at its end' });
  await end.press('Shift+ArrowLeft');
  await page.getByRole('button', { name: 'Undo: Trim' }).waitFor();
  await part('pierDancers').click();
  const to = page.getByRole('textbox', { name: 'To', exact: true });
  await to.waitFor();
  expect(Number(await to.inputValue())).toBeGreaterThan(1);
});
