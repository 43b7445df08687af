import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import { Refused } from '../refused';
import { whyNot } from '../writeWhole';

/** A file that says who is at work on which frames in a folder; it is there as long as the work is. */
export interface Lock {
  release: () => void;
}

const holderSchema = z.object({
  pid: z.number(),
  /** When that process began, see `beganOf`; numbers of processes are given anew. */
  began: z.string().optional(),
  host: z.string(),
  first: z.number(),
  last: z.number(),
});
type Holder = z.infer<typeof holderSchema>;

/**
 * When a process of this machine began, as a text that no other one of its number has: the machine's start and the ticks
 * since then (proc(5), field 22), or the second of it where there is no such folder. Null where that cannot be told.
 */
export function beganOf(pid: number): string | null {
  try {
    const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
    const stat = readFileSync(`/proc/${String(pid)}/stat`, 'utf8');
    // Its name, in brackets, may have spaces in it.
    return `${boot} ${stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19]!}`;
  } catch {
    try {
      return execFileSync('ps', ['-o', 'lstart=', '-p', String(pid)], { stdio: 'pipe' }).toString();
    } catch {
      return null;
    }
  }
}

/** Whether the number of a holder's process is given to one now. */
function isThere({ pid }: Holder): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // It is another user's.
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** Whether a holder runs: 'maybe' on another machine, and where it is not known when its process began. */
function runs(holder: Holder): 'yes' | 'no' | 'maybe' {
  if (holder.host !== hostname()) return 'maybe';
  if (!isThere(holder)) return 'no';
  const began = beganOf(holder.pid);
  // It may have ended since.
  if (holder.began === undefined || began === null) return isThere(holder) ? 'maybe' : 'no';
  return holder.began === began ? 'yes' : 'no';
}

async function holderOf(file: string): Promise<Holder | null> {
  try {
    return holderSchema.parse(JSON.parse(await readFile(file, 'utf8')));
  } catch {
    return null;
  }
}

/**
 * Takes frames of a folder; a holder that has ended on this machine counts for nothing.
 *
 * @param name of the frames, without their number
 * @throws Refused where another one is at work on some of them, or the folder cannot be written
 */
export async function takeLock(
  folder: string,
  name: string,
  [first, last]: [number, number],
): Promise<Lock> {
  const stem = `.${name}.`;
  const isLock = (file: string): boolean => file.startsWith(stem) && file.endsWith('.lock');
  for (const one of (await readdir(folder)).filter(isLock)) {
    const file = join(folder, one);
    const holder = await holderOf(file);
    if (!holder || holder.first > last || holder.last < first) continue;
    if (runs(holder) !== 'no') throw held(folder, file, holder);
    await rm(file, { force: true });
  }
  const own = join(folder, `${stem}${String(first)}-${String(last)}.lock`);
  const began = beganOf(process.pid) ?? undefined;
  const mine: Holder = { pid: process.pid, began, host: hostname(), first, last };
  try {
    await writeFile(own, JSON.stringify(mine), { flag: 'wx' });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'EEXIST') throw held(folder, own, await holderOf(own));
    throw new Refused(`${folder}: cannot be written: ${whyNot(error)}.`);
  }
  const release = (): void => {
    process.removeListener('exit', release);
    rmSync(own, { force: true });
  };
  process.once('exit', release);
  return { release };
}

/** Milliseconds that a process has to end in order, and between looks. */
const PATIENCE = 8000;
const LOOK = 100;

/**
 * Ends whoever of this machine is at work in a folder that is ours alone, and waits for it. Where it is not sure that a
 * process is the one that wrote the lock, nothing is ended; who takes the folder then is told of it.
 */
export async function endHolders(folder: string): Promise<void> {
  const names = await readdir(folder).catch((): string[] => []);
  for (const name of names.filter((file) => file.endsWith('.lock'))) {
    const holder = await holderOf(join(folder, name));
    if (!holder || runs(holder) !== 'yes') continue;
    process.kill(holder.pid, 'SIGTERM');
    for (let waited = 0; runs(holder) === 'yes'; waited += LOOK) {
      if (waited >= PATIENCE) process.kill(holder.pid, 'SIGKILL');
      await new Promise((resolve) => setTimeout(resolve, LOOK));
    }
  }
}

function held(folder: string, file: string, holder: Holder | null): Refused {
  const who = holder
    ? `process ${String(holder.pid)} on ${holder.host} is at work in it`
    : 'another one is at work in it';
  return new Refused(`${folder}: ${who}. If it is not, delete ${file}.`);
}
