import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makePart, makeSwarm, pieceText, type Piece } from '@vast-swarm/core/piece';
// @ts-expect-error its package says nothing of its types
import { USDAParser } from 'three/addons/loaders/usd/USDAParser.js';
import { vastSwarm } from '../../../tests/support/commandLine';
import { smallPiece } from '../../../tests/support/pieces';

/** Particles as a scene, as another program reads it, against the tables that simulate writes. */

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'vast-swarm-'));
});
afterEach(() => {
  rmSync(dir, { recursive: true });
});

interface Spec {
  specType: number;
  fields: {
    typeName?: string;
    default?: unknown;
    timeSamples?: { times: number[]; values: number[][] };
    [field: string]: unknown;
  };
}

interface Reader {
  parseData: (text: string) => { specsByPath: Record<string, Spec> };
}

async function exported(piece: Piece, ...more: string[]): Promise<Record<string, Spec>> {
  writeFileSync(join(dir, 'p.json'), pieceText(piece));
  const out = join(dir, 'p.usda');
  const { code, err } = await vastSwarm('export', join(dir, 'p.json'), '--out', out, ...more);
  expect([code, err]).toEqual([0, '']);
  const parser = new (USDAParser as new () => Reader)();
  return parser.parseData(readFileSync(out, 'utf8')).specsByPath;
}

async function tableOf(swarm: string, frame: number): Promise<Record<string, number[]>> {
  const out = join(dir, 'p.csv');
  const args = ['--frames', String(frame), '--swarm', swarm, '--out', out];
  await vastSwarm('simulate', join(dir, 'p.json'), ...args);
  const [head, ...rows] = readFileSync(out, 'utf8').trim().split('\n');
  const values = rows.map((row) => row.split(',').map(Number));
  return Object.fromEntries(head!.split(',').map((name, k) => [name, values.map((r) => r[k]!)]));
}

const sample = (spec: Spec, frame: number): number[] => {
  const { times, values } = spec.fields.timeSamples!;
  return Array.from(values[times.indexOf(frame)]!).flat();
};
const woven = (...columns: number[][]): number[] =>
  columns[0]!.flatMap((_, i) => columns.map((c) => c[i]!));

test('points have what tables have, frame by frame, to the bit', async () => {
  const specs = await exported(
    smallPiece((p) => {
      p.frame.rate = 24000 / 1001;
      const sparks = { ...makeSwarm('disc', []), id: 'sparks', name: 'Späte Funken' };
      p.swarms.push(sparks);
    }),
    '--frames',
    '20..22',
  );
  expect(specs['/']!.fields).toMatchObject({ defaultPrim: 'Small', upAxis: 'Y', metersPerUnit: 1 });
  expect(Number(specs['/']!.fields.timeCodesPerSecond)).toBeCloseTo(24000 / 1001, 10);
  expect(specs['/Small/Motes']!.fields.typeName).toBe('Points');
  expect(specs['/Small/Sp_te_Funken']!.fields.typeName).toBe('Points');
  for (const frame of [20, 22]) {
    const table = await tableOf('motes', frame);
    const is = (attribute: string, ...columns: string[]): void => {
      const found = sample(specs[`/Small/Motes.${attribute}`]!, frame);
      expect(found).toEqual(woven(...columns.map((c) => table[c]!)));
    };
    expect(table.id!.length).toBeGreaterThan(300);
    is('points', 'px', 'py', 'pz');
    is('velocities', 'vx', 'vy', 'vz');
    is('widths', 'size');
    is('ids', 'id');
    is('primvars:displayColor', 'r', 'g', 'b');
    is('primvars:displayOpacity', 'a');
    is('primvars:age', 'age');
    const extent = sample(specs['/Small/Motes.extent']!, frame);
    const low = Math.min(...table.px!.map((x, i) => x - table.size![i]! / 2));
    expect(extent[0]).toBeCloseTo(low, 5);
  }
  // Nothing but the file stays.
  expect(readdirSync(dir).sort()).toEqual(['p.csv', 'p.json', 'p.usda']);
});

test('copies of a mesh are instances, turned, sized and repeated as they are drawn', async () => {
  const specs = await exported(
    smallPiece((p) => {
      const [swarm] = p.swarms;
      const body = makePart('bodies', 'mesh', []);
      Object.assign(body.dials, { facing: 'fixed', wide: 2 });
      Object.assign(body.dials, { turn: 90, scale: 3 });
      swarm!.bodies = [body];
      swarm!.copies = [{ count: 3, offset: [2, 0, 0], turn: [0, 0, 90], scale: 0.5 }];
    }),
    '--frames',
    '30',
    '--swarm',
    'Motes',
  );
  expect(specs['/Small/Motes']!.fields.typeName).toBe('PointInstancer');
  const of = (attribute: string): number[] => sample(specs[`/Small/Motes.${attribute}`]!, 30);
  const table = await tableOf('motes', 30);
  expect(of('positions')).toEqual(woven(table.px!, table.py!, table.pz!));
  expect(of('ids')).toEqual(table.id);
  const scales = of('scales');
  const turned = of('orientations');
  table.size!.forEach((size, i) => {
    [2, 1, 1].forEach((factor, k) => {
      expect(scales[3 * i + k]! / (3 * size)).toBeCloseTo(factor, 4);
    });
    // A quarter turn about the upright axis; this reader puts the real part last.
    [0, Math.SQRT1_2, 0, Math.SQRT1_2].forEach((v, k) => {
      expect(turned[4 * i + k]).toBeCloseTo(v, 4);
    });
  });
  const points = Array.from(specs['/Small/Motes/Mesh.points']!.fields.default as number[]).flat();
  expect(Math.max(...points)).toBe(0.5);
  expect(Math.min(...points)).toBe(-0.5);
  expect(points.length).toBe(12 * 3 * 3);
  // Half as large, turned by a quarter, and 2 m aside; rows are those of a vector on the left.
  const matrix = specs['/Small/Motes_copy_2.xformOp:transform']!.fields.default as number[];
  Array.from(matrix)
    .flat()
    .forEach((v, i) => {
      expect(v).toBeCloseTo([0, 0.5, 0, 0, -0.5, 0, 0, 0, 0, 0, 0.5, 0, 2, 0, 0, 1][i]!, 6);
    });
  expect(specs['/Small/Motes_copy_3']!.fields.typeName).toBe('PointInstancer');
});

test.each([
  [['--out', 'x.abc'], 'particles are written to .usda, .ply or .csv'],
  [['--out', 'x.usda', '--swarm', 'Nets'], "there is no swarm 'Nets'; there are 'Motes', 'Other'"],
  [['--out', 'x.ply'], "a table has one swarm; name it by --swarm, of 'Motes', 'Other'"],
  [['--out', 'p.json/x.usda'], 'this folder cannot be made'],
])('%j is refused: %s', async (args, message) => {
  const piece = smallPiece((p) => {
    p.swarms.push({ ...makeSwarm('disc', []), id: 'other', name: 'Other' });
  });
  writeFileSync(join(dir, 'p.json'), pieceText(piece));
  const [flag, name, ...more] = args as [string, string, ...string[]];
  const at = ['export', join(dir, 'p.json'), flag, join(dir, name), ...more];
  const { code, err } = await vastSwarm(...at);
  expect([code, err]).toEqual([1, expect.stringContaining(message)]);
  expect(readdirSync(dir)).toEqual(['p.json']);
});

test('a table of one swarm is that of simulate', async () => {
  writeFileSync(join(dir, 'p.json'), pieceText(smallPiece()));
  const out = (name: string): string[] => ['--frames', '9', '--out', join(dir, name)];
  await vastSwarm('export', join(dir, 'p.json'), ...out('a.ply'));
  await vastSwarm('simulate', join(dir, 'p.json'), '--swarm', 'motes', ...out('b.ply'));
  expect(readFileSync(join(dir, 'a.ply'))).toEqual(readFileSync(join(dir, 'b.ply')));
});
