import { catalogue } from '@vast-swarm/core/kinds';
import { makePart, makePiece, makeSwarm, pieceText, type Piece } from '@vast-swarm/core/piece';
import type { Locator, Page } from 'playwright-core';
import { report } from './report';

const [SWARMS, FORCES, SIGNALS, KEYS] = [40, 60, 20, 10] as const;
/** Milliseconds that a task of the interface may take. */
const MOST = 50;

/** A piece with far more parts than most have; so few particles that the interface is what works. */
function largePiece(): Piece {
  const piece = makePiece('Large');
  Object.assign(piece.frame, { length: 1800 });
  for (let i = 0; i < SWARMS; i++) {
    const swarm = makeSwarm('sphere', piece.swarms);
    Object.assign(swarm.dials, { rate: 10, size: 0.03 });
    piece.swarms.push(swarm);
  }
  const kinds = catalogue.forces.map((k) => k.kind).filter((kind) => kind !== 'flocking');
  for (let i = 0; i < FORCES; i++) {
    piece.forces.push(makePart('forces', kinds[i % kinds.length]!, piece.forces));
  }
  for (let i = 0; i < SIGNALS; i++) {
    const signal = makePart('signals', 'keyframes', piece.signals);
    signal.dials.keys = Array.from({ length: KEYS }, (_, k) => ({
      at: (60 * k) / KEYS,
      value: (i + k) % 7,
    }));
    piece.signals.push(signal);
  }
  return piece;
}

interface TraceEvent {
  name: string;
  pid: number;
  tid: number;
  args: { name?: string };
  /** Microseconds that the thread itself worked on it. */
  tdur?: number;
}

/**
 * The longest task of some acts, one after the other, each until the interface has come to rest: by the time
 * that its thread had on a processor, since an engine works beside it.
 */
async function once(page: Page, acts: Acts): Promise<number> {
  const browser = page.context().browser()!;
  await browser.startTracing(page, { categories: ['toplevel', '__metadata'] });
  for (const act of acts) {
    await act();
    await page.evaluate(async () => {
      for (let i = 0; i < 3; i++) {
        await new Promise((resolve) => requestIdleCallback(resolve, { timeout: 500 }));
      }
    });
  }
  const trace = JSON.parse(String(await browser.stopTracing())) as { traceEvents: TraceEvent[] };
  const main = trace.traceEvents.filter(
    (e) => e.name === 'thread_name' && e.args.name === 'CrRendererMain',
  );
  const tasks = trace.traceEvents.filter(
    (e) => e.name.endsWith('RunTask') && main.some((m) => m.pid === e.pid && m.tid === e.tid),
  );
  return Math.max(0, ...tasks.map((e) => (e.tdur ?? 0) / 1000));
}

/**
 * The least of three rounds: now and then memory is tidied. Where things are has been looked up before, since
 * a look takes as long as what is measured.
 */
async function longest(page: Page, what: string, acts: Acts): Promise<void> {
  let least = Infinity;
  for (let round = 0; round < 3; round++) least = Math.min(least, await once(page, acts));
  report(`40 swarms, 60 forces, 200 keys: longest task, ${what}`, least, 'ms', MOST);
}

type Acts = (() => Promise<void>)[];

/** Where the middle of something is. */
async function middle(locator: Locator): Promise<[number, number]> {
  await locator.scrollIntoViewIfNeeded();
  const { x, y, width, height } = (await locator.boundingBox())!;
  return [x + width / 2, y + height / 2];
}

/** What an artist does in the sheet, the line-up and the strip of a large piece that plays. */
export async function large(page: Page, url: string): Promise<void> {
  await page.goto(url);
  const buffer = Buffer.from(pieceText(largePiece()));
  const file = { name: 'large.json', mimeType: 'application/json', buffer };
  await page.getByLabel('Piece files').setInputFiles(file);
  await page.getByRole('link', { name: 'Open Large' }).first().click();
  const picture = page.getByTestId('picture');
  await picture.and(page.locator('[data-playing=true]')).waitFor();
  const lineUp = page.getByRole('navigation', { name: 'Line-up' });
  const part = (name: string) => lineUp.getByRole('button', { name, exact: true });
  const { swarms, forces } = largePiece();
  const { mouse, keyboard } = page;
  const press = async (locator: Locator): Promise<() => Promise<void>> => {
    const at = await middle(locator);
    return () => mouse.click(...at);
  };
  const [swarm, other] = [await press(part(swarms[3]!.name)), await press(part(swarms[9]!.name))];
  await longest(page, 'selecting swarms', [swarm, other]);
  const [force, next] = [await press(part(forces[4]!.name)), await press(part(forces[7]!.name))];
  await longest(page, 'selecting forces, and swarms after them', [force, swarm, next, other]);
  const rate = page.getByRole('textbox', { name: 'Rate' });
  const [x, y] = await middle(rate);
  await longest(page, 'typing into a dial', [
    () => mouse.click(x, y),
    () => keyboard.type('12'),
    () => keyboard.press('Enter'),
    () => keyboard.press('Escape'),
  ]);
  await longest(page, 'dragging a dial', [
    () => mouse.move(x, y),
    () => mouse.down(),
    ...Array.from({ length: 20 }, (_, i) => () => mouse.move(x + 2 * i, y)),
    () => mouse.up(),
  ]);
  await longest(page, 'finding a dial', [
    () => keyboard.press('/'),
    ...Array.from('persist', (key) => () => keyboard.press(key)),
    () => keyboard.press('Enter'),
    swarm,
  ]);
  const add = await press(lineUp.getByRole('button', { name: 'Add a force' }));
  await longest(page, 'adding a force, and taking it back', [
    add,
    () => keyboard.type('curl'),
    () => keyboard.press('Enter'),
    () => keyboard.press('Control+z'),
  ]);
  const more = lineUp.getByRole('button', { name: `More for ${swarms[7]!.name}`, exact: true });
  const open = await press(more);
  await open();
  const off = await press(page.getByRole('menuitem', { name: 'Switch off' }));
  await keyboard.press('Escape');
  await longest(page, 'switching a swarm off, and taking it back', [
    open,
    off,
    () => keyboard.press('Control+z'),
  ]);
  const time = (await page.getByRole('slider', { name: 'Time' }).boundingBox())!;
  await longest(
    page,
    'going through the strip',
    Array.from({ length: 7 }, (_, i) => () => mouse.click(time.x + 60 * i + 100, time.y + 6)),
  );
  await page
    .getByRole('slider', { name: /, key 4$/ })
    .first()
    .focus();
  await longest(
    page,
    'moving a key',
    Array.from({ length: 6 }, () => () => keyboard.press('ArrowUp')),
  );
}
