import { compilePiece } from '@vast-swarm/core/plan';
import { LiveTake } from '@vast-swarm/core/feeds';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** Rate, a force and a size follow the hand. */
function handPiece(): Piece {
  return smallPiece((p) => {
    p.signals = [makePart('signals', 'byHand', [])];
    const feed = { feed: 'signal' as const, signal: 'byHand' };
    const { dials } = p.swarms[0]!;
    dials.rate = { ...feed, from: 100, to: 3000 };
    dials.size = { ...feed, from: 0.02, to: 0.3, evaluate: 'birth' };
    const wind = makePart('forces', 'wind', []);
    wind.dials.speed = { ...feed, from: -4, to: 4 };
    p.forces = [wind];
  });
}

function bits(): string {
  const born = engine.born('motes');
  const states = ['px', 'vx', 'age', 'life'].map((n) => {
    const all = engine.state('motes', n);
    return bytesHash(Float32Array.from({ length: born }, (_, id) => all[id % all.length]!));
  });
  return [born, ...states].join();
}

/** A hand that moves, without order. */
const hand = (frame: number): number => (Math.sin(frame * 1.7) + 1) / 2;

test('what was seen while it was driven is what is played, rendered and scrubbed to', () => {
  const piece = handPiece();
  const live = new LiveTake({ rate: 30, first: 0, values: [] }, 30, 0);
  engine.setPlan(compilePiece(piece, { live: new Map([['byHand', live]]) }));
  engine.reset();
  const seen: string[] = [];
  for (let frame = 0; frame < 60; frame++) {
    // From frame 6 on, as an artist is late.
    if (frame >= 6) live.write(frame, hand(frame));
    engine.step();
    seen.push(bits());
  }
  expect(new Set(seen).size).toBe(60);
  piece.signals[0]!.dials.take = live.copy();
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(piece));
  playback.restart();
  for (const frame of [59, 20, 41]) {
    playback.seek(frame);
    expect(bits()).toBe(seen[frame]);
  }
});

test('a second take over the first one is not shadowed by what was kept of it', () => {
  const piece = handPiece();
  const live = new LiveTake({ rate: 30, first: 0, values: [] }, 30, 0);
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(piece, { live: new Map([['byHand', live]]) }));
  playback.restart();
  const drive = (from: number, to: number, value: number): void => {
    for (let frame = from; frame < to; frame++) {
      live.write(frame, value);
      playback.forgetAfter();
      playback.advance();
    }
  };
  drive(0, 50, 1);
  playback.seek(19);
  drive(20, 30, 0);
  playback.seek(45);
  const seen = bits();
  piece.signals[0]!.dials.take = live.copy();
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < 45) engine.step();
  expect(bits()).toBe(seen);
});
