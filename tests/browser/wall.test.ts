import { spawn, type ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import type { Browser, Page } from 'playwright-core';
import { CLI, startServer } from '../support/startServer';
import { launch } from './support';

/** A show on the stand-in wall, from the output to the panels on its page. */

let browser: Browser;
const children: ChildProcess[] = [];
let app = '';
let wall = '';

/** A UDP port that nobody has. */
async function freePort(): Promise<number> {
  const socket = createSocket('udp4');
  await new Promise<void>((done) => {
    socket.bind(0, '127.0.0.1', done);
  });
  const { port } = socket.address();
  socket.close();
  return port;
}

async function standIn(port: number): Promise<string> {
  const args = ['stand-in', 'wall', '--port', String(port), '--page', '0'];
  const child = spawn(process.execPath, [CLI, ...args], { stdio: ['ignore', 'pipe', 'inherit'] });
  children.push(child);
  let told = '';
  return new Promise((done) => {
    child.stdout.on('data', (data: Buffer) => {
      told += data.toString();
      const match = /(http:\S+\/wall)/.exec(told);
      if (match) done(match[1]!);
    });
  });
}

beforeAll(async () => {
  const port = await freePort();
  const [server, page, opened] = await Promise.all([
    startServer(['--wall', `127.0.0.1:${String(port)}`]),
    standIn(port),
    launch(),
  ]);
  children.push(server.child);
  [app, wall, browser] = [server.url, page, opened];
}, 45_000);
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
}, 90_000);
