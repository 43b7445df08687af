import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

/** A medium in a piece: added, stirred by a swarm and by the pointer, ridden, shown elsewhere, explained, removed. */

const app = openApp();
const lineUp = () => app.page.getByRole('navigation', { name: 'Line-up' });
const part = (name: string) => lineUp().getByRole('button', { name, exact: true });

async function add(button: string, kind: string): Promise<void> {
  await lineUp().getByRole('button', { name: button, exact: true }).click();
  await app.page
    .getByRole('menuitem', { name: new RegExp(`^${kind}`) })
    .first()
    .click();
}

test('a medium is stirred by the swarm, ridden, laid over in the finish, and forgotten where it was named', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await add('Add a medium', 'Medium');
  await page.getByText('Stirred by swarms').waitFor();
  await page.getByRole('tab', { name: 'Doctor' }).click();
  const table = page.getByRole('table', { name: 'Medium, cell by cell' });
  await table.getByRole('row', { name: /^[1-9][\d ]* brighter than one step/ }).waitFor();

  // Without tint there is nothing to see: it is told, and mended.
  const tint = page.getByRole('textbox', { name: 'Tint', exact: true });
  await tint.fill('0');
  await tint.press('Enter');
  await page.getByRole('button', { name: 'First frame' }).click();
  await page.getByText('Swarms stir it and give it no light.').waitFor();
  await page.getByRole('button', { name: 'Tint it' }).click();
  await table.getByRole('row', { name: /^[1-9][\d ]* brighter than one step/ }).waitFor();

  // It has a column of its own in the grid, and a force that comes rides on it.
  await add('Add a force', 'Ride');
  await page
    .getByRole('combobox', { name: 'Medium', exact: true })
    .filter({ hasText: 'Medium' })
    .waitFor();
  await page.getByRole('tab', { name: 'Influence' }).click();
  await page.getByRole('textbox', { name: 'Medium feels Curl noise' }).waitFor();
  await add('Add a finish', 'Medium layer');
  await page
    .getByRole('combobox', { name: 'Medium', exact: true })
    .filter({ hasText: 'Medium' })
    .waitFor();

  await page.getByRole('button', { name: 'More for Medium', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await part('Medium layer').click();
  await page
    .getByRole('combobox', { name: 'Medium', exact: true })
    .filter({ hasText: 'None' })
    .waitFor();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page
    .getByRole('combobox', { name: 'Medium', exact: true })
    .filter({ hasText: 'Medium' })
    .waitFor();
});

test('the pointer stirs it while S is held, and what it did is a take', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await add('Add a medium', 'Medium');
  await page.getByRole('button', { name: 'Stir it with the pointer (hold S)' }).click();
  await part('Pointer held').click();
  await page.getByText('Nothing recorded.').waitFor();
  await pictureTells(page, (d) => d.playing === 'true');
  const box = (await page.getByRole('img', { name: 'Picture' }).boundingBox())!;
  const to = (part: number): Promise<void> =>
    page.mouse.move(box.x + box.width * part, box.y + box.height / 2);
  await to(0.2);
  await page.keyboard.down('s');
  // A few frames at each of some places.
  for (const place of [0.3, 0.5, 0.7, 0.8]) {
    await to(place);
    let first: number | null = null;
    await pictureTells(
      page,
      ({ frame }) => Math.abs(Number(frame) - (first ??= Number(frame))) > 2,
    );
  }
  await page.keyboard.up('s');
  await page.getByText(/Recorded from/).waitFor();
  await part('Pointer across').click();
  await page.getByText(/Recorded from/).waitFor();
});
