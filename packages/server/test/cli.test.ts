import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { decode } from 'fast-png';
import { makeChoice, makePart, parsePiece, pieceText } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import { wavBytes } from '@vast-swarm/core/formats';
import type { Sound } from '@vast-swarm/core/stock';
import { vastSwarm, vastSwarmIn } from '../../../tests/support/commandLine';
import { frameHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';

let dir: string;
let file: string;
beforeAll(async () => {
  dir = await mkdtemp(join(tmpdir(), 'vast-swarm-'));
  file = join(dir, 'small.json');
  await writeFile(file, pieceText(smallPiece()));
});
afterAll(() => rm(dir, { recursive: true }));

test('check says what is in a piece, and names line and field of what is wrong', async () => {
  expect(await vastSwarm('check', file)).toMatchObject({
    code: 0,
    out: expect.stringContaining('Motes: room for') as string,
  });
  const bad = join(dir, 'bad.json');
  await writeFile(bad, pieceText(smallPiece()).replace('"rate": 900', '"rate": -1'));
  const run = await vastSwarm('check', bad);
  expect(run.code).toBe(1);
  expect(run.err).toMatch(/bad\.json: line \d+, swarms\[0\]\.dials\.rate: .*must stay within 0/);
  expect(await vastSwarm('check', join(dir, 'none.json'))).toMatchObject({ code: 1 });
  expect(await vastSwarm('check', file, '--set', 'motes.limit=100')).toMatchObject({
    code: 0,
    out: expect.stringContaining('A limit of') as string,
  });
});

test('what is not understood ends with code 2', async () => {
  expect((await vastSwarm('check')).code).toBe(2);
  expect((await vastSwarm('render', file, '--frames', '9..3', '--out', dir)).code).toBe(2);
  expect((await vastSwarm('render', file, '--threads', 'many', '--out', dir)).code).toBe(2);
  expect((await vastSwarm('--help')).code).toBe(0);
});

test('render gives the same numbered frames on one thread and on three', async () => {
  const hashes: string[][] = [];
  for (const threads of ['1', '3']) {
    const out = join(dir, `frames-${threads}`);
    const run = await vastSwarm(
      'render',
      file,
      '--frames',
      '20..22',
      '--size',
      '100x56',
      '--threads',
      threads,
      '--out',
      out,
    );
    expect(run).toMatchObject({ code: 0, err: '' });
    const names = (await readdir(out)).sort();
    expect(names).toEqual(['frame_0020.png', 'frame_0021.png', 'frame_0022.png']);
    const frames = await Promise.all(names.map(async (n) => decode(await readFile(join(out, n)))));
    expect(frames[0]).toMatchObject({ width: 100, height: 56 });
    hashes.push(frames.map((f) => frameHash(f.data as unknown as Uint8ClampedArray)));
  }
  expect(hashes[0]).toEqual(hashes[1]);
  expect(new Set(hashes[0]).size).toBe(3);
});

test('simulate writes the last frame, or every frame, and says what swarms there are', async () => {
  const csv = join(dir, 'last.csv');
  expect(
    await vastSwarm('simulate', file, '--frames', '0..29', '--swarm', 'Motes', '--out', csv),
  ).toMatchObject({ code: 0 });
  const [head, ...rows] = (await readFile(csv, 'utf8')).trim().split('\n');
  expect(head).toBe('id,age,life,px,py,pz,vx,vy,vz,size,r,g,b,a');
  // 900 a second for a second, and nobody lives shorter than that.
  expect(rows).toHaveLength(900);
  expect(rows[0]!.split(',').slice(0, 2).map(Number)).toEqual([0, expect.closeTo(1, 5)]);
  const every = join(dir, 'motes-%04d.ply');
  await vastSwarm('simulate', file, '--frames', '4..6', '--swarm', 'motes', '--out', every);
  const names = (await readdir(dir)).filter((n) => n.endsWith('.ply')).sort();
  expect(names).toEqual(['motes-0004.ply', 'motes-0005.ply', 'motes-0006.ply']);
  const wrong = await vastSwarm('simulate', file, '--swarm', 'ghosts', '--out', csv);
  expect(wrong).toMatchObject({
    code: 1,
    err: expect.stringContaining("there are 'Motes'") as string,
  });
});

test('what a piece takes from files stands in the folder stock beside it', async () => {
  const svg = '<svg><path d="M-1 0 L1 0"/></svg>';
  const hash = createHash('sha256').update(svg).digest('hex');
  const piece = smallPiece((p) => {
    p.stock = [{ id: 'bar', name: 'Bar', type: 'outline', source: { file: 'bar.svg', hash } }];
    p.swarms[0]!.emitter = makeChoice('emitters', 'outline');
    p.swarms[0]!.emitter.dials.outline = 'bar';
    p.swarms[0]!.launch.dials.speed = 0;
    p.forces = [];
  });
  const own = join(dir, 'own');
  await mkdir(join(own, 'stock'), { recursive: true });
  const at = join(own, 'bar.json');
  await writeFile(at, pieceText(piece));
  const missing = await vastSwarm('check', at);
  expect(missing).toMatchObject({ code: 1, err: expect.stringContaining("'Bar'") as string });
  await writeFile(join(own, 'stock', 'bar.svg'), '<svg><path d="M0 0 L5 0"/></svg>');
  expect((await vastSwarm('check', at)).err).toContain('another file');
  await writeFile(join(own, 'stock', 'bar.svg'), svg);
  const out = join(own, 'bar.csv');
  const run = await vastSwarm('simulate', at, '--frames', '0..9', '--swarm', 'Motes', '--out', out);
  expect(run.code).toBe(0);
  const [, ...rows] = (await readFile(out, 'utf8')).trim().split('\n');
  expect(rows.length).toBeGreaterThan(100);
  for (const row of rows) {
    const [x, y] = row.split(',').slice(3, 5).map(Number) as [number, number];
    expect(Math.abs(x)).toBeLessThanOrEqual(1.001);
    expect(y).toBeCloseTo(0);
  }
});

test('signals writes what each is at the end of each frame, parts of it by themselves', async () => {
  const made = smallPiece((p) => {
    p.sounds = [{ ...makePart('sounds', 'played', []), id: 'quay' }];
    p.sounds[0]!.dials.sound = 'fogSignal';
    const wave = { ...makePart('signals', 'wave', []), id: 'tide' };
    const bands = { ...makePart('signals', 'bands', []), id: 'ears' };
    bands.dials.sound = 'quay';
    p.signals = [wave, bands];
  });
  const heard = join(dir, 'heard.json');
  await writeFile(heard, pieceText(made));
  const out = join(dir, 'signals.csv');
  expect(await vastSwarm('signals', heard, '--frames', '3..5', '--out', out)).toMatchObject({
    code: 0,
  });
  const [head, ...rows] = (await readFile(out, 'utf8')).trim().split('\n');
  expect(head).toBe('frame,time,tide,ears.1,ears.2,ears.3');
  const scene = new Scene(made);
  expect(rows.map((row) => row.split(',').map(Number))).toEqual(
    [3, 4, 5].map((frame) => {
      const time = (frame + 1) / 30;
      return [
        frame,
        time,
        ...['tide', 'ears.1', 'ears.2', 'ears.3'].map((id) => scene.signal(id, time)),
      ];
    }),
  );
  // The fog signal begins with the thump of an engine.
  expect(Number(rows[0]!.split(',')[3])).toBeGreaterThan(0.1);
  expect(await vastSwarm('signals', heard, '--out', join(dir, 'a.txt'))).toMatchObject({
    code: 1,
    err: expect.stringContaining('signals are written to .csv') as string,
  });
});

test('a take beside its piece drives what is simulated and rendered; without it that is told', async () => {
  const rate = 8000;
  // Silent for a second, then loud.
  const samples = Int16Array.from({ length: 3 * rate }, (_, i) =>
    i < rate ? 0 : Math.round(30_000 * Math.sin((2 * Math.PI * 500 * i) / rate)),
  );
  const take: Sound = { type: 'sound', rate, channels: [samples] };
  const bytes = wavBytes(take);
  const hash = createHash('sha256').update(bytes).digest('hex');
  const live = smallPiece((p) => {
    p.stock.push({ id: 'take', name: 'Take', type: 'sound', source: { file: 'take.wav', hash } });
    p.sounds.push({ ...makePart('sounds', 'live', []), id: 'voice', name: 'Voice' });
    Object.assign(p.sounds[0]!.dials, { take: 'take', start: 15 });
    const level = { ...makePart('signals', 'level', []), id: 'loud' };
    level.dials.sound = 'voice';
    p.signals.push(level);
    p.swarms[0]!.dials.size = { feed: 'signal', signal: 'loud', from: 0.01, to: 0.5 };
  });
  const work = join(dir, 'take');
  const piece = join(work, 'live.json');
  await mkdir(join(work, 'stock'), { recursive: true });
  await writeFile(join(work, 'stock/take.wav'), bytes);
  await writeFile(piece, pieceText(live));
  const level = async (...set: string[]): Promise<number[]> => {
    const out = join(work, 'loud.csv');
    const run = await vastSwarm('signals', piece, '--frames', '20..59', '--out', out, ...set);
    expect(run.code).toBe(0);
    const [, ...rows] = (await readFile(out, 'utf8')).trim().split('\n');
    return rows.map((row) => Number(row.split(',')[2]));
  };
  // A second after its first frame, 15.
  const found = await level();
  expect(found[44 - 20]).toBe(0);
  expect(found[50 - 20]).toBeCloseTo((30_000 / 32_768) * Math.SQRT1_2, 2);
  expect((await level('--set', 'voice.start=25'))[50 - 20]).toBe(0);
  expect((await level('--set', 'voice.gain=-20'))[50 - 20]).toBeCloseTo(0.0647, 2);

  const csv = join(work, 'motes.csv');
  const sized = ['--frames', '50..50', '--swarm', 'Motes', '--out', csv];
  expect(await vastSwarm('simulate', piece, ...sized)).toMatchObject({ code: 0 });
  const [head, row] = (await readFile(csv, 'utf8')).split('\n');
  const size = Number(row!.split(',')[head!.split(',').indexOf('size')]);
  expect(size).toBeCloseTo(0.01 + 0.49 * found[50 - 20]!, 3);

  await rm(join(work, 'stock/take.wav'));
  const run = await vastSwarm('check', piece);
  expect(run.out + run.err).toMatch(/take\.wav|Take is not in the stock/);
});

/** Whatever a command was to write is there: a folder of frames, a file, or one for each frame. */
async function expectOutput(work: string, command: string): Promise<void> {
  const out = / --out (\S+)/.exec(command)?.[1];
  if (!out) return;
  const [, first = '', last = first] = / --frames (\d+)(?:\.\.(\d+))?/.exec(command) ?? [];
  const frame = (n: string): string => n.padStart(4, '0');
  if (!command.startsWith('render') || extname(out)) {
    expect(await readdir(work)).toContain(out.replace('%04d', frame(last)));
    return;
  }
  const ending = / --format (\w+)/.exec(command)?.[1] ?? 'png';
  const frames = (await readdir(join(work, out))).filter((f) => f.endsWith(ending)).sort();
  expect(frames).toHaveLength(Number(last) - Number(first) + 1);
  expect(frames[0]).toBe(`frame_${frame(first)}.${ending}`);
}

test('every command of the README runs as it stands', async () => {
  const readme = await readFile(join(__dirname, '../../../README.md'), 'utf8');
  const [demo, ...others] = [...readme.matchAll(/^npx vast-swarm (.*)$/gm)].map(([, c]) => c!);
  expect(others.length).toBeGreaterThan(4);
  const work = await mkdtemp(join(dir, 'readme-'));
  const run = async (command: string): Promise<void> => {
    const args = [...command.matchAll(/"([^"]*)"|(\S+)/g)].map(
      ([, quoted, word]) => quoted ?? word!,
    );
    const { code, err } = await vastSwarmIn(work, ...args);
    const wanted = [command, 0, expect.anything()];
    expect([command, code, err.replace(/\r.*/g, '')]).toEqual(wanted);
    await expectOutput(work, command);
  };
  await run(demo!);
  const written = await readFile(join(work, 'show/net-menders.json'), 'utf8');
  expect(written).toBe(await readFile(join(__dirname, '../../../demo/net-menders.json'), 'utf8'));
  // Needs frames that one of the others made.
  const compares = (command: string): boolean => command.startsWith('diff');
  const made = others.filter((c) => !compares(c)).map((c) => [c] as const);
  for (const [command] of swept(made, 0.35)) {
    await run(command);
    if (command.endsWith('--out frames')) await run(others.find(compares)!);
  }
});

test('a blank piece is a piece, and the schema takes it', async () => {
  const { out } = await vastSwarm('blank', '--name', 'Low tide');
  expect(parsePiece(out).name).toBe('Low tide');
  const { out: schema } = await vastSwarm('schema');
  const parsed = JSON.parse(schema) as { $schema: string; properties: Record<string, unknown> };
  expect(parsed.$schema).toContain('2020-12');
  expect(Object.keys(parsed.properties)).toEqual(
    expect.arrayContaining(Object.keys(JSON.parse(out) as object)),
  );
});
