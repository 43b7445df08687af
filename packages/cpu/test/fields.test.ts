import { compilePiece, motionKeys, type Bake } from '@vast-swarm/core/plan';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { bytesHash, frameHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { wornPiece } from '../../../tests/support/wornWays';
import { CpuEngine } from '../src';

const engines: CpuEngine[] = [];
beforeAll(async () => {
  for (const threads of [1, 2, 4]) engines.push(await CpuEngine.create({ threads }));
});
afterAll(() => engines.forEach((e) => e.close()));

const NAMES = ['count', 'x', 'y', 'z'];
const kept = (name: string): string => `field/ways/kept/${name}`;

function begin(engine: CpuEngine, piece: Piece, bakes = new Map<string, Bake>()): void {
  engine.setPlan(compilePiece(piece, { bakes }));
  engine.reset();
}

function stepTo(engine: CpuEngine, frame: number): void {
  while (engine.frame < frame) engine.step();
}

/** All that the sparks and the field are, and the picture. */
function bitsOf(engine: CpuEngine): string {
  const sparks = ['px', 'vy', 'age'].map((n) => bytesHash(engine.state('sparks', n)));
  const cells = NAMES.map((n) => bytesHash(engine.field(kept(n))));
  return [...sparks, ...cells, frameHash(engine.draw(128, 72).pixels)].join();
}

test.each([
  [30, 0.5, 8],
  [60, 3, 5],
])('cells hold what was in them, fading: %i frames a second, %d s, %i cells', (rate, fade, n) => {
  const engine = engines[1]!;
  const size = 3;
  begin(
    engine,
    wornPiece((p) => {
      p.frame.rate = rate;
      Object.assign(p.forces[0]!.dials, { fade, cells: n, size, centre: [0.2, 0, -0.1] });
    }),
  );
  const wanted = NAMES.map(() => new Float64Array(n ** 3));
  const share = Math.exp(-1 / rate / fade);
  for (let frame = 0; frame < 50; frame++) {
    const state = (name: string): Float32Array => engine.state('motes', name);
    const sums = NAMES.map(() => new Float64Array(n ** 3));
    for (let i = 0; i < Math.min(engine.born('motes'), state('px').length); i++) {
      if (!(state('age')[i]! >= 0 && state('age')[i]! < state('life')[i]!)) continue;
      const at = ['px', 'py', 'pz'].map((axis, k) => {
        const low = Math.fround([0.2, 0, -0.1][k]!) - size / 2;
        return Math.floor(((state(axis)[i]! - low) / size) * n);
      });
      if (at.some((c) => c < 0 || c >= n)) continue;
      const cell = at[0]! + n * (at[1]! + n * at[2]!);
      const left = [1, ...['x', 'y', 'z'].map((v) => state(`seen.${v}`)[i]!)];
      left.forEach((value, k) => (sums[k]![cell]! += value));
    }
    wanted.forEach((cells, k) =>
      cells.forEach((v, c) => (cells[c] = sums[k]![c]! + (v - sums[k]![c]!) * share)),
    );
    engine.step();
  }
  expect(wanted[0]!.reduce((a, b) => a + b)).toBeGreaterThan(60);
  NAMES.forEach((name, k) => {
    const found = engine.field(kept(name));
    // A place within rounding of a border may be counted in the cell beside it.
    const wrong = wanted[k]!.filter((v, c) => Math.abs(v - found[c]!) > 1e-3 * (1 + Math.abs(v)));
    expect(wrong.length).toBeLessThan(0.01 * n ** 3);
  });
});

test('what follows worn ways takes on the velocity of those who wear them', () => {
  const engine = engines[1]!;
  begin(
    engine,
    smallPiece((p) => {
      const rows = p.swarms[0]!;
      // A crowd that crosses the whole box at 1.5 m/s along x, and others who stand in its way.
      rows.emitter.dials.radius = 4;
      Object.assign(rows.dials, { rate: 0, burst: 4000, lifetime: 60 });
      rows.launch = { kind: 'cone', dials: { ...rows.launch.dials, angle: 0 } };
      p.swarms.push({ ...structuredClone(rows), id: 'sparks', name: 'Sparks' });
      Object.assign(rows.launch.dials, { direction: [1, 0, 0], speed: 1.5 });
      Object.assign(p.swarms[1]!.launch.dials, { direction: [0, 1, 0], speed: 0.5 });
      p.swarms[1]!.emitter.dials.radius = 0.5;
      const ways = makePart('forces', 'wornWays', []);
      Object.assign(ways.dials, { swarm: 'motes', cells: 4, size: 4, fade: 0.05, along: 8 });
      p.forces = [{ ...ways, id: 'ways' }];
      p.influence = { ways: { motes: 0 } };
    }),
  );
  stepTo(engine, 29);
  const mean = (name: string): number => {
    const values = engine.state('sparks', name).slice(0, engine.born('sparks'));
    return values.reduce((a, b) => a + b) / values.length;
  };
  // Nearly all of e^(-8 · 1 s) of the way, at over 20 of the crowd in a cell.
  expect(mean('vx')).toBeGreaterThan(1.45);
  expect(mean('vx')).toBeLessThan(1.5001);
  expect(Math.abs(mean('vy'))).toBeLessThan(0.02);
});

test('what is carried leaves the velocity with which it is seen to move', () => {
  const engine = engines[1]!;
  begin(
    engine,
    wornPiece((p) => {
      // A flow that carries is not in the velocity of what it moves.
      p.forces[1] = { ...makePart('forces', 'curlNoise', []), id: 'turn' };
      p.swarms[0]!.launch.dials.speed = 0;
      Object.assign(p.forces[0]!.dials, { fade: 0.01, cells: 4, size: 40, draw: 0 });
    }),
  );
  const state = (name: string): Float32Array => engine.state('motes', name);
  stepTo(engine, 20);
  const [before, born] = [state('px').slice(), engine.born('motes')];
  stepTo(engine, 21);
  const living = Array.from({ length: born }, (_, i) => i).filter(
    (i) => state('age')[i]! > 0.1 && state('age')[i]! < state('life')[i]!,
  );
  expect(living.length).toBeGreaterThan(300);
  for (const i of living) {
    expect(Math.abs(state('vx')[i]!)).toBe(0);
    expect(state('seen.x')[i]).toBeCloseTo((state('px')[i]! - before[i]!) * 30, 2);
  }
  // At a hundredth of a second hardly anything of the frames before is left: all cells together hold
  // what all that live have.
  let sum = 0;
  for (let i = 0; i < engine.born('motes'); i++) {
    if (state('age')[i]! >= 0 && state('age')[i]! < state('life')[i]!) sum += state('seen.x')[i]!;
  }
  stepTo(engine, 22);
  const held = engine.field(kept('x')).reduce((a, b) => a + b, 0);
  expect(Math.abs(sum)).toBeGreaterThan(5);
  expect(Math.abs(held / sum - 1)).toBeLessThan(0.05);
});

test('the same bits on any number of threads, scrubbed to, and from a snapshot', () => {
  const bits = engines.map((engine) => {
    begin(engine, wornPiece());
    stepTo(engine, 50);
    return bitsOf(engine);
  });
  expect(new Set(bits).size).toBe(1);
  const engine = engines[1]!;
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(wornPiece()));
  playback.restart();
  for (const frame of [70, 23, 12, 50]) playback.seek(frame);
  expect(bitsOf(engine)).toBe(bits[0]);
  // A turned look leaves the field as it is.
  playback.setPlan(compilePiece(wornPiece((p) => (p.swarms[1]!.dials.opacity = 0.5))));
  expect(bytesHash(engine.field(kept('count')))).toBe(bits[0]!.split(',')[3]);
});

test('a baked swarm leaves what it left live, and a baked reader wants no field', async () => {
  const engine = engines[1]!;
  const piece = wornPiece((p) => (p.frame.length = 51));
  const stored = async (id: string): Promise<Bake> => {
    begin(engine, piece);
    const { capacity, state } = compilePiece(piece).swarms.find((s) => s.id === id)!;
    const [frames, born]: [Float32Array[][], number[]] = [[], []];
    while (engine.frame < 50) {
      engine.step();
      frames.push(await engine.stateOf(id));
      born.push(engine.born(id));
    }
    const read = (frame: number): Float32Array[] => frames[frame]!;
    const about = { name: `stored ${id}`, first: 0, last: 50, capacity, state };
    return { ...about, bornAt: (frame) => born[frame] ?? 0, read };
  };
  const leaders = await stored('motes');
  const live = bitsOf(engine);
  begin(engine, piece, new Map([['motes', leaders]]));
  stepTo(engine, 50);
  expect(bitsOf(engine)).toBe(live);
  const followers = await stored('sparks');
  expect(compilePiece(piece, { bakes: new Map([['sparks', followers]]) }).fields).toEqual([]);
});

test('motion depends on all whose ways it reads, and on nothing else', () => {
  const key = (id: string, change: (piece: Piece) => void): string =>
    motionKeys(wornPiece(change), new Map()).get(id)!;
  const same = (): void => undefined;
  const spin = (p: Piece): void => void (p.forces[1]!.dials.speed = 9);
  expect(key('sparks', spin)).not.toBe(key('sparks', same));
  expect(key('motes', (p) => (p.forces[0]!.dials.along = 9))).toBe(key('motes', same));
  const rate = (p: Piece): void => void (p.swarms[1]!.dials.rate = 9);
  expect(key('motes', rate)).toBe(key('motes', same));
  // Cut off from the ways, the sparks are on their own.
  const cut = (p: Piece): void => void (p.influence.ways!.sparks = 0);
  const both = (p: Piece): void => {
    cut(p);
    spin(p);
  };
  expect(key('sparks', both)).toBe(key('sparks', cut));
});
