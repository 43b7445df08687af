import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeEntry, makeShow, nightTable, showText, type NightRow } from '@vast-swarm/core/show';
import { makePart, pieceText, type Piece } from '@vast-swarm/core/piece';
import { wavBytes } from '@vast-swarm/core/formats';
import { decode } from 'fast-png';
import { strToU8, zipSync } from 'fflate';
import { soundOf } from '../../core/test/support/tones';
import { vastSwarm } from '../../../tests/support/commandLine';
import { control } from '../../../tests/support/played';
import { smallPiece } from '../../../tests/support/pieces';

/** A whole night by the command line, against its stretches. */

const part = (name: string, seed: number): Piece =>
  smallPiece((p) => {
    Object.assign(p, { name, seed });
    p.frame.length = 30;
    const moves = [{ place: 'swarms.motes.rate', from: 100, to: 4000 }];
    p.controls = [{ ...control('fader', 'spread', [], { moves, rest: 0.2 }), name: 'Spread' }];
  });
/** A click at half a second of the second piece. */
const click = soundOf(1, (t) => (t >= 0.5 && t < 0.52 ? 0.9 : 0));
const ebb = part('Ebb', 2);
ebb.stock.push({
  id: 'click',
  name: 'Click',
  type: 'sound',
  source: { file: 'click.wav', hash: '' },
});
ebb.sounds = [makePart('sounds', 'played', [])];
Object.assign(ebb.sounds[0]!.dials, { sound: 'click' });
const pieces: Record<string, Piece> = { tide: part('Tide', 1), ebb };
const show = {
  ...makeShow('Slip'),
  size: { width: 128, height: 96 },
  entries: [makeEntry('tide', 'tide'), { ...makeEntry('ebb', 'ebb'), fade: 10 / 30 }],
};
const rows: NightRow[] = [
  { time: 2, stretch: 0, entry: 'tide', at: 0, act: { all: 'go', entry: 'tide' } },
  { time: 2.2, stretch: 1, entry: 'tide', at: 0.2, act: { control: 'spread', to: 1 } },
  { time: 2.7, stretch: 1, entry: 'tide', at: 0.7, act: { all: 'go', entry: 'ebb' } },
  { time: 3.2, stretch: 2, entry: 'ebb', at: 0.5, act: { all: 'brightness', to: 0.5 } },
];

let dir: string;
beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
  const files = Object.entries(pieces).map(([id, p]) => {
    writeFileSync(join(dir, `${id}.json`), pieceText(p));
    return [`pieces/${id}.swarm.json`, strToU8(pieceText(p))] as const;
  });
  const wav = new Uint8Array(wavBytes(click));
  const zip = {
    'slip.show.json': strToU8(showText(show)),
    'stock/click.wav': wav,
    ...Object.fromEntries(files),
  };
  mkdirSync(join(dir, 'stock'));
  writeFileSync(join(dir, 'stock/click.wav'), wav);
  writeFileSync(join(dir, 'slip.zip'), zipSync(zip));
  writeFileSync(
    join(dir, 'night.csv'),
    nightTable(show, rows, (id) => pieces[id] ?? null),
  );
});
afterAll(() => {
  rmSync(dir, { recursive: true });
});

const pixels = (file: string) => decode(readFileSync(join(dir, file)));

/** A frame of 128 × 72 in one of 128 × 96, as three numbers a pixel; black above and below. */
function within({ data, channels }: ReturnType<typeof decode>): number[] {
  const inside = Array.from({ length: 3 * 128 * 72 }, (_, i) => {
    return data[Math.floor(i / 3) * channels + (i % 3)]!;
  });
  const rim = new Array<number>(3 * 128 * 12).fill(0);
  return [...rim, ...inside, ...rim];
}

const flat = ({ data, channels }: ReturnType<typeof decode>): number[] =>
  Array.from({ length: 3 * 128 * 96 }, (_, i) => data[Math.floor(i / 3) * channels + (i % 3)]!);

test('frames of a night are those of its stretches, with cross-fade and brightness', async () => {
  const run = await vastSwarm(
    'night',
    join(dir, 'slip.zip'),
    '--played',
    join(dir, 'night.csv'),
    '--out',
    join(dir, 'whole'),
  );
  expect([run.err, run.code]).toEqual(['', 0]);
  // From the first entry to the end of the second, 0.7 and 1 s.
  expect(readdirSync(join(dir, 'whole')).length).toBe(51);
  for (const [id, stretch] of [
    ['tide', 1],
    ['ebb', 2],
  ] as const) {
    const one = await vastSwarm(
      'render',
      join(dir, `${id}.json`),
      '--played',
      join(dir, 'night.csv'),
      '--stretch',
      String(stretch),
      '--size',
      '128x72',
      '--out',
      join(dir, id),
    );
    expect([one.err, one.code]).toEqual(['', 0]);
  }
  const name = (f: number): string => `frame_${String(f).padStart(4, '0')}.png`;
  const tide = (f: number): number[] => within(pixels(`tide/${name(f)}`));
  const ebb = (f: number): number[] => within(pixels(`ebb/${name(f)}`));
  const whole = (f: number): number[] => flat(pixels(`whole/${name(f)}`));
  const apart = (a: number[], b: number[]): number =>
    a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);
  expect(apart(whole(0), tide(0))).toBe(0);
  expect(apart(whole(20), tide(20))).toBe(0);
  // It was turned up: without that there would be less of it.
  const light = (all: number[]): number => all.reduce((sum, v) => sum + v, 0);
  expect(light(whole(20))).toBeGreaterThan(2 * light(whole(5)));
  const mixed = (f: number, mix: number): number[] => {
    const [below, top] = [tide(f), ebb(f - 21)];
    return top.map((v, i) => mix * v + (1 - mix) * below[i]!);
  };
  expect(apart(whole(21), mixed(21, 0.1))).toBeLessThanOrEqual(1);
  expect(apart(whole(25), mixed(25, 0.5))).toBeLessThanOrEqual(1);
  expect(apart(whole(31), ebb(10))).toBe(0);
  expect(
    apart(
      whole(40),
      ebb(19).map((v) => v / 2),
    ),
  ).toBeLessThanOrEqual(1);
});

test('a night becomes a video; what is no show, no night, or no part of it is refused', async () => {
  const zip = join(dir, 'slip.zip');
  const csv = join(dir, 'night.csv');
  const film = join(dir, 'night.mp4');
  const run = await vastSwarm('night', zip, '--played', csv, '--quality', 'draft', '--out', film);
  expect([run.err, run.code]).toEqual(['', 0]);
  const about = [
    '-v',
    'error',
    '-select_streams',
    'v',
    '-count_frames',
    '-show_entries',
    'stream=nb_read_frames',
  ];
  const said = execFileSync('ffprobe', [...about, '-of', 'csv=p=0', film]).toString();
  expect(said.trim()).toBe('51');
  // The second piece begins 0.7 s behind the first.
  const sound = ['-v', 'error', '-i', film, '-f', 'f32le', '-ac', '1', '-ar', '48000', '-'];
  const bytes = execFileSync('ffmpeg', sound, { maxBuffer: 2 ** 26 });
  const heard = new Float32Array(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length),
  );
  const first = heard.findIndex((v) => Math.abs(v) > 0.3);
  expect(Math.abs(first / 48_000 - 1.2)).toBeLessThan(0.01);
  const refusals: [string[], string][] = [
    [[join(dir, 'tide.json'), '--played', csv, '--out', film], 'A show is exported as a zip.'],
    [[zip, '--played', join(dir, 'none.csv'), '--out', film], 'none.csv: cannot be read'],
    [
      [zip, '--played', csv, '--out', join(dir, 'x_%04d.exr')],
      'a night is written as PNG or as a video',
    ],
    [[zip, '--played', csv, '--out', join(dir, 'x.mov')], 'a night has 8 bits'],
  ];
  for (const [args, words] of refusals) {
    const refused = await vastSwarm('night', ...args);
    expect(refused.code).toBe(1);
    expect(refused.err).toContain(words);
  }
  writeFileSync(join(dir, 'empty.csv'), 'time,name,value,over,ease,stretch,entry,at,piece\n');
  const empty = await vastSwarm('night', zip, '--played', join(dir, 'empty.csv'), '--out', film);
  expect(empty.err).toContain('nothing of this show was played in it');
});
