import { createSocket } from 'node:dgram';
import { readFile } from 'node:fs/promises';
import { strToU8, strFromU8, unzipSync, zipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { makeEntry, makeShow, parseShow, showText, type Entry } from '@vast-swarm/core/show';
import { pieceText, type Piece } from '@vast-swarm/core/piece';
import { message } from '../../packages/server/test/packets';
import { control, cue } from '../support/played';
import { smallPiece } from '../support/pieces';
import { openApp } from './openApp';

const app = openApp();

/** A small piece with a fader, and a cue that takes it to 1 in half a second. */
function piece(name: string, length: number): Piece {
  return smallPiece((p) => {
    Object.assign(p, { name, finish: [] });
    p.frame.length = length;
    const moves = [{ place: 'swarms.motes.rate', from: 100, to: 2000 }];
    p.controls = [{ ...control('fader', 'spread', [], { moves, rest: 0.4 }), name: 'Spread' }];
    const sets = [{ control: 'spread', to: 1 }];
    p.cues = [{ ...cue('open', { sets, over: 0.5, key: 'o' }), name: 'Open' }];
  });
}

/** A show of pieces in a zip, as it is exported. */
function zipOf(entries: (Partial<Entry> & { piece: string })[], pieces: Record<string, Piece>) {
  const show = {
    ...makeShow('Slip'),
    entries: entries.map((e) => ({ ...makeEntry(e.piece, e.piece), ...e })),
  };
  const files = Object.entries(pieces).map(([id, p]) => {
    return [`pieces/${id}.swarm.json`, strToU8(pieceText(p))] as const;
  });
  return Buffer.from(
    zipSync({ 'slip.show.json': strToU8(showText(show)), ...Object.fromEntries(files) }),
  );
}

/** Takes a show in and opens its desk; gives its address. */
async function openDesk(zip: Buffer): Promise<string> {
  const { page } = app;
  await page.goto(app.url);
  await page
    .getByLabel('Piece files')
    .setInputFiles({ name: 'slip.show.zip', mimeType: 'application/zip', buffer: zip });
  await page.getByRole('link', { name: 'Open Slip' }).click();
  await page.getByRole('button', { name: 'Open the output' }).waitFor();
  return page.url();
}

async function openOutput(): Promise<Page> {
  const [output] = await Promise.all([
    app.page.waitForEvent('popup'),
    app.page.getByRole('button', { name: 'Open the output' }).click(),
  ]);
  await app.page.getByRole('button', { name: /^Begin: / }).waitFor();
  return output;
}

/** Waits until the output shows an entry, at a frame or behind it. */
async function shows(output: Page, entry: string, frame = 0): Promise<void> {
  await output
    .locator(`[data-testid=picture][data-entry="${entry}"]`)
    .and(output.locator('[data-frame]'))
    .waitFor();
  await output.waitForFunction(
    ([id, least]) => {
      const { dataset } = document.querySelector<HTMLElement>('[data-testid=picture]')!;
      return dataset.entry === id && Number(dataset.frame) >= least;
    },
    [entry, frame] as const,
  );
}

const spread = () => app.page.getByRole('slider', { name: 'Spread' });
const spreadIs = (value: string) =>
  app.page.locator(`[role=slider][aria-label=Spread][aria-valuetext="${value}"]`).waitFor();

/** Holds a button until it has done what it does. */
async function hold(name: string | RegExp, done: () => Promise<void>): Promise<void> {
  const { page } = app;
  await page.getByRole('button', { name }).hover();
  await page.mouse.down();
  await done();
  await page.mouse.up();
}

const PIECES = { a: piece('Alder', 90), b: piece('Birch', 300), c: piece('Cedar', 300) };
const SHOW = [
  { piece: 'a', next: 'hand' as const },
  { piece: 'b', fade: 1, next: 'cue' as const, cue: 'open' },
  { piece: 'c', fade: 0 },
];

test('a show runs through its pieces: begun, faded, fired by key, dark, bright, and as the desk says', async () => {
  const { page } = app;
  await openDesk(zipOf(SHOW, PIECES));
  const output = await openOutput();
  await page.keyboard.press('PageDown');
  await shows(output, 'a', 5);
  await page.getByRole('heading', { name: 'Alder' }).waitFor();
  // A key of the piece: it ends exactly on its target.
  await page.keyboard.press('o');
  await spreadIs('1.000');
  // It waits for a hand: it begins again, and controls stay as they stand.
  await output.waitForFunction(() => {
    const { dataset } = document.querySelector<HTMLElement>('[data-testid=picture]')!;
    return Number(dataset.frame) > 80;
  });
  await output.waitForFunction(() => {
    const { dataset } = document.querySelector<HTMLElement>('[data-testid=picture]')!;
    return Number(dataset.frame) < 40;
  });
  await spreadIs('1.000');
  await page.getByRole('button', { name: 'Next: Birch' }).click();
  await shows(output, 'b', 1);
  expect(await output.locator('.pass').count()).toBeGreaterThanOrEqual(2);
  await spreadIs('0.400');
  // Dark within the frame, by the key that no piece can have.
  await page.keyboard.press('Backspace');
  await output.getByTestId('blackout').waitFor();
  await hold(/^Blackout is on/, () =>
    output.getByTestId('blackout').waitFor({ state: 'detached' }),
  );
  // A short press does nothing.
  await page.getByRole('button', { name: 'Blackout: hold' }).click();
  await spread().focus();
  await page.keyboard.press('Home');
  await spreadIs('0.000');
  expect(await output.getByTestId('blackout').count()).toBe(0);
  // Panic: as it stood when it was last as it was wanted.
  await hold('Panic: hold', () => spreadIs('0.400'));
  // A cue of it starts the next one, by a cut.
  await page.getByRole('button', { name: 'Fire Open' }).click();
  await shows(output, 'c', 2);
  expect(await output.locator('.pass').count()).toBe(1);
});

test('the output goes on without its desk, and comes back where it stands', async () => {
  const { page } = app;
  const address = await openDesk(
    zipOf([{ piece: 'b', next: 'hand' }], { b: piece('Birch', 1800) }),
  );
  const output = await openOutput();
  await page.keyboard.press('PageDown');
  await shows(output, 'b', 10);
  await page.getByRole('button', { name: 'Fire Open' }).click();
  await spreadIs('1.000');
  await spread().focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await spreadIs('0.900');
  await page.goto(`${app.url}/stock`);
  const left = Number(await output.getByTestId('picture').getAttribute('data-frame'));
  await shows(output, 'b', left + 20);
  await page.goto(address);
  await spreadIs('0.900');
  const before = Number(await output.getByTestId('picture').getAttribute('data-frame'));
  await output.reload();
  await shows(output, 'b', before - 60);
  await spreadIs('0.900');
  // Another window does not play it a second time.
  const third = await page.context().newPage();
  await third.goto(output.url());
  await third.getByText('This show has an output already').waitFor();
});

test('a show is run from outside: its pieces, its masters, the dark, and what the present piece has', async () => {
  await openDesk(zipOf(SHOW, PIECES));
  const output = await openOutput();
  const lights = createSocket('udp4');
  const send = (packet: Buffer): Promise<void> =>
    new Promise((sent) => {
      lights.send(new Uint8Array(packet), app.joints, '127.0.0.1', () => {
        sent();
      });
    });
  const says = async (packet: Buffer): Promise<string> => {
    const answer = new Promise<Buffer>((heard) => lights.once('message', heard));
    await send(packet);
    return (await answer).toString('latin1');
  };
  // The page is there when it offers its pieces.
  while (!(await says(message('/piece/nowhere', 1))).includes('there are alder'));
  await send(message('/next', 1));
  await shows(output, 'a', 3);
  await send(message('/control/spread', 0.75, 0.3));
  await spreadIs('0.750');
  await send(message('/control/master-brightness', 0.25));
  await output.locator('[data-testid=output] [style*="opacity: 0.75"]').waitFor();
  await send(message('/blackout', 1));
  await output.getByTestId('blackout').waitFor();
  await send(message('/blackout', 0));
  await send(message('/piece/cedar', 1));
  await shows(output, 'c', 2);
  expect(await says(message('/control/spread', 7))).toContain('spread is a number from 0 to 1');
  lights.close();
});

interface Seen {
  entry: string;
  frame: number;
  spread: number;
}

/** What desks are told, as far as it is looked at. */
interface Told {
  standing?: { present: { entry: string; frame: number } | null; controls: { spread: number } };
}

/** Listens to what desks are told, from the first entry on up to a frame of the last. */
async function seenUntil(page: Page, last: string, frame: number): Promise<Seen[]> {
  return page.evaluate(
    ([entry, at]) =>
      new Promise<Seen[]>((resolve) => {
        const id = location.pathname.split('/')[2]!;
        const all: Seen[] = [];
        const channel = new BroadcastChannel(`vast-swarm show ${id}`);
        channel.onmessage = ({ data }: MessageEvent<Told>) => {
          const { present, controls } = data.standing ?? {};
          if (!present || (all.length === 0 && present.entry !== 'a')) return;
          all.push({ ...present, spread: controls!.spread });
          if (present.entry !== entry || present.frame < at) return;
          channel.close();
          resolve(all);
        };
      }),
    [last, frame] as const,
  );
}

test('a night that is seen again is the same, frame by frame, and so is one from its table', async () => {
  const { page } = app;
  await openDesk(
    zipOf(
      [
        { piece: 'a', next: 'hand' },
        { piece: 'b', fade: 0.5, next: 'hand' },
      ],
      PIECES,
    ),
  );
  const output = await openOutput();
  const night = seenUntil(page, 'b', 60);
  await page.keyboard.press('PageDown');
  await shows(output, 'a', 10);
  await page.keyboard.press('o');
  await spreadIs('1.000');
  await spread().focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  await spreadIs('0.600');
  // Over the end, where its time jumps.
  await output.waitForFunction(() => {
    const { dataset } = document.querySelector<HTMLElement>('[data-testid=picture]')!;
    return Number(dataset.frame) > 70;
  });
  await shows(output, 'a', 0);
  await page.getByRole('button', { name: 'Next: Birch' }).click();
  await shows(output, 'b', 5);
  await spread().focus();
  await page.keyboard.press('End');
  const live = await night;
  const menu = async (item: string): Promise<void> => {
    await page.getByRole('button', { name: /^(Night|Seen again)$/ }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    menu('Save what happened (CSV)'),
  ]);
  const table = await readFile(await download.path());
  expect(table.toString()).toMatch(/^time,name,value,over,ease,stretch,entry,at,piece\r\n/);
  const same = (again: Seen[]): void => {
    // Of each frame that was told both times, of a stretch that has been seen once.
    const birch = (all: Seen[]) =>
      new Map(all.filter((s) => s.entry === 'b').map((s) => [s.frame, s.spread]));
    const [was, is] = [birch(live), birch(again)];
    const common = [...was.keys()].filter((frame) => is.has(frame));
    expect(common.length).toBeGreaterThan(5);
    for (const frame of common) expect(is.get(frame)).toBe(was.get(frame));
    expect(again.some((s) => s.entry === 'a' && s.spread === 1)).toBe(true);
    expect(again.some((s) => s.entry === 'a' && Math.abs(s.spread - 0.6) < 1e-9)).toBe(true);
  };
  let again = seenUntil(page, 'b', 60);
  await menu('See it again');
  same(await again);
  again = seenUntil(page, 'b', 60);
  await page
    .getByLabel('Table of a night')
    .setInputFiles({ name: 'night.csv', mimeType: 'text/csv', buffer: table });
  same(await again);
  await page
    .getByLabel('Table of a night')
    .setInputFiles({ name: 'bad.csv', mimeType: 'text/csv', buffer: Buffer.from('time,name\n') });
  await page.getByText("bad.csv was not taken: line 1: there is no column 'value'").waitFor();
});

test('a show is arranged, undone, exported with its pieces; one whose piece is missing runs without it', async () => {
  const { page } = app;
  const entries = ['a', 'lost', 'b'].map((piece) => ({ piece, next: 'hand' as const }));
  await openDesk(zipOf(entries, { a: PIECES.a, b: PIECES.b }));
  await page.getByRole('button', { name: 'Arrange', exact: true }).click();
  await page.getByText('Not there any more: it is passed over').waitFor();
  await page.getByRole('button', { name: 'Take Not there any more out of the show' }).click();
  await page.getByRole('group', { name: 'Entry 2, Birch' }).waitFor();
  await page.keyboard.press('Control+z');
  await page.getByRole('group', { name: 'Entry 3, Birch' }).waitFor();
  await page.getByRole('button', { name: /^Move Birch/ }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await page.getByRole('group', { name: 'Entry 2, Birch' }).waitFor();
  await page.getByRole('button', { name: 'Add a piece' }).click();
  await page.getByRole('menuitem', { name: 'Alder' }).click();
  await page.getByRole('group', { name: 'Entry 4, Alder' }).waitFor();
  await page.reload();
  await page.getByRole('button', { name: 'Night' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Export the show' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('slip.show.zip');
  const files = unzipSync(new Uint8Array(await readFile(await download.path())));
  const show = parseShow(strFromU8(files['slip.show.json']!));
  expect(show.entries.length).toBe(4);
  const there = show.entries.filter((e) => files[`pieces/${e.piece}.swarm.json`]);
  expect(there.map((e) => e.id).length).toBe(3);
  const output = await openOutput();
  await page.keyboard.press('PageDown');
  await shows(output, show.entries[0]!.id, 3);
  await page.getByRole('button', { name: 'Next: Birch' }).waitFor();
});
