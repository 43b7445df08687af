import { compilePiece } from '@vast-swarm/core/plan';
import { LiveSound } from '@vast-swarm/core/stock';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import type { ChannelsFeed } from '@vast-swarm/core/feeds';
import { frameHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

/** A colour of three signals against what the signals are, at birth and live. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** Red goes up with time, green down, blue below 0. */
function coloured(evaluate: ChannelsFeed['evaluate'], rate: number): Piece {
  return smallPiece((p) => {
    Object.assign(p.frame, { rate, length: 10 * rate });
    p.signals = ['time / 4', '1 - time / 4', '-1'].map((text, i) => {
      const id = 'abc'[i]!;
      const part = { ...makePart('signals', 'formula', []), id, name: id };
      part.dials.text = text;
      return part;
    });
    const { dials } = p.swarms[0]!;
    dials.light = 1;
    dials.colour = {
      feed: 'channels',
      evaluate,
      red: { signal: 'a', from: 0, to: 2 },
      green: { signal: 'b', from: 0.5, to: 1 },
      blue: { signal: 'c', from: 0.25, to: 1 },
    };
  });
}

test.each([24, 30, 60])('at %d frames a second', async (rate) => {
  for (const evaluate of ['birth', 'live', undefined] as const) {
    engine.setPlan(compilePiece(coloured(evaluate, rate)));
    engine.reset();
    while (engine.frame < 3 * rate) engine.step();
    const now = (engine.frame + 1) / rate;
    const { age, life, red: r, green: g, blue: b } = await engine.particles('motes');
    let [seen, off] = [0, 0];
    age.forEach((a, i) => {
      if (!(a >= 0 && a < life[i]!)) return;
      const time = evaluate === 'birth' ? now - a : now;
      const wanted = [time / 2, 0.5 + 0.5 * (1 - time / 4)];
      [r, g].forEach((c, k) => (off = Math.max(off, Math.abs(c[i]! - wanted[k]!))));
      if (b[i] !== 0) off = Infinity;
      seen += 1;
    });
    expect(off).toBeLessThan(5e-5);
    expect(seen).toBeGreaterThan(100);
  }
});

test('without signals a colour of three is as it begins, and a hole in it is refused by name', () => {
  const piece = coloured('live', 30);
  const colour = piece.swarms[0]!.dials.colour as ChannelsFeed;
  const plain = (p: Piece): string => {
    engine.setPlan(compilePiece(p));
    engine.reset();
    while (engine.frame < 20) engine.step();
    return frameHash(engine.draw(64, 36).pixels);
  };
  const without = {
    ...piece,
    swarms: piece.swarms.map((s) => ({
      ...s,
      dials: {
        ...s.dials,
        colour: {
          ...colour,
          red: { from: 1, to: 9 },
          green: { from: 1, to: 9 },
          blue: { from: 1, to: 9 },
        },
      },
    })),
  };
  const white = {
    ...piece,
    swarms: piece.swarms.map((s) => ({ ...s, dials: { ...s.dials, colour: '#ffffff' } })),
  };
  expect(plain(without)).toBe(plain(white));
});

test('three bands of a live sound colour each particle at its birth, as its take does', async () => {
  const rate = 30;
  const piece = coloured('birth', rate);
  piece.sounds = [{ ...makePart('sounds', 'live', []), id: 'voice' }];
  const bands = { ...makePart('signals', 'bands', []), id: 'bands' };
  Object.assign(bands.dials, { sound: 'voice', count: 3, low: 100, high: 3200, fall: 0.05 });
  piece.signals.push(bands);
  const channel = (n: number) => ({ signal: `bands.${String(n)}`, from: 0.1, to: 3 });
  const colour = {
    feed: 'channels',
    red: channel(1),
    green: channel(2),
    blue: channel(3),
  } as const;
  piece.swarms[0]!.dials.colour = { ...colour, evaluate: 'birth' };
  const tone = (i: number): number => [180, 560, 1800][Math.floor(i / 4000) % 3]!;
  const samples = Int16Array.from({ length: 8000 * 3 }, (_, i) =>
    Math.round(20_000 * Math.sin((2 * Math.PI * tone(i) * i) / 8000)),
  );
  const live = new LiveSound(8000, 0);
  engine.setPlan(compilePiece(piece, { live: new Map([['voice', live]]) }));
  engine.reset();
  for (let frame = 0; frame < 60; frame++) {
    live.append(samples.slice(live.length, Math.ceil(((frame + 1) / rate + 1 / 120) * 8000)));
    engine.step();
  }
  const seen = await engine.particles('motes');
  const colours = new Set(Array.from(seen.red, (r, i) => [r, seen.green[i], seen.blue[i]].join()));
  expect(colours.size).toBeGreaterThan(30);
  const source = { file: 'a.wav', hash: 'b'.repeat(16) };
  piece.stock.push({ id: 'take', name: 'Take', type: 'sound', source });
  Object.assign(piece.sounds[0]!.dials, { take: 'take', start: 0 });
  engine.setPlan(compilePiece(piece, { files: new Map([[source.hash, live.copy()]]) }));
  engine.reset();
  while (engine.frame < 59) engine.step();
  const again = await engine.particles('motes');
  for (const name of ['age', 'red', 'green', 'blue'] as const)
    expect(again[name]).toEqual(seen[name]);
});
