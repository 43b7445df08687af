import {
  boundsOf,
  withWords,
  type Mesh,
  type Outline,
  type StockFiles,
  wordsKey,
} from '@vast-swarm/core/stock';
import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, makeChoice, type Piece } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import { CpuEngine } from '../src';
import { smallPiece } from '../../../tests/support/pieces';

/** Particles of words know the letter that they were born on. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** A swarm on the words 'LIT UP', by an emitter, all of whose feeds have `text` in one dial. */
async function onWords(
  type: 'outline' | 'mesh',
  kind: string,
  dials: DialValues,
  change: (piece: Piece) => void,
): Promise<{ piece: Piece; files: StockFiles; data: Mesh | Outline }> {
  const piece = smallPiece((p) => {
    const source = type === 'mesh' ? { words: 'LIT UP', depth: 0.2 } : { words: 'LIT UP' };
    p.forces = [];
    p.stock.push({ id: 'title', name: 'Title', type, source });
    p.swarms[0]!.emitter = makeChoice('emitters', kind);
    Object.assign(p.swarms[0]!.emitter.dials, dials);
    Object.assign(p.swarms[0]!.launch.dials, { speed: 0 });
    p.swarms[0]!.dials.size = {
      feed: 'formula',
      text: '0.01 * (1 + letter)',
      from: 0,
      to: 1,
    };
    change(p);
  });
  const files = await withWords(piece.stock, new Map());
  const data = files.get(wordsKey(piece.stock.find((s) => s.id === 'title')!));
  return { piece, files, data: data as Mesh | Outline };
}

/** The box of each letter along x. */
function stretches(data: Mesh | Outline): [number, number][] {
  const points: number[][] = Array.from({ length: data.words!.count }, () => []);
  data.words!.letterOf.forEach((letter, i) => {
    if (data.type === 'outline') points[letter]!.push(...data.curves[i]!.points);
    else {
      for (const v of data.triangles.subarray(3 * i, 3 * i + 3)) {
        points[letter]!.push(...data.positions.subarray(3 * v, 3 * v + 3));
      }
    }
  });
  return points.map((p) => boundsOf(Float32Array.from(p)).map((v) => v[0]!) as [number, number]);
}

test.each([
  ['outline', 'outline', { outline: 'title' }],
  ['outline', 'outline', { outline: 'title', placing: 'even', places: 400 }],
  ['mesh', 'mesh', { mesh: 'title' }],
  ['mesh', 'mesh', { mesh: 'title', from: 'edges' }],
  ['mesh', 'mesh', { mesh: 'title', from: 'vertices' }],
  ['mesh', 'mesh', { mesh: 'title', from: 'inside' }],
  ['mesh', 'morph', { shape1: 'salt', shape2: 'title', amount: 1, stagger: 0, places: 500 }],
] as const)('born of %s by %s %o, each is within its letter', async (type, kind, dials) => {
  const { piece, files, data } = await onWords(type, kind, { ...dials }, (p) => {
    const mesh = p.stock.find((s) => s.type === 'mesh' && s.id !== 'title')!;
    if (kind === 'morph') p.swarms[0]!.emitter.dials.shape1 = mesh.id;
  });
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  while (engine.frame < 30) engine.step();
  const [x, letter, life] = ['px', 'letter', 'life'].map((name) => engine.state('motes', name));
  const found = stretches(data);
  const seen = new Set<number>();
  for (let i = 0; i < x!.length; i++) {
    if (!(life![i]! > 0)) continue;
    seen.add(letter![i]!);
    const [low, high] = found[letter![i]!]!;
    // Places inside go by cells.
    const loose = 'from' in dials && dials.from === 'inside' ? 0.06 : 1e-4;
    expect(x![i]!).toBeGreaterThan(low - loose);
    expect(x![i]!).toBeLessThan(high + loose);
  }
  expect([...seen].sort()).toEqual([0, 1, 2, 3, 4]);
});

test('a morph goes letter by letter where its amount does', async () => {
  const amount = { feed: 'formula', text: 'letter < 2 ? 0 : 1', from: 0, to: 1 } as const;
  const dials = { shape1: 'title', amount, stagger: 0, detour: 0, places: 600 };
  const { piece, files, data } = await onWords('outline', 'morph', dials, (p) => {
    const ring = { id: 'far', name: 'Far', type: 'outline' as const };
    p.stock.push({ ...ring, source: { path: 'M100 0h1v1h-1Z' } });
    p.swarms[0]!.emitter.dials.shape2 = 'far';
  });
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  while (engine.frame < 20) engine.step();
  const [x, letter, life] = ['px', 'letter', 'life'].map((name) => engine.state('motes', name));
  const first = stretches(data)[1]![1];
  let gone = 0;
  for (let i = 0; i < x!.length; i++) {
    if (!(life![i]! > 0)) continue;
    expect(x![i]! > 50).toBe(letter![i]! >= 2);
    if (x![i]! > 50) gone++;
    else expect(x![i]!).toBeLessThan(first + 1e-4);
  }
  expect(gone).toBeGreaterThan(100);
});

test('a picture set goes by the letter', async () => {
  const body = makePart('bodies', 'pictureSet', []);
  const { piece, files } = await onWords('mesh', 'mesh', { mesh: 'title' }, (p) => {
    const sheet = p.stock.find((s) => s.type === 'picture')!.id;
    Object.assign(body.dials, { pictures: [sheet], columns: 4, rows: 1, pick: 'letter' });
    p.swarms[0]!.bodies = [body];
    p.swarms[0]!.dials.size = 0.2;
  });
  engine.setPlan(compilePiece(piece, { files }));
  engine.reset();
  while (engine.frame < 20) engine.step();
  const [letter, life] = ['letter', 'life'].map((name) => engine.state('motes', name));
  expect(new Set(letter!.filter((_, i) => life![i]! > 0)).size).toBe(5);
  const { pixels } = engine.draw(128, 72);
  const other = compilePiece(
    {
      ...piece,
      swarms: piece.swarms.map((s) => ({
        ...s,
        bodies: [{ ...body, dials: { ...body.dials, pick: 'order' } }],
      })),
    },
    { files },
  );
  engine.setPlan(other);
  engine.reset();
  while (engine.frame < 20) engine.step();
  expect(engine.draw(128, 72).pixels).not.toEqual(pixels);
});

test('what the piece says of words that are not whole', async () => {
  const { piece, files } = await onWords(
    'outline',
    'outline',
    { outline: 'title' },
    () => undefined,
  );
  const say = (words: string, known: StockFiles): string[] => {
    const stock = piece.stock.map((s) => (s.id === 'title' ? { ...s, source: { words } } : s));
    return compilePiece({ ...piece, stock }, { files: known }).notices.map((n) => n.message);
  };
  const laid = await withWords([{ ...piece.stock.at(-1)!, source: { words: 'Ω UP' } }], new Map());
  expect(say('Ω UP', laid)).toContainEqual(expect.stringMatching(/has no letters for Ω: they are/));
  expect(say('', files)).toContainEqual(
    expect.stringMatching(/Title has no letters yet: type some/),
  );
  expect(say('Ω', files)).toContainEqual(expect.stringMatching(/has none of its letters/));
});
