import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { smallOrder } from '../../../tests/support/orders';
import { saidSchema, taskSchema } from '../src/farm/messages';
import { Seal } from '../src/farm/seal';

/** What a worker and a server take from the queue, and what they do not. */

const SUM = 'a'.repeat(64);

test('the seal is HMAC-SHA256 as others make it', () => {
  // printf 'what do ya want for\nnothing?' | openssl dgst -sha256 -hmac Jefe
  expect(new Seal('Jefe').of('what do ya want for', 'nothing?')).toBe(
    '21cc036aa3dd92a6666c0723b7c88531f146a73471ec2ae6c5ffe1a7398513f0',
  );
});

test('a message is opened by who has the key, for what it was sealed, and as it was', () => {
  const [ours, other] = [new Seal('k'.repeat(16)), new Seal('l'.repeat(16))];
  const sealed = ours.sealed('task', { frame: 3 });
  expect(ours.opened('task', sealed)).toEqual({ frame: 3 });
  const foreign = [
    () => other.opened('task', sealed),
    () => new Seal().opened('task', sealed),
    () => ours.opened('said a', sealed),
    () => ours.opened('task', { ...sealed, text: '{"frame":4}' }),
    () => ours.opened('task', { ...sealed, seal: '' }),
    ...[null, undefined, 'text', 7, [], {}].map((given) => () => ours.opened('task', given)),
  ];
  for (const open of foreign) expect(open).toThrow(/not sealed with the key of this one/);
});

test('a key is read from a file; a short one, and none, are refused with what makes one', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  const [good, short] = [join(dir, 'good'), join(dir, 'short')];
  writeFileSync(good, `${'x'.repeat(40)}\n`);
  writeFileSync(short, 'letmein\n');
  expect((await Seal.from(good)).of('a', 'b')).toBe(new Seal('x'.repeat(40)).of('a', 'b'));
  await expect(Seal.from(short)).rejects.toThrow(/16 letters or more; 'openssl rand/);
  await expect(Seal.from(join(dir, 'none'))).rejects.toThrow(/--key .*none: cannot be read: /);
  rmSync(dir, { recursive: true });
});

const task = {
  task: 'frames',
  render: '0a1b2c3d',
  program: 'p',
  order: smallOrder(),
  piece: SUM,
  stock: { 'shell.svg': SUM },
  begin: { frame: 9, sum: SUM },
  wanted: [10, 11],
  last: 11,
  leaves: false,
};

test.each<[string, object]>([
  ['a render that is a path', { render: '../../evil' }],
  ['one that is a folder above', { render: '..' }],
  ['one with a slash', { render: 'a/b' }],
  ['stock in another folder', { stock: { '../evil.svg': SUM } }],
  ['stock above', { stock: { '..': SUM } }],
  ['stock of another machine', { stock: { 'a\\b.svg': SUM } }],
  ['a piece by no hash', { piece: 'piece:0' }],
  ['a state by no hash', { begin: { frame: 9, sum: '*' } }],
  ['frames before the first', { wanted: [-1] }],
  ['names that leave the folder', { order: smallOrder({ frames: '../%04d' }) }],
])('a task with %s is none', (_, wrong) => {
  expect(taskSchema.safeParse(task).success).toBe(true);
  expect(taskSchema.safeParse({ ...task, ...wrong }).success).toBe(false);
});

test('a frame by no name of a frame is none', () => {
  const said = { said: 'frame', frame: 3, name: 'anna:1-2', bytes: 9, sum: SUM, by: 'anna' };
  expect(saidSchema.safeParse(said).success).toBe(true);
  for (const name of ['', 'a b', '*', 'a\nb']) {
    expect(saidSchema.safeParse({ ...said, name }).success).toBe(false);
  }
});
