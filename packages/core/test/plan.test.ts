import { makePart } from '@vast-swarm/core/piece';
import { compilePiece, type Plan } from '@vast-swarm/core/plan';
import { MOST_PARTICLES } from '../src/plan/plan';
import { Playback, type Engine, type Snapshot } from '@vast-swarm/core/play';
import { smallPiece } from '../../../tests/support/pieces';

test('capacity is derived; a limit that bites is told with what would be enough', () => {
  const free = compilePiece(smallPiece());
  expect(free.notices).toEqual([]);
  expect(free.swarms[0]!.capacity).toBeGreaterThanOrEqual(2700);
  const tight = compilePiece(smallPiece((p) => (p.swarms[0]!.dials.limit = 500)));
  expect(tight.swarms[0]!.capacity).toBe(500);
  const [notice] = tight.notices;
  expect(notice!.message).toMatch(
    /2,\d{3} particles.*holds it at 500.*A limit of 2,\d{3} would be enough/,
  );
});

test('more than the machine can hold is capped, in numbers', () => {
  const plan = compilePiece(
    smallPiece((p) => Object.assign(p.swarms[0]!.dials, { rate: 9_000_000, lifetime: 100 })),
  );
  expect(plan.swarms[0]!.capacity).toBe(MOST_PARTICLES);
  expect(plan.notices[0]!.message).toContain('holds it at 8,000,000');
});

test('what takes very much memory is told, with how much and what would help', () => {
  const heavy = (length: number): string[] => {
    const piece = smallPiece((p) => {
      p.frame.length = 900;
      Object.assign(p.swarms[0]!.dials, { rate: 200_000, lifetime: 10 });
      p.swarms[0]!.bodies = [makePart('bodies', 'trail', [])];
      p.swarms[0]!.bodies[0]!.dials.length = length;
    });
    const { notices, swarms } = compilePiece(piece);
    const bytes = 4 * swarms[0]!.capacity * swarms[0]!.state.length;
    const told = notices.map((n) => n.message).filter((m) => m.includes(' GB '));
    // In numbers that are those of its plan.
    for (const text of told)
      expect(text).toContain(`take ${(bytes / 1e9).toFixed(1)} GB of memory`);
    return told;
  };
  const [message] = heavy(60);
  expect(message).toMatch(/Motes: room for 2,\d+,\d+ particles with trails of 60 frames/);
  expect(message).toMatch(/Shorten its trails, or lower its rate or its lifetime\.$/);
  expect(heavy(5)).toEqual([]);
});

test('restyling leaves the motion as it is; a dial of motion does not', () => {
  const key = compilePiece(smallPiece()).motionKey;
  const styled = smallPiece((p) => {
    p.swarms[0]!.dials.size = 0.5;
    p.swarms[0]!.dials.light = 3;
    p.camera.dials.distance = 9;
    p.finish = [];
  });
  expect(compilePiece(styled).motionKey).toBe(key);
  const moved = smallPiece((p) => (p.forces[0]!.dials.scale = 3));
  expect(compilePiece(moved).motionKey).not.toBe(key);
});

test('turning a dial changes uniforms and not the graph', () => {
  const text = (change: Parameters<typeof smallPiece>[0]): [number, string] => {
    const { graph, uniforms } = compilePiece(smallPiece(change)).swarms[0]!.motion;
    return [graph.stores.at(-1)!.value.id, JSON.stringify(uniforms)];
  };
  const [before, uniformsBefore] = text(() => undefined);
  const [after, uniformsAfter] = text((p) => (p.forces[0]!.dials.scale = 4));
  expect(after).toBe(before);
  expect(uniformsAfter).not.toBe(uniformsBefore);
});

/** An engine whose state is the list of frames it was stepped through. */
class Recorder implements Engine {
  readonly remembers = true;
  frame = -1;
  trace: number[] = [];
  steps = 0;
  /** Snapshots that nobody has let go. */
  kept = 0;
  most = 0;
  setPlan(plan: Plan): void {
    if (this.steps === 0) this.frame = -plan.frame.preroll - 1;
  }
  reset(): void {
    this.frame = -1;
    this.trace = [];
  }
  jump(): boolean {
    return false;
  }
  ready(): Promise<void> {
    return Promise.resolve();
  }
  step(): void {
    this.frame += 1;
    this.steps += 1;
    this.trace.push(this.frame);
  }
  save(): Snapshot & { trace: number[] } {
    const trace = [...this.trace];
    this.kept += 1;
    this.most = Math.max(this.most, this.kept);
    const release = (): void => {
      this.kept -= 1;
    };
    return { frame: this.frame, bytes: 100, remembers: true, trace, release };
  }
  restore(snapshot: Snapshot): void {
    this.frame = snapshot.frame;
    this.trace = [...(snapshot as Snapshot & { trace: number[] }).trace];
  }
}

test('any frame is reached through the same states, backwards in few steps', () => {
  const engine = new Recorder();
  const playback = new Playback(engine, 1e6);
  playback.setPlan(compilePiece(smallPiece()));
  for (const frame of [60, 12, 80, 0, 33]) {
    playback.seek(frame);
    expect(engine.trace).toEqual(Array.from({ length: frame + 1 }, (_, i) => i));
  }
  const before = engine.steps;
  playback.seek(75);
  playback.seek(41);
  expect(engine.steps - before).toBeLessThan(20);
});

test('snapshots thin out when their room is full, and the frames stay right', () => {
  const engine = new Recorder();
  const playback = new Playback(engine, 400);
  playback.setPlan(compilePiece(smallPiece()));
  playback.seek(89);
  // The one that does not fit any more has been made first.
  expect(engine.most).toBeLessThanOrEqual(5);
  expect(engine.kept).toBeLessThanOrEqual(4);
  expect(engine.kept).toBeGreaterThan(1);
  const before = engine.steps;
  playback.seek(45);
  expect(engine.trace).toHaveLength(46);
  // What is left of them still spares most of the way.
  expect(engine.steps - before).toBeLessThan(40);
  playback.seek(88);
  expect(engine.kept).toBeLessThanOrEqual(4);
});

test('a change of motion while playing goes on, and is made right by a seek', () => {
  const engine = new Recorder();
  const playback = new Playback(engine, 1e6);
  playback.setPlan(compilePiece(smallPiece()));
  playback.seek(30);
  playback.setPlan(compilePiece(smallPiece((p) => (p.forces[0]!.dials.scale = 3))));
  expect([playback.exact, engine.frame]).toEqual([false, 30]);
  const before = engine.steps;
  playback.seek(30);
  expect([playback.exact, engine.steps - before]).toEqual([true, 31]);
});
