import type { ChildProcess } from 'node:child_process';
import type { Browser, Page } from 'playwright-core';
import { startServer, startWall } from '../support/startServer';
import { launch } from './support';

/** A show on the stand-in wall, from the output to the panels on its page. */

let browser: Browser;
const children: ChildProcess[] = [];
let app = '';
let wall = '';

beforeAll(async () => {
  const panels = await startWall();
  const where = `127.0.0.1:${String(panels.port)}`;
  const [server, opened] = await Promise.all([startServer(['--wall', where]), launch()]);
  children.push(panels.child, server.child);
  [app, wall, browser] = [server.url, panels.url, opened];
});
afterAll(async () => {
  for (const child of children) child.kill();
  await browser.close();
});

/** Waits until the light of all that is seen of the panels is as wanted: the mean of all channels, 0 to 255. */
async function light(page: Page, least: number, most: number): Promise<void> {
  await page.waitForFunction(
    ([low, high]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=wall]')!;
      const { width, height } = canvas;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
      let sum = 0;
      for (let i = 0; i < data.length; i += 4) sum += data[i]! + data[i + 1]! + data[i + 2]!;
      const mean = (sum * 4) / 3 / data.length;
      return mean >= low! && mean <= high!;
    },
    [least, most],
    { polling: 200 },
  );
}

test('the demo show is seen on the wall, and goes dark with the output; the map is moved and undone', async () => {
  const desk = await (
    await browser.newContext({ viewport: { width: 1280, height: 800 } })
  ).newPage();
  await desk.goto(app);
  await desk.getByRole('link', { name: 'Open Saltglass Quay' }).click();
  const panels = await desk.context().newPage();
  await panels.goto(wall);
  await panels.getByText('nothing has been heard yet').waitFor();
  const [output] = await Promise.all([
    desk.waitForEvent('popup'),
    desk.getByRole('button', { name: 'Open the output' }).click(),
  ]);
  await desk.getByRole('button', { name: /^Begin: / }).click();
  await desk.getByRole('heading', { name: 'Foghorn' }).waitFor();
  await desk.getByRole('button', { name: 'Night' }).click();
  await desk.getByRole('menuitem', { name: 'Show it on the wall' }).click();
  await desk.getByText(/^wall \d+ W$/).waitFor();
  await panels.getByText(/ universes heard/).waitFor();
  await light(panels, 12, 255);
  await desk.keyboard.press('Backspace');
  await output.getByTestId('blackout').waitFor();
  await light(panels, 0, 4);
  await desk.keyboard.press('Backspace');
  await desk.getByRole('button', { name: 'Arrange', exact: true }).click();
  const front = desk.getByRole('button', { name: /^Front, 4 m across/ });
  await front.focus();
  await desk.keyboard.press('Shift+ArrowRight');
  await desk.getByRole('button', { name: /^Front, 4.1 m across/ }).waitFor();
  await desk.keyboard.press('Control+z');
  await front.waitFor();
  await desk
    .getByLabel('Pixel map')
    .setInputFiles({ name: 'no.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await desk.getByText("This is not a wall: its 'format' should be 'vast-swarm wall'.").waitFor();
});
