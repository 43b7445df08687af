import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, type Piece, type Played } from '@vast-swarm/core/piece';
import type { LiveEngine } from '@vast-swarm/core/play';
import { CpuEngine, MemoryFull } from '@vast-swarm/cpu';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import type { EngineEvent, FrameReport, Run } from '../src/engine/messages';
import { Session } from '../src/engine/session';
import { Truth } from '../src/engine/truth';

/** What the motes are that have been born, whatever room there is for more. */
function stateOf(engine: CpuEngine): string {
  const born = engine.born('motes');
  return ['px', 'vy', 'age']
    .map((n) => {
      const all = engine.state('motes', n);
      return bytesHash(Float32Array.from({ length: born }, (_, id) => all[id % all.length]!));
    })
    .join();
}

/** A session on an engine that draws nowhere, with what it told. */
class Stage {
  readonly events: EngineEvent[] = [];
  readonly session: Session;
  private troubled: (message: string) => void = () => undefined;
  private readonly waiting: { test: (r: FrameReport) => boolean; found: () => void }[] = [];

  /** @param drawing milliseconds that a picture takes */
  constructor(
    readonly engine: CpuEngine,
    drawing = 0,
  ) {
    const live: LiveEngine = Object.assign(engine, {
      kind: 'cpu' as const,
      threads: 1,
      show: () => new Promise<void>((drawn) => (drawing ? setTimeout(drawn, drawing) : drawn())),
      aliveBy: () => Object.fromEntries(engine.alive()),
      crash: () => undefined,
    });
    this.session = new Session(live, (event) => {
      this.events.push(event);
      if (event.type === 'trouble') this.troubled(event.message);
      if (event.type !== 'frame') return;
      for (const w of this.waiting) if (w.test(event.report)) w.found();
    });
  }

  /** Resolves once that trouble is told. */
  trouble(message: string): Promise<void> {
    return new Promise((found) => {
      this.troubled = (told) => {
        if (told === message) found();
      };
    });
  }

  get frames(): FrameReport[] {
    return this.events.flatMap((e) => (e.type === 'frame' ? [e.report] : []));
  }

  /** Resolves with the next frame that is told and passes. */
  until(test: (report: FrameReport) => boolean): Promise<void> {
    return new Promise((found) => this.waiting.push({ test, found }));
  }

  /** What was told last before something is done, once a frame that comes of it stands there. */
  async told(frame: number, act: () => void): Promise<FrameReport> {
    const last = this.frames.at(-1)!;
    const next = this.until((r) => r.frame === frame && r.settling === 0);
    act();
    await next;
    return last;
  }

  /** A piece, open and standing at its first frame. */
  async open(piece: Piece): Promise<void> {
    const there = this.until((r) => r.frame === 0 && r.settling === 0);
    this.session.setPiece(piece);
    await there;
  }

  /** A piece that is run for a show, standing at the first frame of that. */
  async run(piece: Piece, run: Run): Promise<void> {
    this.session.run(run);
    this.session.setPiece(piece);
    await this.until((r) => r.frame === run.at && r.settling === 0);
  }

  state(): string {
    return stateOf(this.engine);
  }
}

let engine: CpuEngine;
beforeEach(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterEach(() => engine.close());

let reference: CpuEngine;
beforeAll(async () => {
  reference = await CpuEngine.create({ threads: 1 });
});
afterAll(() => reference.close());

/** The state that a piece defines for a frame. */
function defined(piece: Piece, frame: number): string {
  reference.setPlan(compilePiece(piece));
  reference.reset();
  while (reference.frame < frame) reference.step();
  return stateOf(reference);
}

test('a seek ends at its frame, with the state that the piece defines there', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece());
  for (const frame of [40, 7, 55]) {
    const there = stage.until((r) => r.frame === frame && r.settling === 0);
    stage.session.seek(frame);
    await there;
    expect(stage.frames.at(-1)!.exact).toBe(true);
    expect(stage.state()).toBe(defined(smallPiece(), frame));
  }
});

test('playing shows every frame, and begins anew behind the last', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece((p) => Object.assign(p.frame, { length: 8, rate: 120 })));
  const told = stage.frames.length;
  let passes = 0;
  const twice = stage.until((r) => r.frame === 7 && ++passes === 2);
  stage.session.play(true);
  await twice;
  stage.session.play(false);
  const played = stage.frames.slice(told).map((r) => r.frame);
  const first = played.indexOf(1);
  expect(played.slice(first, first + 15)).toEqual([1, 2, 3, 4, 5, 6, 7, 0, 1, 2, 3, 4, 5, 6, 7]);
});

test.each([
  ['nothing is heard: every frame is shown', false],
  ['a sound is heard: late frames are simulated and not drawn', true],
])('beside slow pictures, where %s', async (_, heard) => {
  const piece = smallPiece((p) => {
    Object.assign(p.frame, { rate: 60, length: 60 });
    p.finish = [];
    if (heard) p.sounds = [makePart('sounds', 'played', [])];
  });
  // A picture takes three frames.
  const stage = new Stage(engine, 50);
  await stage.open(piece);
  const told = stage.frames.length;
  stage.session.play(true);
  await stage.until((r) => r.frame > 30);
  stage.session.play(false);
  const frames = stage.frames.slice(told).map((r) => r.frame);
  const ways = frames.slice(1).map((frame, i) => frame - frames[i]!);
  expect(Math.max(...ways) > 1).toBe(heard);
  // What is not drawn is not left out.
  const last = stage.engine.frame;
  expect(stage.state()).toBe(defined(piece, last));
});

test('a dial turned while it plays and once more as it stands still is right in the end', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece());
  const on = stage.until((r) => r.frame === 20);
  stage.session.play(true);
  await on;
  const stirred = smallPiece((p) => (p.forces[0]!.dials.scale = 3));
  const later = stage.until((r) => r.frame === 25);
  stage.session.setPiece(stirred);
  await later;
  const right = stage.until((r) => r.exact && r.settling === 0);
  stage.session.play(false);
  stage.session.setPiece(smallPiece((p) => (p.forces[0]!.dials.scale = 4)));
  await right;
  const { frame } = stage.frames.at(-1)!;
  expect(frame).toBeGreaterThan(19);
  expect(stage.state()).toBe(
    defined(
      smallPiece((p) => (p.forces[0]!.dials.scale = 4)),
      frame,
    ),
  );
});

test('of edits that come faster than they compile the last one counts', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece());
  const pieces = [1, 2, 3, 4].map((n) => smallPiece((p) => (p.swarms[0]!.dials.rate = 100 * n)));
  for (const piece of pieces) stage.session.setPiece(piece);
  const there = stage.until((r) => r.frame === 30 && r.settling === 0);
  stage.session.seek(30);
  await there;
  expect(stage.state()).toBe(defined(pieces[3]!, 30));
});

test('after a failure the engine is started again and the frame resumed', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece());
  const step = jest.spyOn(engine, 'step').mockImplementationOnce(() => {
    throw new Error('A thread stopped answering.');
  });
  const recover = jest.spyOn(engine, 'recover').mockResolvedValueOnce();
  const there = stage.until((r) => r.frame === 25 && r.settling === 0);
  stage.session.seek(25);
  await there;
  expect(recover).toHaveBeenCalledTimes(1);
  step.mockRestore();
  expect(stage.events.flatMap((e) => (e.type === 'trouble' ? [e.message] : []))).toEqual([
    'A thread stopped answering. It was started again, and the frame resumed.',
  ]);
  expect(stage.state()).toBe(defined(smallPiece(), 25));
});

test('full memory is told and stops the piece; the next edit goes on', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece());
  const full = jest.spyOn(engine, 'setPlan').mockImplementationOnce(() => {
    throw new MemoryFull('The memory is full.');
  });
  stage.session.setPiece(smallPiece((p) => (p.swarms[0]!.dials.rate = 9)));
  await stage.trouble('The memory is full.');
  full.mockRestore();
  const there = stage.until((r) => r.frame === 12 && r.settling === 0);
  stage.session.setPiece(smallPiece());
  stage.session.seek(12);
  await there;
  expect(stage.state()).toBe(defined(smallPiece(), 12));
});

test('a signal that is driven is recorded, and told when it is let go', async () => {
  const stage = new Stage(engine);
  const piece = smallPiece((p) => {
    p.frame.rate = 120;
    p.signals = [makePart('signals', 'byHand', [])];
    p.swarms[0]!.dials.rate = { feed: 'signal', signal: 'byHand', from: 100, to: 2000 };
  });
  await stage.open(piece);
  stage.session.drive('byHand', 0.75);
  const later = stage.until((r) => r.frame === 20);
  stage.session.play(true);
  await later;
  const [behind, { frame }] = [stage.state(), stage.frames.at(-1)!];
  stage.session.drive('byHand', null);
  stage.session.play(false);
  const took = stage.events.find((e) => e.type === 'took')!;
  expect(took.signal).toBe('byHand');
  expect(new Set(took.take.values)).toEqual(new Set([0.75]));
  piece.signals[0]!.dials.take = took.take;
  expect(defined(piece, frame)).toBe(behind);
});

/** A piece whose births follow a control, and that has a cue for it. */
function played(): Piece {
  return smallPiece((p) => {
    p.frame.rate = 120;
    const control = makePart('controls', 'fader', []);
    control.dials.moves = [{ place: 'swarms.motes.rate', from: 100, to: 2000 }];
    const cue = makePart('cues', 'cue', []);
    Object.assign(cue.dials, { over: 0.1, sets: [{ control: control.id, to: 1 }] });
    cue.dials.bursts = [{ swarm: 'motes', count: 40 }];
    p.controls = [control];
    p.cues = [cue];
  });
}

test('what is played is recorded at its frames, told when nothing is held, and is the piece’s own', async () => {
  const stage = new Stage(engine);
  const { session } = stage;
  const piece = played();
  await stage.open(piece);
  const later = stage.until((r) => r.frame === 20);
  session.play(true);
  await stage.until((r) => r.frame >= 3);
  session.act({ control: 'fader', to: 0.2, hold: true });
  session.act({ control: 'fader', to: 0.6, hold: true });
  session.act({ cue: 'cue' });
  await later;
  expect(stage.events.some((e) => e.type === 'played')).toBe(false);
  session.act({ control: 'fader', to: 0.3, hold: true });
  await stage.until((r) => r.controls.fader === 0.3);
  session.letGo('fader');
  const { frame } = stage.frames.at(-1)!;
  session.play(false);
  const behind = stage.state();
  const told = stage.events.find((e) => e.type === 'played')!.played;
  // Of two in a frame the last counts; the cue is overtaken by the hand that came in its frame.
  expect(told.map((p) => ('cue' in p ? p.cue : p.to))).toEqual([0.6, 'cue', 0.3]);
  expect(told.every((p) => Math.abs(p.at * 120 - Math.round(p.at * 120)) < 1e-9)).toBe(true);
  expect(defined({ ...piece, played: told }, frame)).toBe(behind);
  // The piece has it: what plays goes on as it is.
  const { length } = stage.events;
  session.setPiece({ ...piece, played: told });
  await stage.until((r) => r.frame === frame);
  expect(stage.state()).toBe(behind);
  expect(stage.events.slice(length).some((e) => e.type === 'played')).toBe(false);
  // Taken back, it is as if it had never been.
  session.setPiece(piece);
  await stage.until((r) => r.frame === frame && r.exact && r.controls.fader === 0);
  expect(stage.state()).toBe(defined(piece, frame));
});

test('while it stands still what is played counts for the frame that is seen', async () => {
  const stage = new Stage(engine);
  const piece = played();
  await stage.open(piece);
  stage.session.seek(12);
  await stage.until((r) => r.frame === 12 && r.settling === 0);
  stage.session.act({ control: 'fader', to: 0.5 });
  await stage.until((r) => r.controls.fader === 0.5);
  const told = stage.events.find((e) => e.type === 'played')!.played;
  expect(told).toEqual([{ at: 0.1, control: 'fader', to: 0.5 }]);
  stage.session.setPiece({ ...piece, played: told });
  await stage.until((r) => r.frame === 12 && r.exact);
  expect(stage.state()).toBe(defined({ ...piece, played: told }, 12));
});

test('an edit while a small piece plays is shown true at once', async () => {
  const stage = new Stage(engine);
  // However slow this machine is just now, the piece counts as small.
  const small = jest.replaceProperty(Truth, 'soon', Infinity);
  await stage.open(smallPiece());
  const on = stage.until((r) => r.frame === 15);
  stage.session.play(true);
  await on;
  for (const rate of [300, 0, 700]) {
    const burst = smallPiece((p) =>
      Object.assign(p.swarms[0]!.dials, { rate, burst: 676, lifetime: 3600 }),
    );
    const told = stage.frames.length;
    stage.session.setPiece(burst);
    // The frame in the making may still be of the piece before.
    let frames = 0;
    await stage.until(() => ++frames === 2);
    expect(stage.frames.slice(told).every((r) => r.exact)).toBe(true);
    expect(stage.state()).toBe(defined(burst, stage.engine.frame));
    expect(stage.frames.at(-1)!.alive).toBeGreaterThanOrEqual(676);
  }
  stage.session.play(false);
  small.restore();
});

test('where that takes long, playing goes on and the state is made right beside it', async () => {
  const stage = new Stage(engine);
  await stage.open(smallPiece((p) => (p.frame.length = 4000)));
  // Steps that count as slow: simulating again would take 40 s.
  const slow = jest.spyOn(Truth.prototype, 'learn').mockImplementation(function (this: Truth) {
    Object.assign(this, { step: 1000 });
  });
  const on = stage.until((r) => r.frame === 40);
  stage.session.play(true);
  await on;
  const edited = smallPiece((p) => {
    p.frame.length = 4000;
    p.swarms[0]!.dials.rate = 500;
  });
  const carried = stage.until((r) => !r.exact && r.playing);
  stage.session.setPiece(edited);
  await carried;
  const frame = stage.engine.frame;
  const right = stage.until((r) => r.exact && r.playing && r.frame > frame);
  await right;
  stage.session.play(false);
  slow.mockRestore();
  expect(stage.state()).toBe(defined(edited, stage.engine.frame));
});

/** What was played for a show, from what was told. */
function recorded(events: readonly EngineEvent[]): Played[] {
  return events.flatMap((e) => (e.type === 'recorded' ? e.played : []));
}

test('what is run for a show stands at its end, and what is played is recorded as it is', async () => {
  const stage = new Stage(engine);
  const { session } = stage;
  const piece = { ...played(), played: [{ at: 0.05, control: 'fader', to: 0.9 }] };
  await stage.run(piece, { at: 5, until: 40, played: piece.played });
  const end = stage.until((r) => r.frame === 39);
  session.play(true);
  await stage.until((r) => r.frame >= 10);
  session.act({ control: 'fader', to: 0.3, over: 0.1 });
  await end;
  const told = recorded(stage.events);
  expect(told).toMatchObject([{ control: 'fader', to: 0.3, over: 0.1 }]);
  expect(stage.state()).toBe(defined({ ...piece, played: [...piece.played, ...told] }, 39));
  // It goes on nowhere by itself, and none of it is the piece's.
  expect(stage.frames.every((r) => r.frame < 40)).toBe(true);
  expect(stage.events.some((e) => e.type === 'played')).toBe(false);
});

test.each([0, 8, 25])(
  'time that jumps to frame %i leaves controls as they stand, on their way too: what was recorded makes the same again',
  async (frame) => {
    const stage = new Stage(engine);
    const { session } = stage;
    const piece = played();
    await stage.run(piece, { at: 0, until: 90, played: [] });
    session.act({ control: 'fader', to: 0.8, over: 0.5 });
    session.play(true);
    await stage.until((r) => r.frame >= 30);
    session.play(false);
    const { controls, frame: left } = await stage.told(frame, () => {
      session.jump(frame);
    });
    const before = controls.fader as number;
    expect(left).not.toBe(frame);
    const jumped = stage.events.find((e) => e.type === 'jumped')!;
    expect(jumped.frame).toBe(frame);
    const there = stage.frames.at(-1)!;
    expect(there.frame).toBe(frame);
    // A frame further on its way.
    const now = there.controls.fader as number;
    expect(now).toBeGreaterThan(before);
    expect(now - before).toBeLessThan(2 / 0.5 / piece.frame.rate);
    expect(stage.state()).toBe(defined({ ...piece, played: jumped.played }, frame));
    const end = stage.until((r) => r.frame === 89);
    session.play(true);
    await end;
    expect(stage.frames.at(-1)!.controls.fader).toBe(0.8);
    expect(stage.state()).toBe(defined({ ...piece, played: jumped.played }, 89));
  },
);

test('what is played while a show stands still is seen at once, and is made again from what was recorded', async () => {
  const stage = new Stage(engine);
  const { session } = stage;
  const piece = played();
  await stage.run(piece, { at: 0, until: 90, played: [] });
  session.play(true);
  await stage.until((r) => r.frame >= 23);
  session.play(false);
  for (const to of [0.2, 0.5, 0.7]) {
    session.act({ control: 'fader', to });
    await stage.until((r) => r.controls.fader === to && r.exact);
  }
  const { frame } = stage.frames.at(-1)!;
  const told = recorded(stage.events);
  expect(told.length).toBe(3);
  expect(stage.state()).toBe(defined({ ...piece, played: told }, frame));
  const end = stage.until((r) => r.frame === 60);
  session.play(true);
  await end;
  session.play(false);
  expect(stage.state()).toBe(defined({ ...piece, played: told }, stage.frames.at(-1)!.frame));
});
