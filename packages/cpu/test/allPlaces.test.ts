import '@vast-swarm/core/content';
import { compilePiece } from '@vast-swarm/core/plan';
import { made, type Cloud, type Mesh, type Picture } from '@vast-swarm/core/stock';
import { makeChoice, type Piece } from '@vast-swarm/core/piece';
import type { DialValues } from '@vast-swarm/core/kinds';
import { matched } from '@vast-swarm/core/stock/places/match';
import { spotsOf } from '@vast-swarm/core/stock/places/pictureParts';
import { CpuEngine } from '../src';
import { thrown } from './flight';

/** Births that give each place of an emitter one: no place is left out, and none is given twice. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function whole(kind: string, dials: DialValues, change: (piece: Piece) => void): Piece {
  const piece = thrown(0, []);
  piece.swarms[0]!.emitter = makeChoice('emitters', kind);
  Object.assign(piece.swarms[0]!.emitter.dials, dials);
  Object.assign(piece.swarms[0]!.dials, { when: 'once', lasts: 'ever', rate: 0, burst: 0 });
  change(piece);
  return piece;
}

/** Where particles live at the end of frame `frame`, each as a text to the tenth of a millimetre. */
function places(piece: Piece, frame = 0): string[] {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  const read = (name: string): Float32Array => engine.state('motes', name);
  const [x, y, z, age, life] = ['px', 'py', 'pz', 'age', 'life'].map(read);
  return Array.from(x!, (_, i) => i)
    .filter((i) => age![i]! >= 0 && age![i]! < life![i]!)
    .map((i) => spot([x![i]!, y![i]!, z![i]!]))
    .sort();
}

const spot = (p: ArrayLike<number>): string =>
  [0, 1, 2].map((k) => (Math.round(p[k]! * 1e4) || 0).toString()).join(' ');

function spotsIn(points: Float32Array, scale = 1): string[] {
  return Array.from({ length: points.length / 3 }, (_, i) =>
    spot(Array.from(points.subarray(3 * i, 3 * i + 3), (v) => v * scale)),
  ).sort();
}

function lattice(columns: number, rows: number, layers: number, spacing: number): string[] {
  const found: string[] = [];
  for (let i = 0; i < columns * rows * layers; i++) {
    const cell = [i % columns, Math.floor(i / columns) % rows, Math.floor(i / columns / rows)];
    const middle = [columns, rows, layers].map((n) => (n - 1) / 2);
    found.push(spot(cell.map((c, k) => (c - middle[k]!) * spacing)));
  }
  return found.sort();
}

function pixels(): string[] {
  const { x, y } = spotsOf(made('chart') as Picture, 'brightness', 0.35);
  return Array.from(x, (v, i) => spot([v * 2, y[i]! * 2, 0])).sort();
}

function shapePlaces(count: number): string[] {
  const [x, y, z] = matched([made('conch')], count).shapes[0]!;
  return Array.from(x!, (v, i) => spot([v, y![i]!, z![i]!])).sort();
}

const MESH = made('buoy') as Mesh;
const EMITTERS: [string, DialValues, () => string[]][] = [
  [
    'lattice',
    { columns: 7, rows: 5, layers: 3, spacing: [0.5, 0.5, 0.5] },
    () => lattice(7, 5, 3, 0.5),
  ],
  ['cloud', { cloud: 'lamps', size: 0.5 }, () => spotsIn((made('lamps') as Cloud).positions, 0.5)],
  ['mesh', { mesh: 'buoy', from: 'vertices' }, () => spotsIn(MESH.positions)],
  ['picture', { picture: 'chart', limit: 0.35, width: 2 }, pixels],
  ['morph', { shape1: 'conch', places: 777, detour: 0 }, () => shapePlaces(777)],
];

test.each(EMITTERS)('%s gives each of its places one, in whatever order', (kind, dials, known) => {
  const expected = known();
  for (const order of ['random', 'shuffled', 'numbered']) {
    const piece = whole(kind, dials, (p) => {
      const values = p.swarms[0]!.emitter.dials;
      if ('order' in values) values.order = order;
    });
    expect(places(piece)).toEqual(expected);
  }
});

test.each([0.1, 0.5, 0.9])('at a density of %d a part of the places, none twice', (density) => {
  const all = new Set(lattice(9, 9, 9, 0.25));
  for (const order of ['random', 'numbered']) {
    const dials: DialValues = {
      columns: 9,
      rows: 9,
      layers: 9,
      spacing: [0.25, 0.25, 0.25],
      order,
    };
    const found = places(whole('lattice', dials, (p) => (p.density = density)));
    expect(found).toHaveLength(Math.round(729 * density));
    expect(new Set(found).size).toBe(found.length);
    expect(found.every((place) => all.has(place))).toBe(true);
  }
});

test('one by one, in their order, and then no more', () => {
  const dials: DialValues = { columns: 30, rows: 1, layers: 1, spacing: [1, 1, 1] };
  const piece = whole('lattice', dials, (p) => {
    Object.assign(p.swarms[0]!.dials, { when: 'oneByOne', rate: 60, start: 0.1 });
  });
  const line = lattice(30, 1, 1, 1).sort((a, b) => parseInt(a) - parseInt(b));
  for (const frame of [2, 3, 9, 17, 18, 60]) {
    const born = Math.max(0, Math.min(30, Math.ceil((frame + 1) * 2 - 6 - 1e-6)));
    expect(places(piece, frame)).toEqual(line.slice(0, born).sort());
  }
});

test('what lives for ever is there after an hour, and has the first of every shape', () => {
  const piece = whole('lattice', { columns: 2, rows: 2, layers: 2 }, (p) => {
    p.frame = { ...p.frame, rate: 1, length: 4000 };
  });
  expect(places(piece, 3700)).toHaveLength(8);
});

test('an emitter without places says so, and nothing is born', () => {
  const piece = whole('sphere', {}, () => undefined);
  expect(places(piece)).toEqual([]);
  const { notices } = compilePiece(piece);
  expect(notices.map((n) => n.message)).toEqual([
    "Motes is to give each place of its emitter a particle, but Sphere has no places of its own that could be counted, so none are born. Choose 'In bursts' and say how many.",
  ]);
  piece.swarms[0]!.emitter = makeChoice('emitters', 'mesh');
  piece.swarms[0]!.emitter.dials.mesh = 'buoy';
  expect(compilePiece(piece).notices[0]!.message).toContain('Mesh has no places as it is set');
});
