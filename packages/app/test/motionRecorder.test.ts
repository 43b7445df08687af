import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { motionTable } from '@vast-swarm/core/formats';
import { readStock, type CastMember, type Motion } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import type { EngineEvent } from '../src/engine/messages';
import { Session } from '../src/engine/session';
import { playedAgain, undrawn } from './recorded';
import { MotionRecorder, type MotionTake } from '../src/engine/recorders/motion';
import type { ArrivedPose } from '../src/engine/recorders/motion';
import { clock } from '../src/workers/clock';

const CAST: CastMember[] = ['Ada', 'Bo'].map((name) => ({
  name,
  joints: ['hips', 'neck', 'hand'].map((joint, i) => ({ name: joint, parent: i - 1 })),
}));

/** How one of them stands at a second. */
function poseOf(who: number, second: number): Float32Array {
  const swing = Math.sin(5 * second + who);
  return Float32Array.of(who, 1, 0, who, 1.6, 0.1 * swing, who + 0.5 * swing, 1.5, 0.3);
}

/** Where poses are put in by hand. */
class Line {
  onmessage: ((event: MessageEvent) => void) | null = null;
  closed = false;

  close(): void {
    this.closed = true;
  }

  send(pose: ArrivedPose): void {
    this.onmessage?.({ data: pose } as MessageEvent);
  }
}

const FIRST = Float32Array.from([...poseOf(0, 0), ...poseOf(1, 0)]);

test('each frame takes where they are now, a pose a frame, and who is silent stays', () => {
  let now = 100;
  const line = new Line();
  const recorder = new MotionRecorder('them', { cast: CAST, first: FIRST, port: line }, () => now);
  expect(recorder.input).toBeNull();
  recorder.begin(12, 30);
  recorder.until(12);
  for (let frame = 13; frame < 43; frame++) {
    for (const half of [0, 1]) {
      const at = now + half / 60;
      line.send([0, at, at, poseOf(0, at)]);
    }
    now += 1 / 30;
    recorder.until(frame);
    // Once more of the same frame is nothing new.
    recorder.until(frame);
  }
  const { part, start, motion, full } = recorder.end()!;
  expect({ part, start, full }).toEqual({ part: 'them', start: 12, full: false });
  expect(motion.times).toHaveLength(31);
  const [ada, bo] = motion.performers;
  expect(ada!.joints).toEqual(CAST[0]!.joints);
  // A pose behind the newest, as it was then.
  const shown = 100 + 30 / 30 - 1 / 60;
  [...ada!.places.slice(-9)].forEach((v, i) => {
    expect(v).toBeCloseTo(poseOf(0, shown)[i]!, 1);
  });
  expect([...bo!.places.slice(-9)]).toEqual([...poseOf(1, 0)]);
  expect(line.closed).toBe(true);
});

/** Born bound to joints, colliding with bodies, with a size that follows a speed. */
function livePiece(): Piece {
  return smallPiece((p) => {
    Object.assign(p.frame, { rate: 25, length: 200 });
    p.finish = [];
    p.performers = [{ ...makePart('performers', 'live', []), id: 'them' }];
    const fast = { ...makePart('signals', 'joint', []), id: 'fast' };
    Object.assign(fast.dials, { performer: 'them', joint: ['Ada hand'], measure: 'speed', to: 3 });
    const after = { ...makePart('signals', 'follow', []), id: 'after' };
    after.dials.signal = 'fast';
    p.signals = [fast, after];
    const feed = { feed: 'signal' as const, signal: 'after' };
    p.swarms[0]!.dials.rate = { ...feed, from: 200, to: 3000 };
    p.swarms[0]!.emitter = makeChoice('emitters', 'joints');
    Object.assign(p.swarms[0]!.emitter.dials, { performer: 'them', from: 'surface' });
    const bodies = makePart('colliders', 'performer', []);
    bodies.dials.performer = 'them';
    p.colliders = [bodies];
  });
}

/** Of those who live: where what never was would be is of no matter. */
function stateOf(engine: CpuEngine): string {
  const born = engine.born('motes');
  const [age, life] = [engine.state('motes', 'age'), engine.state('motes', 'life')];
  const slots = Array.from({ length: born }, (_, id) => id % age.length);
  const alive = slots.filter((slot) => age[slot]! < life[slot]!);
  const hashes = ['px', 'py', 'vx', 'age'].map((name) => {
    const all = engine.state('motes', name);
    return bytesHash(Float32Array.from(alive, (slot) => all[slot]!));
  });
  return [alive.length, ...hashes].join();
}

test('a session records while it plays, and what was seen is what its take gives, from its file', async () => {
  const engine = await CpuEngine.create({ threads: 1 });
  const seen = new Map<number, string>();
  const line = new Line();
  const beat = setInterval(() => {
    const now = clock();
    for (const who of [0, 1]) line.send([who, now, now, poseOf(who, now)]);
  }, 12);
  const taken = await new Promise<MotionTake>((resolve) => {
    const tell = (event: EngineEvent): void => {
      if (event.type === 'taken') resolve(event.taken.take as MotionTake);
      if (event.type !== 'frame') return;
      const { frame, playing, settling } = event.report;
      if (!playing || settling > 0) return;
      seen.set(frame, stateOf(engine));
      if (frame === 60) session.play(false);
    };
    const session = new Session(undrawn(engine), tell);
    session.setPiece(livePiece());
    session.record('performers', 'them', {
      cast: CAST,
      first: FIRST,
      port: line as unknown as MessagePort,
    });
    session.play(true);
  });
  clearInterval(beat);
  const { part, start, motion } = taken;
  expect(part).toBe('them');
  const text = [...motionTable(motion)].join('');
  const take = (await readStock('take.csv', new TextEncoder().encode(text))) as Motion;
  const replayed = livePiece();
  const source = { file: 'take.csv', hash: 'a'.repeat(16) };
  replayed.stock.push({ id: 't', name: 'T', type: 'motion', source });
  Object.assign(replayed.performers[0]!.dials, { take: 't', start });
  engine.setPlan(compilePiece(replayed, { files: new Map([[source.hash, take]]) }));
  const compared = await playedAgain(engine, stateOf, seen, [0, 60]);
  expect(compared).toBeGreaterThan(20);
  expect(new Set(seen.values()).size).toBeGreaterThan(20);
  engine.close();
});
