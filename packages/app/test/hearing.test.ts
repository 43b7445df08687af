import { LiveSound, type Sound } from '@vast-swarm/core/stock';
import { makePart, makePiece, type Piece } from '@vast-swarm/core/piece';
import type { LiveInput } from '@vast-swarm/core/plan';
import { Hearing } from '../src/engine/hearing';

/** What the interface asks about sounds and signals, against what they were made from. */

const RATE = 8000;
const HASH = 'd'.repeat(16);

/** A click of a tone every half second, from a tenth of a second on. */
function clicks(seconds: number): Sound {
  const samples = Int16Array.from({ length: seconds * RATE }, (_, i) => {
    const into = (((i / RATE - 0.1) % 0.5) + 0.5) % 0.5;
    const on = i / RATE >= 0.1 && into < 0.02;
    return on ? Math.round(24_000 * Math.sin((2 * Math.PI * 1000 * i) / RATE)) : 0;
  });
  return { type: 'sound', rate: RATE, channels: [samples] };
}

function heardPiece(dials: object = {}): Piece {
  const piece = makePiece('Heard');
  Object.assign(piece.frame, { rate: 30, length: 300 });
  piece.stock.push({
    id: 'file',
    name: 'File',
    type: 'sound',
    source: { file: 'a.wav', hash: HASH },
  });
  piece.sounds.push({ ...makePart('sounds', 'played', []), id: 'tick' });
  Object.assign(piece.sounds[0]!.dials, { sound: 'file', ...dials });
  const level = { ...makePart('signals', 'level', []), id: 'loud' };
  Object.assign(level.dials, { sound: 'tick', window: 0.02, fall: 0.05, gain: 12 });
  const strike = { ...makePart('signals', 'strike', []), id: 'hit' };
  Object.assign(strike.dials, { signal: 'loud', threshold: 0.3, delay: 0.1 });
  piece.signals.push(level, strike);
  return piece;
}

function hearing(piece: Piece | null, live: ReadonlyMap<string, LiveInput> = new Map()): Hearing {
  const files = new Map([[HASH, clicks(8)]]);
  return new Hearing(() => ({ piece, plan: null, files, live }));
}

test('where a sound stands in the piece, trimmed or not', () => {
  const whole = { whole: 8, fadeIn: 0, fadeOut: 0, repeats: false };
  expect(hearing(heardPiece()).extent('tick')).toEqual({ ...whole, start: 0, from: 0, to: 8 });
  const trimmed = hearing(heardPiece({ start: 60, from: 1.5, to: 6, fadeIn: 0.5 }));
  expect(trimmed.extent('tick')).toEqual({ ...whole, start: 2, from: 1.5, to: 6, fadeIn: 0.5 });
  expect(trimmed.extent('nobody')).toBeNull();
});

test.each([
  [{}, 0],
  [{ start: 90 }, 3],
  [{ start: 30, from: 0.35 }, 0.65],
])('moments of firing and the beat are where the clicks are: %j', (dials, later) => {
  const asked = hearing(heardPiece(dials));
  const first = asked.extent('tick')!.start;
  const fired = asked.fired('hit', 0, 9.9);
  expect(fired.length).toBeGreaterThan(10);
  for (const at of fired) {
    // A click, the delay of the strike, and what the level takes to rise.
    const off = (at - 0.1 - (0.1 + later)) / 0.5;
    expect(Math.abs(off - Math.round(off)) * 0.5).toBeLessThan(0.015);
    expect(at).toBeGreaterThan(first);
  }
  // Only those between the two times that were asked for.
  const some = asked.fired('hit', fired[3]! - 0.01, fired[5]! + 0.01);
  expect(some).toEqual(fired.slice(3, 6));
  const { tempo, first: beat } = asked.tempo('tick')!;
  expect(tempo).toBe(120);
  const phase = (beat - 0.1 - later) / 0.5;
  expect(Math.abs(phase - Math.round(phase)) * 0.5).toBeLessThan(0.02);
  expect(beat).toBeGreaterThanOrEqual(first - 1e-9);
  expect(asked.fired('loud', 0, 9)).toEqual([]);
});

test('waveform and spectrum are those of the moment', () => {
  const asked = hearing(heardPiece({ start: 30 }));
  const { high } = asked.peaks('tick', 1, 2, 100)!;
  expect(Math.max(...high.slice(10, 13))).toBeGreaterThan(0.6);
  expect(Math.max(...high.slice(0, 9), ...high.slice(13, 55))).toBe(0);
  const range: [number, number] = [20, 3000];
  const now = asked.spectrum('tick', 1.13, range, 60)!;
  const top = now.indexOf(Math.max(...now));
  expect(Math.abs(top - Math.floor((60 * Math.log(50)) / Math.log(150)))).toBeLessThanOrEqual(1);
  expect(Math.max(...asked.spectrum('tick', 1.45, range, 60)!)).toBe(-90);
  // Before it begins nothing is heard.
  expect(asked.spectrum('tick', 0.5, range, 60)).toBeNull();
});

test('a curve is the signal at even times; of what is not there it is 0', () => {
  const asked = hearing(heardPiece());
  const curve = asked.curve('loud', 4, 401);
  expect(curve).toHaveLength(401);
  expect(curve[12]!).toBeGreaterThan(0.3);
  expect(curve[5]).toBe(0);
  expect([...asked.curve('nobody', 4, 5)]).toEqual([0, 0, 0, 0, 0]);
  const none = hearing(null);
  expect([none.peaks('tick', 0, 1, 4), none.tempo('tick'), none.sound('file')]).toEqual([
    null,
    null,
    null,
  ]);
});

test('what is being recorded is told as far as it goes', () => {
  const piece = heardPiece();
  piece.sounds[0] = { ...makePart('sounds', 'live', []), id: 'tick' };
  const live = new LiveSound(RATE, 2);
  const asked = hearing(piece, new Map([['tick', live]]));
  expect(Math.max(...asked.peaks('tick', 0, 10, 50)!.high)).toBe(0);
  live.append(clicks(8).channels[0]!.slice(0, 3 * RATE));
  const { high } = asked.peaks('tick', 0, 10, 50)!;
  expect(high.findIndex((v) => v > 0)).toBe(10);
  expect(high.findLastIndex((v) => v > 0)).toBe(23);
  expect(asked.extent('tick')).toMatchObject({ start: 2, whole: 3 });
});
