import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { frameHash } from '../../../tests/support/frameHash';
import { pieceOfEveryKind, smallPiece } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { CpuEngine, MemoryFull, packSnapshot, unpackSnapshot } from '../src';

const engines: CpuEngine[] = [];
beforeAll(async () => {
  for (const threads of [1, 2, 4]) engines.push(await CpuEngine.create({ threads }));
});
afterAll(() => engines.forEach((e) => e.close()));

function hash(engine: CpuEngine, piece: Piece, frame: number): string {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  const { width, height } = piece.frame;
  return frameHash(engine.draw(width, height).pixels);
}

test.each(swept(pieceOfEveryKind(), 0.08))(
  '1, 2 and 4 threads and a second run give the same bits: %s',
  (_, piece) => {
    const [first, ...others] = [...engines, engines[0]!].map((e) => hash(e, piece, 40));
    for (const other of others) expect(other).toBe(first);
    // The hash tells pictures apart: another seed is another picture.
    expect(hash(engines[0]!, { ...piece, seed: 99, name: 'other' }, 40)).not.toBe(first);
  },
);

test.each(
  swept(
    DEMO_SHOW.pieces.map((d): [string, Piece] => [d.id, d.piece]),
    0.3,
  ),
)('the demo is the same on any number of threads, oversampled too: %s', (_, demo) => {
  const frame = { ...demo.frame, width: 320, height: 180, preroll: 10 };
  const piece = { ...demo, frame };
  const hashes = engines.map((engine) => {
    engine.setPlan(compilePiece(piece));
    engine.reset();
    while (engine.frame < 20) engine.step();
    return frameHash(engine.draw(161, 90, 2).pixels);
  });
  expect(new Set(hashes).size).toBe(1);
});

test('a frame is the same played, scrubbed back to, and after a detour over restyling', () => {
  const engine = engines[1]!;
  const piece = smallPiece();
  const played = hash(engine, piece, 50);
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(piece));
  playback.restart();
  playback.seek(85);
  playback.setPlan(
    compilePiece({ ...piece, backdrop: { kind: 'flat', dials: { colour: '#ff0000' } } }),
  );
  playback.setPlan(compilePiece(piece));
  playback.seek(50);
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(played);
});

test('a changed rate moves the living to new slots and keeps their states', () => {
  const engine = engines[0]!;
  hash(engine, smallPiece(), 50);
  const alive = (): number => engine.alive().get('motes')!;
  const before = alive();
  engine.setPlan(compilePiece(smallPiece((p) => (p.swarms[0]!.dials.rate = 4000))));
  // Ids are counted by the new rate, so the youngest of the old ones are those that go on.
  expect(alive()).toBe(before);
});

test('a helper that dies is noticed, replaced, and the frame comes out as before', async () => {
  const engine = await CpuEngine.create({ threads: 2, patience: 300 });
  const piece = smallPiece();
  const wanted = hash(engine, piece, 30);
  engine.crashHelper();
  expect(() => hash(engine, { ...piece, seed: 5 }, 30)).toThrow('stopped answering');
  await engine.recover();
  expect(hash(engine, piece, 30)).toBe(wanted);
  engine.close();
});

test('more memory than there is is refused in words, and the engine goes on', () => {
  const engine = engines[0]!;
  const wanted = hash(engine, smallPiece(), 10);
  expect(() => engine.draw(16384, 16384)).toThrow(MemoryFull);
  expect(hash(engine, smallPiece(), 10)).toBe(wanted);
});

test('state and drawing stay within 96 bytes a particle', async () => {
  const engine = await CpuEngine.create({ threads: 1 });
  const piece = smallPiece((p) => {
    p.frame.length = 2;
    Object.assign(p.swarms[0]!.dials, { rate: 0, burst: 200_000, lifetime: 5 });
  });
  engine.setPlan(compilePiece(piece));
  engine.step();
  expect(engine.memoryBytes / 200_000).toBeLessThan(96);
  engine.close();
});

test('edits of a formula do not use up memory', async () => {
  const engine = await CpuEngine.create({ threads: 2 });
  const edited = (text: string): void => {
    const feed = { feed: 'formula' as const, text, from: 0, to: 1 };
    engine.setPlan(compilePiece(smallPiece((p) => (p.swarms[0]!.dials.opacity = feed))));
    engine.step();
    engine.draw(128, 72);
  };
  edited('sin(age * 10)');
  const before = engine.takenBytes;
  // Every number of sines is another kernel.
  for (let i = 1; i <= 20; i++) edited(`${'sin(age) * '.repeat(i)}0.5`);
  expect(engine.takenBytes - before).toBeLessThan(256 * 1024);
  engine.close();
});

test('a packed state goes on in another engine, to the bit; what is none is refused', () => {
  const piece = smallPiece((p) => p.media.push(makePart('media', 'fluid', [])));
  const [one, other] = [engines[0]!, engines[1]!];
  hash(one, piece, 20);
  const packed = packSnapshot(one.save());
  while (one.frame < 30) one.step();
  other.setPlan(compilePiece(piece));
  other.restore(unpackSnapshot(packed));
  expect(other.frame).toBe(20);
  while (other.frame < 30) other.step();
  const pixels = (engine: CpuEngine): string => frameHash(engine.draw(128, 72).pixels);
  expect(pixels(other)).toBe(pixels(one));
  expect(() => unpackSnapshot(packed.subarray(0, packed.length - 4))).toThrow('cut short');
  for (const bytes of [new Uint8Array(2), new Uint8Array(100), packed.subarray(8)]) {
    expect(() => unpackSnapshot(bytes)).toThrow('are no state');
  }
});
