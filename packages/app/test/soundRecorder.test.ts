import { compilePiece } from '@vast-swarm/core/plan';
import { LiveSound, type Sound } from '@vast-swarm/core/stock';
import { makePart, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { SoundRecorder, type SoundTake } from '../src/engine/recorders/sound';
import { problemOf } from '../src/live/problems';
import type { EngineEvent } from '../src/engine/messages';
import { Recording } from '../src/engine/recorders/recording';
import { Session } from '../src/engine/session';
import { playedAgain, undrawn } from './recorded';

const RATE = 8000;
const FRAMES = 40;

/** Where samples are put in by hand. */
class Line {
  onmessage: ((event: MessageEvent) => void) | null = null;
  closed = false;
  count = 0;

  close(): void {
    this.closed = true;
  }

  /** The next samples, each another than the last. */
  send(count: number): void {
    const data = Int16Array.from({ length: count }, (_, i) => (this.count + i) % 30_000);
    this.count += count;
    this.onmessage?.({ data } as MessageEvent);
  }
}

function opened(): { line: Line; recorder: SoundRecorder } {
  const line = new Line();
  return { line, recorder: new SoundRecorder('voice', { rate: RATE, port: line }) };
}

test('a frame takes what lasts as long as it does, from the moment at which the take is begun', async () => {
  const { line, recorder } = opened();
  line.send(5000);
  line.send(100);
  recorder.begin(12, FRAMES);
  // What came in last may still be heard; what was before is not.
  line.send(1000);
  await recorder.until(12, FRAMES);
  await recorder.until(13, FRAMES);
  const { part, start, take, lost } = recorder.end()!;
  expect({ part, start, lost }).toEqual({ part: 'voice', start: 12, lost: 0 });
  // Two frames, and what signals may read ahead.
  expect(take.channels[0]).toHaveLength(Math.ceil((2 / FRAMES + 2 / 240) * RATE));
  expect(take.channels[0]![0]).toBe(5000);
  expect(line.closed).toBe(true);
});

test('a frame waits for its sound, and goes on in silence where none comes', async () => {
  const { line, recorder } = opened();
  recorder.begin(0, FRAMES);
  let there = false;
  const waits = recorder.until(0, FRAMES).then(() => (there = true));
  line.send(200);
  await Promise.resolve();
  expect(there).toBe(false);
  line.send(200);
  await waits;
  await recorder.until(3, FRAMES);
  const [samples] = recorder.end()!.take.channels;
  expect(samples!.length).toBe(Math.ceil((4 / FRAMES + 2 / 240) * RATE));
  expect(samples!.slice(0, 400)).toEqual(Int16Array.from({ length: 400 }, (_, i) => i));
  expect(samples!.slice(400).every((v) => v === 0)).toBe(true);
});

test('what cannot be kept up with is left out and told, and never more than two frames wait', async () => {
  const { line, recorder } = opened();
  recorder.begin(0, FRAMES);
  for (let frame = 0; frame < 30; frame++) {
    line.send(500);
    await recorder.until(frame, FRAMES);
    recorder.catchUp(FRAMES);
    expect(recorder.behind(FRAMES)).toBeLessThanOrEqual(1.5);
  }
  const { take, lost } = recorder.end()!;
  expect(take.channels[0]!.length / RATE + lost).toBeCloseTo((30 * 500) / RATE, 1);
  expect(lost).toBeGreaterThan(0.5);
});

/** Births and size follow a live input. */
function livePiece(): Piece {
  return smallPiece((p) => {
    Object.assign(p.frame, { rate: FRAMES, length: 200 });
    p.finish = [];
    p.sounds = [{ ...makePart('sounds', 'live', []), id: 'voice' }];
    const level = { ...makePart('signals', 'level', []), id: 'loud' };
    Object.assign(level.dials, { sound: 'voice', window: 0.02, fall: 0.05 });
    p.signals = [level];
    const feed = { feed: 'signal' as const, signal: 'loud' };
    p.swarms[0]!.dials.rate = { ...feed, from: 100, to: 3000 };
    const wind = makePart('forces', 'wind', []);
    wind.dials.speed = { ...feed, from: -4, to: 4 };
    p.forces = [wind];
  });
}

function stateOf(engine: CpuEngine): string {
  const born = engine.born('motes');
  return ['px', 'vx', 'age']
    .map((name) => {
      const all = engine.state('motes', name);
      return bytesHash(Float32Array.from({ length: born }, (_, id) => all[id % all.length]!));
    })
    .join();
}

test('a session records while it plays, and what was seen is what its take gives', async () => {
  const engine = await CpuEngine.create({ threads: 1 });
  const piece = livePiece();
  const seen = new Map<number, string>();
  let take: { start: number; take: Sound } | null = null;
  const line = new Line();
  const done = new Promise<void>((resolve) => {
    const tell = (event: EngineEvent): void => {
      if (event.type === 'taken') {
        take = event.taken.take as SoundTake;
        resolve();
      }
      if (event.type !== 'frame') return;
      const { frame, playing, settling } = event.report;
      if (!playing || settling > 0) return;
      seen.set(frame, stateOf(engine));
      // In parts of a microphone's size, some more than a frame takes.
      line.send(230);
      if (frame === 60) session.play(false);
    };
    const session = new Session(undrawn(engine), tell);
    session.setPiece(piece);
    session.record('sounds', 'voice', { rate: RATE, port: line as unknown as MessagePort });
    session.play(true);
  });
  await done;
  const { start, take: sound } = take!;
  expect(sound.channels[0]!.length).toBeGreaterThan(RATE);
  const replayed = livePiece();
  replayed.stock.push({
    id: 't',
    name: 'T',
    type: 'sound',
    source: { file: 't', hash: 'a'.repeat(16) },
  });
  Object.assign(replayed.sounds[0]!.dials, { take: 't', start });
  engine.setPlan(compilePiece(replayed, { files: new Map([['a'.repeat(16), sound]]) }));
  const compared = await playedAgain(engine, stateOf, seen, [0, 60]);
  expect(compared).toBeGreaterThan(20);
  engine.close();
});

test('a live sound tells from when on it is another', () => {
  const live = new LiveSound(1000, 2);
  live.append(new Int16Array(500));
  live.append(new Int16Array(0));
  live.append(new Int16Array(250));
  expect([0, 1, 2].map((n) => live.changedFrom(n))).toEqual([2, 2.5, Infinity]);
  expect(live.changes).toBe(2);
});

test('what was recorded stands in for the take until the piece has it, whatever else changes meanwhile', async () => {
  const told: unknown[] = [];
  const recording = new Recording<SoundTake>('sounds', (take) => told.push(take?.start ?? null));
  const piece = livePiece();
  const line = new Line();
  recording.open(new SoundRecorder('voice', { rate: RATE, port: line }), piece);
  expect([recording.driving, recording.takes.size]).toEqual([true, 0]);
  const [recorder, begun] = recording.at(5, FRAMES)!;
  expect(begun).toBe(true);
  line.send(600);
  await recorder.until(5, FRAMES);
  expect(recording.at(6, FRAMES)![1]).toBe(false);
  recording.stop(piece);
  expect([told, recording.driving, recording.takes.size]).toEqual([[5], false, 1]);
  // Another dial was turned.
  recording.settle({ ...piece, seed: 9 });
  expect(recording.takes.size).toBe(1);
  const [voice] = piece.sounds;
  recording.settle({ ...piece, sounds: [{ ...voice!, dials: { ...voice!.dials, take: 'new' } }] });
  expect(recording.takes.size).toBe(0);
  // Nothing was recorded: that is told too.
  recording.open(new SoundRecorder('voice', { rate: RATE, port: new Line() }), piece);
  recording.stop(piece);
  expect(told).toEqual([5, null]);
});

test.each([
  ['NotAllowedError', /does not let the page hear/],
  ['NotFoundError', /no microphone or line in/],
  ['OverconstrainedError', /no longer there/],
  ['NotReadableError', /another program/],
  ['Other', /cannot be opened \(why\)/],
])('%s is told in words', (name, told) => {
  expect(problemOf(Object.assign(new Error('why'), { name }), 'audioinput')).toMatch(told);
});
