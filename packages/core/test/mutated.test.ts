import { Document, WebIO } from '@gltf-transform/core';
import { encode } from 'fast-png';
import { zipSync } from 'fflate';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makeShow, parseShow, parseWall, showText, wallText } from '@vast-swarm/core/show';
import { parsePiece, PieceError } from '@vast-swarm/core/piece';
import { readStock, StockError } from '@vast-swarm/core/stock';
import { wavBytes } from '@vast-swarm/core/formats';
import { dice, mutated, mutatedBytes } from '../../../tests/support/mutate';
import { pieceOfEveryKind } from '../../../tests/support/pieces';

/** Files with faults by chance: each is read, or refused in words; nothing falls over, and nothing takes long. */

/** So many times as many files as one has time for at every change: MUTATED=20 is a thorough look. */
const MORE = Number(process.env.MUTATED ?? 1);

/** Seconds that a file may take, whatever is in it. */
const PATIENCE = 5;

function inTime<T>(what: string, work: () => T): T {
  const begun = performance.now();
  const result = work();
  const seconds = (performance.now() - begun) / 1000;
  if (seconds > PATIENCE) throw new Error(`${what} took ${seconds.toFixed(1)} s`);
  return result;
}

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('pieces', () => {
  const whole = [
    ...pieceOfEveryKind().map(([, piece]) => piece),
    ...DEMO_SHOW.pieces.map((d) => d.piece),
  ];

  test.each([1, 2, 3, 4])('with faults by chance, seed %i', (seed) => {
    const roll = dice(seed);
    let [read, refused] = [0, 0];
    for (let k = 0; k < 60 * MORE; k++) {
      const text = JSON.stringify(mutated(whole[roll(whole.length)]!, roll), null, 1);
      try {
        const piece = inTime(`reading ${text.slice(0, 200)}`, () => parsePiece(text));
        inTime(`compiling ${text.slice(0, 200)}`, () => compilePiece(piece));
        read += 1;
      } catch (error) {
        if (!(error instanceof PieceError)) throw error;
        refused += 1;
        // Each says what, and where.
        for (const { message, where, line } of error.problems) {
          expect(message.length).toBeGreaterThan(5);
          expect([where, line > 0]).toEqual([expect.any(String), true]);
        }
      }
    }
    expect(Math.min(read, refused)).toBeGreaterThan(5);
  });

  test('as text, with letters that are gone, doubled or others', () => {
    const roll = dice(9);
    for (let k = 0; k < 60 * MORE; k++) {
      const from = bytes(JSON.stringify(whole[roll(whole.length)], null, 1));
      const text = new TextDecoder().decode(mutatedBytes(from, roll));
      try {
        inTime('reading', () => parsePiece(text));
      } catch (error) {
        expect(error).toBeInstanceOf(PieceError);
      }
    }
  });
});

test('shows and walls', () => {
  const roll = dice(5);
  const wall = DEMO_SHOW.show.wall!;
  for (let k = 0; k < 150; k++) {
    const show = roll(2) ? DEMO_SHOW.show : makeShow('One');
    const works: (() => unknown)[] = [
      () => parseShow(JSON.stringify(mutated(JSON.parse(showText(show)), roll))),
      () => parseWall(JSON.stringify(mutated(JSON.parse(wallText(wall)), roll))),
    ];
    for (const work of works) {
      try {
        inTime('reading', work);
      } catch (error) {
        expect(error).toBeInstanceOf(PieceError);
      }
    }
  }
});

async function glb(): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const positions = document.createAccessor().setType('VEC3').setBuffer(buffer);
  positions.setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]));
  const primitive = document.createPrimitive().setAttribute('POSITION', positions);
  const node = document.createNode().setMesh(document.createMesh().addPrimitive(primitive));
  document.createScene().addChild(node);
  return new WebIO().writeBinary(document);
}

const PNG = encode({
  width: 6,
  height: 4,
  channels: 4,
  depth: 8,
  data: Uint8Array.from({ length: 96 }, (_, i) => 37 * i),
});
const SOUND = {
  type: 'sound' as const,
  rate: 8000,
  channels: [Int16Array.from({ length: 300 }, (_, i) => 9000 * Math.sin(i / 5))],
};

test.each<[string, () => Uint8Array | Promise<Uint8Array>]>([
  ['a.obj', () => bytes('v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 1\nf 1/1 2/1 3/1\nf -1 -2 -3\n')],
  [
    'a.ply',
    () =>
      bytes(
        'ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0 1 2 3\n1 0 0 4 5 6\n0 1 0 7 8 9\n3 0 1 2\n',
      ),
  ],
  [
    'a.stl',
    () =>
      bytes(
        'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n',
      ),
  ],
  [
    'a.svg',
    () =>
      bytes(
        '<svg viewBox="0 0 9 9"><defs><path id="p" d="M0 0C1 2 3 4 5 6Z"/></defs><use href="#p" x="1mm"/><circle r="3"/></svg>',
      ),
  ],
  ['a.csv', () => bytes('x,y,z,r,g,b\n1,2,3,10,20,30\n4,5,6,40,50,60\n')],
  ['a.xyz', () => bytes('1 2 3\n4 5 6\n7 8 9\n')],
  ['a.cube', () => bytes(`LUT_3D_SIZE 2\n${'0 0.5 1\n'.repeat(8)}`)],
  ['a.png', () => PNG],
  ['a.glb', glb],
  ['a.wav', () => wavBytes(SOUND)],
  ['a.zip', () => zipSync({ 'f1.png': PNG, 'f2.png': PNG })],
  [
    'a.bvh',
    () =>
      bytes(
        'HIERARCHY\nROOT hips\n{\n OFFSET 0 0 0\n CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n JOINT head\n {\n  OFFSET 0 1 0\n  CHANNELS 3 Zrotation Xrotation Yrotation\n  End Site\n  {\n   OFFSET 0 0.2 0\n  }\n }\n}\nMOTION\nFrames: 2\nFrame Time: 0.0333\n0 0 0 0 0 0 0 0 0\n0 1 0 0 0 0 0 0 5\n',
      ),
  ],
])('files of the stock: %s', async (name, make) => {
  const [whole, roll] = [await make(), dice(name.charCodeAt(2) + 3)];
  expect(await readStock(name, whole)).toBeDefined();
  for (let k = 0; k < 60 * MORE; k++) {
    const file = mutatedBytes(whole, roll);
    const begun = performance.now();
    try {
      await readStock(name, file);
    } catch (error) {
      expect([name, k, error]).toEqual([name, k, expect.any(StockError)]);
      expect((error as Error).message).toContain(name);
    }
    expect((performance.now() - begun) / 1000).toBeLessThan(PATIENCE);
  }
});
