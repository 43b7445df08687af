import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readdir, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pieceText, type Piece } from '@vast-swarm/core/piece';
import { run, vastSwarm } from '../../../tests/support/commandLine';
import { smallPiece } from '../../../tests/support/pieces';
import { CLI } from '../../../tests/support/cli';

/** What goes wrong around the command line: files that are none, disks that are full, readers that are gone. */

let dir: string;
beforeEach(async () => {
  dir = await mkdtemp(join(tmpdir(), 'vast-swarm-'));
  await mkdir(join(dir, 'stock'));
});
afterEach(() => rm(dir, { recursive: true }));

async function piece(change: (piece: Piece) => void = () => undefined): Promise<string> {
  const file = join(dir, 'small.json');
  await writeFile(file, pieceText(smallPiece(change)));
  return file;
}

/** A piece that takes a mesh from a file. */
function withMesh(file: string, hash = ''): Promise<string> {
  return piece((p) => {
    p.stock.push({ id: 'own', name: 'Own', type: 'mesh', source: { file, hash } });
  });
}

const ROCK = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';

test('a file of the stock needs no hash; one that is written down is checked', async () => {
  await writeFile(join(dir, 'stock', 'rock.obj'), ROCK);
  expect(await vastSwarm('check', await withMesh('rock.obj'))).toMatchObject({ code: 0, err: '' });
  const hash = createHash('sha256').update(ROCK).digest('hex');
  expect((await vastSwarm('check', await withMesh('rock.obj', hash))).code).toBe(0);
  const other = await vastSwarm('check', await withMesh('rock.obj', 'f'.repeat(64)));
  expect(other).toMatchObject({ code: 1, err: expect.stringContaining(hash) as string });
});

test('nothing outside the folder of the stock is read, by no way', async () => {
  for (const file of ['../small.json', '../../../etc/passwd', '/etc/passwd']) {
    const { code, err } = await vastSwarm('check', await withMesh(file));
    expect(code).toBe(1);
    expect(err).toMatch(/small\.json: line \d+, stock\[\d+\]\.source\.file: is no plain file name/);
    expect(err).not.toMatch(/[0-9a-f]{32}/);
  }
  await symlink('/etc/passwd', join(dir, 'stock', 'link.obj'));
  const link = await vastSwarm('check', await withMesh('link.obj'));
  expect(link).toMatchObject({ code: 1, err: expect.stringMatching(/link out of/) as string });
});

test('what has no end, or is no file, is not read', async () => {
  expect(await vastSwarm('check', '/dev/zero')).toEqual({
    code: 1,
    out: '',
    err: '/dev/zero: this is no file.\n',
  });
  await mkdir(join(dir, 'stock', 'folder.obj'));
  const folder = await vastSwarm('check', await withMesh('folder.obj'));
  expect(folder.err).toMatch(/folder\.obj: this is no file\./);
  await run('mkfifo', [join(dir, 'stock', 'pipe.obj')]);
  const pipe = await vastSwarm('check', await withMesh('pipe.obj'));
  expect(pipe.err).toMatch(/pipe\.obj: this is no file\./);
});

test('a file that is too large is refused before it is read', async () => {
  await run('truncate', ['-s', '600M', join(dir, 'stock', 'vast.obj')]);
  const { code, err } = await vastSwarm('check', await withMesh('vast.obj'));
  expect([code, err]).toEqual([1, 'vast.obj: it has 600 MB; 512 MB is the most.\n']);
});

test('names do not steer the terminal', async () => {
  const file = await piece((p) => {
    p.name = 'Red \u001b[31m\u202e';
    p.swarms[0]!.name = 'M\u0007otes';
  });
  const { out } = await vastSwarm('check', file);
  expect(out).toContain('Red \\u001b[31m\\u202e');
  expect(out).toContain('M\\u0007otes');
  const { err } = await vastSwarm('simulate', file, '--swarm', '\u001b[2J', '--out', 'x.csv');
  expect(err).toContain("there is no swarm '\\u001b[2J'");
});

test('a full disk and a folder that cannot be made are told by name; no part of a file is left', async () => {
  const file = await piece();
  const out = join(dir, 'motes.csv');
  // What is written to it finds no room, as on a full disk.
  await symlink('/dev/full', `${out}.part`);
  const args = ['--frames', '0..2', '--swarm', 'Motes', '--out'];
  const full = await vastSwarm('simulate', file, ...args, out);
  expect(full.code).toBe(1);
  expect(full.err).toBe(`${out}: cannot be written: there is no room left on the disk (ENOSPC).\n`);
  expect((await readdir(dir)).filter((n) => n.startsWith('motes'))).toEqual([]);
  for (const command of [
    ['render', file, '--frames', '0'],
    ['demo'],
    ['simulate', file, '--swarm', 'Motes'],
  ]) {
    const { code, err } = await vastSwarm(...command, '--out', join(file, 'under/x.csv'));
    expect(code).toBe(1);
    expect(err).toMatch(
      /this folder cannot be made: one of its folders is a file \(ENOTDIR\)\.\n$/,
    );
  }
  // No folder can be made in there: Node alone would try for ever.
  const nowhere = await vastSwarm('demo', '--out', '/proc/none/such');
  expect([nowhere.code, nowhere.err]).toEqual([
    1,
    '/proc/none/such: this folder cannot be made: the folder is not there (ENOENT).\n',
  ]);
});

test('a reader that goes away is no error', async () => {
  const pipe = `"${process.execPath}" "${CLI}" schema | head -c 5 >/dev/null; echo "\${PIPESTATUS[0]}"`;
  expect(await run('bash', ['-c', pipe])).toEqual({ code: 0, out: '0\n', err: '' });
});

test('frames that the piece has not, and more threads than serve, are refused', async () => {
  const file = await piece();
  const out = join(dir, 'out.csv');
  for (const command of [['signals'], ['simulate', '--swarm', 'Motes'], ['render']]) {
    const [name, ...more] = command;
    const beyond = await vastSwarm(name!, file, ...more, '--frames', '0..90', '--out', out);
    expect(beyond.code).toBe(1);
    expect(beyond.err).toContain('--frames 0..90: the piece has frames 0 to 89');
  }
  expect((await vastSwarm('check', file, '--threads', '5000')).code).toBe(2);
});

test('a byte-order mark is read over; simulate says that copies are left out', async () => {
  const copies = { count: 3, offset: [1, 0, 0], turn: [0, 0, 0], scale: 1 } as never;
  const file = await piece((p) => p.swarms[0]!.copies.push(copies));
  await writeFile(file, `\ufeff${pieceText(smallPiece((p) => p.swarms[0]!.copies.push(copies)))}`);
  const out = join(dir, 'motes.csv');
  const args = ['--frames', '0', '--swarm', 'Motes', '--out', out];
  const { code, err } = await vastSwarm('simulate', file, ...args);
  expect([code, err]).toEqual([
    0,
    "note: 'Motes' is drawn 3 times; its particles are written once, without the copies.\n",
  ]);
});
