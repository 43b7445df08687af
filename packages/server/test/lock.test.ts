import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { beganOf, endHolders, takeLock } from '../src/deliver/lock';

/** Who holds a folder, and who is ended for it: never a process that has got a number of somebody who is gone. */

let dir: string;
let other: ChildProcess;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  other = spawn(process.execPath, ['-e', 'setInterval(() => undefined, 1000)'], {
    stdio: 'ignore',
  });
});
afterEach(() => {
  other.kill('SIGKILL');
  rmSync(dir, { recursive: true });
});

/** Leaves a lock as another program has written it, of frames 0 to 9. */
function left(holder: object): void {
  const all = { pid: other.pid, host: hostname(), first: 0, last: 9, ...holder };
  writeFileSync(join(dir, '.f_.png.0-9.lock'), JSON.stringify(all));
}
const lives = (): boolean => other.exitCode === null && other.signalCode === null;
const taken = (): Promise<unknown> => takeLock(dir, 'f_.png', [0, 9]);

test('a lock says when its process began, and is gone with it', async () => {
  const lock = await takeLock(dir, 'f_.png', [0, 9]);
  const text = readFileSync(join(dir, '.f_.png.0-9.lock'), 'utf8');
  expect(JSON.parse(text)).toMatchObject({ pid: process.pid, began: beganOf(process.pid) });
  await expect(taken()).rejects.toThrow('is at work in it');
  lock.release();
  (await takeLock(dir, 'f_.png', [0, 9])).release();
});

test('two processes have begun at different times, and one always at the same', () => {
  expect(beganOf(other.pid!)).not.toBeNull();
  expect(beganOf(other.pid!)).toBe(beganOf(other.pid!));
  expect(beganOf(other.pid!)).not.toBe(beganOf(process.pid));
});

test('a number that is somebody else’s by now holds nothing, and whose it is goes on', async () => {
  left({ began: beganOf(process.pid) });
  await endHolders(dir);
  expect(lives()).toBe(true);
  await taken();
  expect(lives()).toBe(true);
});

test('where it is not known when its process began, nothing is ended, and that is told', async () => {
  left({});
  await endHolders(dir);
  expect(lives()).toBe(true);
  await expect(taken()).rejects.toThrow(
    `process ${String(other.pid)} on ${hostname()} is at work in it. If it is not, delete ${dir}`,
  );
});

test('of another machine nothing is known, and nothing is ended here', async () => {
  left({ host: 'lighthouse', began: beganOf(other.pid!) });
  await endHolders(dir);
  expect(lives()).toBe(true);
  await expect(taken()).rejects.toThrow('on lighthouse is at work in it');
});

test('who holds it for sure is ended and waited for', async () => {
  left({ began: beganOf(other.pid!) });
  await endHolders(dir);
  await taken();
  if (lives()) await new Promise((resolve) => other.once('exit', resolve));
  expect(other.signalCode).toBe('SIGTERM');
});
