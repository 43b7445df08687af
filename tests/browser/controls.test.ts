import { createSocket } from 'node:dgram';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makePart, type Part, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { message } from '../../packages/server/test/packets';
import { frameHash } from '../support/frameHash';
import { EVENTS, played } from '../support/played';
import { openApp } from './openApp';
import { exportedPiece, lasting, openSmall, pictureTells } from './picture';
import { call, startHarness } from './support';

const app = openApp();

const button = (name: string) => app.page.getByRole('button', { name, exact: true });
const sheet = () => app.page.getByRole('region', { name: 'Sheet' });
const lineUp = (name: string) =>
  app.page.getByRole('navigation', { name: 'Line-up' }).getByRole('button', { name, exact: true });

async function openControls(): Promise<void> {
  await app.page.getByRole('tab', { name: 'Controls' }).click();
}

/** A control of the rate, and cues for it. */
function withCues(piece: Piece): void {
  const fader: Part = { ...makePart('controls', 'fader', []), id: 'rate', name: 'Rate' };
  fader.dials.moves = [{ place: 'swarms.motes.rate', from: 100, to: 2000 }];
  const cues = ['Up', 'Down'].map((name, i): Part => {
    const part = makePart('cues', 'cue', []);
    const sets = [{ control: 'rate', to: 1 - i }];
    const dials = { ...part.dials, sets, over: 0.5, key: name[0]!.toLowerCase() };
    return { ...part, id: name.toLowerCase(), name, dials };
  });
  piece.controls = [fader];
  piece.cues = cues;
  lasting(piece);
}

test('a dial is put forward, says who holds it, is moved and taken back', async () => {
  const { page } = app;
  await openSmall(page, app.url);
  await button('Pause').click();
  await sheet()
    .getByRole('button', { name: /^Rate: what fills it/ })
    .click();
  await page.getByRole('menuitem', { name: /^Put forward/ }).click();
  // The new control is chosen, and the dial stands in it.
  await sheet().getByRole('group', { name: 'Motes: Rate' }).waitFor();
  await openControls();
  const fader = page.getByRole('slider', { name: 'Motes Rate' });
  await fader.focus();
  await page.keyboard.press('End');
  await button('One change recorded').waitFor();
  const piece = await exportedPiece(page);
  const [control] = piece.controls;
  expect(control!.dials.moves).toEqual([{ place: 'swarms.motes.rate', from: 0, to: 1800 }]);
  expect(piece.played).toMatchObject([{ control: 'motes-rate', to: 1800 }]);
  await lineUp('Motes').click();
  await button('Rate is held by Motes Rate').waitFor();
  await button('Take Rate back').click();
  await sheet().getByRole('textbox', { name: 'Rate', exact: true }).waitFor();
  // One step each: undone, the control holds it again.
  await page.keyboard.press('Control+z');
  await button('Rate is held by Motes Rate').waitFor();
});

test('cues are fired by hand and by key while the piece plays, recorded, dragged to another place, and tried again', async () => {
  const { page } = app;
  await openSmall(page, app.url, withCues);
  await openControls();
  const fader = page.getByRole('slider', { name: 'Rate', exact: true });
  const stands = (value: string): Promise<void> =>
    fader.and(page.locator(`[aria-valuenow="${value}"]`)).waitFor();
  await button('Fire Up').click();
  await stands('1');
  await page.keyboard.press('d');
  await stands('0');
  await button('2 changes recorded').waitFor();
  await button('Pause').click();
  const list = page.getByRole('region', { name: 'Controls' });
  const box = async (name: RegExp) => (await list.getByRole('button', { name }).boundingBox())!;
  const [from, to] = [await box(/^Up/), await box(/^Down/)];
  await page.mouse.move(from.x + 30, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(to.x + 30, to.y + to.height - 4, { steps: 8 });
  await page.mouse.up();
  const piece = await exportedPiece(page);
  expect(piece.cues.map((c) => c.id)).toEqual(['down', 'up']);
  expect(piece.played.map((p) => 'cue' in p && p.cue)).toEqual(['up', 'down']);
  // Kept over a reload, with all that was played.
  await page.reload();
  await pictureTells(page, (d) => Number(d.alive) > 0);
  await openControls();
  await button('2 changes recorded').waitFor();
});

test('a name that is taken is refused where it is given', async () => {
  const { page } = app;
  await openSmall(page, app.url, withCues);
  await lineUp('Up').dblclick();
  const field = page.getByRole('textbox', { name: 'New name of Up' });
  await field.fill('rate');
  await page.keyboard.press('Enter');
  await page.getByText("'Rate' is called so already").waitFor();
  await lineUp('Up').waitFor();
});

test('what is played comes to the same pixels in the browser and here', async () => {
  const harness = await startHarness();
  const { page } = app;
  await page.goto(harness.url);
  const engine = await CpuEngine.create({ threads: 2 });
  const barge = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!.piece;
  for (const piece of [played((p) => (p.played = [...EVENTS])), barge]) {
    engine.setPlan(compilePiece(piece));
    engine.reset();
    while (engine.frame < 75) engine.step();
    const here = frameHash(engine.draw(96, 54).pixels);
    expect(await call(page, 'cpuHashes', piece, 75, 96, 54, [1])).toEqual([here]);
  }
  engine.close();
  harness.stop();
});

test('a lighting desk sets a control by Open Sound Control, and a wrong name is answered', async () => {
  const { page } = app;
  await openSmall(page, app.url, withCues);
  await openControls();
  await button('Listen to the outside').click();
  await page.getByText('Heard from outside').waitFor();
  const desk = createSocket('udp4');
  const answers: string[] = [];
  desk.on('message', (packet) => answers.push(packet.toString()));
  const send = (packet: Buffer): void => {
    desk.send(new Uint8Array(packet), app.joints, '127.0.0.1');
  };
  const fader = page.getByRole('slider', { name: 'Rate', exact: true });
  send(message('/control/rate', 0.25, 0.5));
  await fader.and(page.locator('[aria-valuenow="0.25"]')).waitFor();
  send(message('/cue/up'));
  await fader.and(page.locator('[aria-valuenow="1"]')).waitFor();
  send(message('/control/rat', 1));
  while (answers.length === 0) await new Promise((resolve) => desk.once('message', resolve));
  expect(answers[0]).toContain('there is no control "rat"; there are rate');
  await button('2 changes recorded').waitFor();
  // An address of the desk's own is learnt by moving it, and moves the control over its range from then on.
  await lineUp('Rate').click();
  await button('Learn').click();
  await button('Move it now').waitFor();
  send(message('/desk/fader/3', 0.1));
  await sheet().getByText('osc /desk/fader/3').waitFor();
  send(message('/desk/fader/3', 0.5));
  await fader.and(page.locator('[aria-valuenow="0.5"]')).waitFor();
  desk.close();
  await button('Do not listen').click();
  await page.getByText('Heard from outside').waitFor({ state: 'detached' });
});
