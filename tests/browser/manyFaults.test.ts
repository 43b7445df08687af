import type { Page } from 'playwright-core';
import { dice } from '../support/mutate';
import { befalls, workerOf, type Fate } from './fates';
import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

/**
 * Faults of all kinds, one after the other, in an order that chance gives, the same each time: no edit older than a
 * quarter of a second is lost, and the picture comes back by itself. FAULTS says how many, SEED which ones.
 */

const COUNT = Number(process.env.FAULTS ?? (process.env.ALL ? 18 : 7));
const SEED = Number(process.env.SEED ?? 15);

/** Milliseconds: an edit that is younger than this may go with its tab. */
const YOUNG = 250;

const app = openApp();
const roll = dice(SEED);

/** The tab that is open, and what has been done in it. */
let tab: Page;
let edits = 0;
/** Names that the piece may have by now. */
let names: string[];

async function edit(): Promise<void> {
  edits += 1;
  const field = tab.getByRole('textbox', { name: 'Name of the piece' });
  await field.fill(`Edit ${String(edits)}`);
  await field.press('Enter');
  names = [`Edit ${String(edits)}`];
}

async function plays(): Promise<void> {
  const frame = (d: DOMStringMap): number => Number(d.frame);
  let seen = -1;
  await pictureTells(tab, (d) => {
    if (seen < 0) seen = frame(d);
    return Number(d.alive) > 0 && d.playing === 'true' && frame(d) !== seen;
  });
}

/** Storage refuses some calls from some moment on, and takes what comes then. */
async function refuse(after: number, times: number): Promise<void> {
  await tab.evaluate(
    ([skip, most]) => {
      const proto = IDBObjectStore.prototype as unknown as Record<
        string,
        (...a: unknown[]) => unknown
      >;
      let calls = 0;
      for (const name of ['put', 'add', 'delete', 'get']) {
        const own = proto[name]!;
        proto[name] = function (this: unknown, ...args: unknown[]) {
          calls += 1;
          if (calls > skip && calls <= skip + most)
            throw new DOMException('no room', 'QuotaExceededError');
          return own.apply(this, args);
        };
      }
    },
    [after, times] as const,
  );
}

const FAULTS: Record<string, () => Promise<void>> = {
  'an engine loops': () => engine('loops'),
  'an engine is gone': () => engine('is gone'),
  'an engine is silent': () => engine('is silent'),
  'storage refuses calls': async () => {
    await refuse(roll(6), 1 + roll(6));
    for (let k = roll(3); k >= 0; k--) await edit();
  },
  'the page is loaded anew': async () => {
    await edit();
    await tab.waitForTimeout(roll(60));
    await tab.reload();
  },
  'the tab is closed while it saves': async () => {
    const url = tab.url();
    const [before] = names;
    await edit();
    const age = roll(2 * YOUNG);
    await tab.waitForTimeout(age);
    if (age < YOUNG) names.push(before!);
    const next = await tab.context().newPage();
    await tab.close();
    tab = next;
    await tab.goto(url);
  },
  'the server is gone, and the engine with it': async () => {
    await tab.context().setOffline(true);
    await edit();
    await engine('is gone');
    await plays();
    await tab.context().setOffline(false);
  },
};

async function engine(fate: Fate): Promise<void> {
  await edit();
  befalls(await workerOf(tab, 'engineWorker'), fate);
  await tab.getByRole('alert').filter({ hasText: 'It was started again' }).waitFor();
  await tab
    .getByRole('alert')
    .filter({ hasText: 'It was started again' })
    .getByLabel('Close')
    .click();
}

/** What is there has a name that it may have. */
async function kept(): Promise<void> {
  const name = await tab.getByRole('textbox', { name: 'Name of the piece' }).inputValue();
  expect(names).toContain(name);
  names = [name];
}

test(
  `${String(COUNT)} faults lose no edit, and the picture comes back from each by itself`,
  async () => {
    tab = app.page;
    await openSmall(tab, app.url, (p) => (p.frame.length = 6000));
    await edit();
    const kinds = Object.keys(FAULTS);
    const done: string[] = [];
    for (let k = 0; k < COUNT; k++) {
      // Each kind before any comes again.
      const kind = k < kinds.length ? kinds[k]! : kinds[roll(kinds.length)]!;
      done.push(kind);
      try {
        await FAULTS[kind]!();
        await plays();
        await kept();
      } catch (error) {
        throw new Error(`after ${done.join('; ')}: ${String(error)}`, { cause: error });
      }
    }
    // All of it is stored, too.
    await tab.reload();
    await plays();
    await kept();
  },
  60_000 + 12_000 * COUNT,
);
