import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Refused } from '../refused';
import { say } from '../say';
import { whyNot } from '../writeWhole';
import { difference, notComparable, type Difference } from './compare';
import { isFrame, readPixels } from './pixels';

interface DiffOptions {
  /** The largest difference that passes, in steps of 8 bits. */
  limit: number;
  json?: boolean;
}

/** The result for a pair of frames: how they differ, or why they cannot be compared. */
type Found = { frame: string; difference: Difference | null } | { frame: string; problem: string };

/** The frames in a folder by name; null where it is no folder. */
async function framesIn(path: string): Promise<string[] | null> {
  const about = await stat(path).catch((error: unknown) => {
    throw new Refused(`${path}: cannot be read: ${whyNot(error)}.`);
  });
  return about.isDirectory() ? (await readdir(path)).filter(isFrame).sort() : null;
}

async function* pairs(a: string, b: string): AsyncGenerator<Found, void, undefined> {
  const [inA, inB] = [await framesIn(a), await framesIn(b)];
  if (!inA !== !inB) throw new Refused(`${a}, ${b}: one is a folder, the other a file.`);
  if (!inA || !inB) {
    yield await compared(a, a, b);
    return;
  }
  const all = [...new Set([...inA, ...inB])].sort();
  if (all.length === 0) throw new Refused(`${a}, ${b}: there are no frames in them.`);
  for (const frame of all) {
    const missing = [a, b].find((_, i) => ![inA, inB][i]!.includes(frame));
    if (missing === undefined) yield await compared(frame, join(a, frame), join(b, frame));
    else yield { frame, problem: `it is not in ${missing}` };
  }
}

async function compared(frame: string, a: string, b: string): Promise<Found> {
  const [one, other] = [await readPixels(a), await readPixels(b)];
  const problem = notComparable(one, other);
  return problem ? { frame, problem } : { frame, difference: difference(one, other) };
}

const rounded = (value: number): string => String(Number(value.toPrecision(3)));

function inWords({ largest, at, mean, share, within }: Difference): string {
  const [left, top, right, bottom] = within.map(String);
  const place = `at ${at.map(String).join(',')}`;
  return [
    `largest ${rounded(largest)} of 255 ${place}`,
    `mean ${rounded(mean)}`,
    `${rounded(100 * share)} % of the pixels, within ${left!},${top!} to ${right!},${bottom!}`,
  ].join('; ');
}

/** Says how two frames, or the frames of two folders, differ. @returns whether all are within the limit */
export async function diff(a: string, b: string, { limit, json }: DiffOptions): Promise<boolean> {
  let [count, over] = [0, 0];
  for await (const found of pairs(a, b)) {
    count += 1;
    const passes = 'difference' in found && (found.difference?.largest ?? 0) <= limit;
    if (!passes) over += 1;
    if (json) say(JSON.stringify({ ...found, passes }));
    else if ('problem' in found) say(`${found.frame}: ${found.problem}`);
    else if (found.difference) say(`${found.frame}: ${inWords(found.difference)}`);
  }
  if (!json) {
    const what = `${String(count)} ${count === 1 ? 'frame' : 'frames'}`;
    const more = limit > 0 ? `a limit of ${String(limit)}` : 'nothing';
    say(`${what} compared, ${String(over)} over ${more}`);
  }
  return over === 0;
}
