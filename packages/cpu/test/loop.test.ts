import { compilePiece, type Bake, type SwarmPlan } from '@vast-swarm/core/plan';
import { makeChoice, makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { Playback } from '@vast-swarm/core/play';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

/** A piece that loops: what is there at a frame is there again a length later. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

const SIZE = [128, 72] as const;

/** What is kept of particles but rings, which turn with the frames. */
const kept = ({ state }: SwarmPlan): string[] => state.filter((name) => !name.startsWith('ring/'));

/** All living particles of a swarm, whatever their slots, each with all its states to the bit. */
function living(swarm: SwarmPlan): string[] {
  const states = kept(swarm).map((name) => engine.state(swarm.id, name));
  const words = states.map((s) => new Int32Array(s.buffer, s.byteOffset, swarm.capacity));
  const [age, life] = [engine.state(swarm.id, 'age'), engine.state(swarm.id, 'life')];
  const found: string[] = [];
  for (let slot = 0; slot < swarm.capacity; slot++) {
    if (age[slot]! >= 0 && age[slot]! < life[slot]!) found.push(words.map((w) => w[slot]).join());
  }
  return found.sort();
}

interface Seen {
  living: string[][];
  pixels: Uint8ClampedArray;
}

/** What is there at frames, in order. */
function run(piece: Piece, frames: readonly number[]): Map<number, Seen> {
  const plan = compilePiece(piece);
  engine.setPlan(plan);
  engine.reset();
  const seen = new Map<number, Seen>();
  while (engine.frame < Math.max(...frames)) {
    engine.step();
    const draws = plan.finish.remembers && engine.frame >= -plan.runIn;
    if (!frames.includes(engine.frame) && !draws) continue;
    const { pixels } = engine.draw(...SIZE);
    if (frames.includes(engine.frame))
      seen.set(engine.frame, { living: plan.swarms.map(living), pixels });
  }
  return seen;
}

/** Largest difference of two pictures, in steps of 8 bits. */
function apart(a: Uint8ClampedArray, b: Uint8ClampedArray): number {
  return a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i]!)), 0);
}

function looping(change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    p.frame = { ...p.frame, length: 40, loop: true };
    change(p);
  });
}

function comesRound(piece: Piece, most = 1): void {
  const { length } = piece.frame;
  const frames = [-1, 0, 1, Math.floor(length / 2), length - 1, length, length + 1];
  const all = [...frames, ...frames.map((f) => f + length)];
  const seen = run(piece, all);
  for (const frame of frames) {
    const [now, then] = [seen.get(frame)!, seen.get(frame + length)!];
    expect(now.living.flat().length).toBeGreaterThan(0);
    // Not told one by one: there are thousands.
    expect(then.living.join() === now.living.join()).toBe(true);
    expect(apart(now.pixels, then.pixels)).toBeLessThanOrEqual(most);
  }
  // It is no still.
  expect(seen.get(0)!.living.join() === seen.get(Math.floor(length / 2))!.living.join()).toBe(
    false,
  );
}

test.each([24, 30000 / 1001, 60])('frame n + length is frame n, at %d a second', (rate) => {
  comesRound(looping((p) => (p.frame.rate = rate)));
});

test('particles that live longer than the loop go on in it', () => {
  comesRound(
    looping((p) => {
      p.frame.length = 20;
      p.swarms[0]!.dials.lifetime = { feed: 'spread', from: 0.5, to: 3.1 };
    }),
  );
});

test('bursts, passes of births, ends and each place once come again', () => {
  const cases: Record<string, unknown>[] = [
    { rate: 0, burst: 100, burstAt: 0 },
    { burst: 30, burstAt: 0.2, burstEvery: 0.3, rate: 10 },
    { loop: 0.45, start: 0.1, end: 0.4 },
    { rate: 333.3, lifetime: 0.4 },
  ];
  for (const dials of cases)
    comesRound(looping((p) => void Object.assign(p.swarms[0]!.dials, dials)));
});

test('what is born of others comes round with them', () => {
  for (const lifetime of [1, 2.5]) {
    comesRound(
      looping((p) => {
        p.swarms[0]!.dials.lifetime = lifetime;
        const child = {
          ...structuredClone(makeSwarm('swarm', p.swarms)),
          id: 'wake',
          name: 'Wake',
        };
        child.emitter.dials.swarm = 'motes';
        child.dials.lifetime = 1.7;
        p.swarms.push(child);
      }),
    );
  }
});

/** Swarms that are born of one another, and live for ever. */
function generations(p: Piece): void {
  const [eldest] = p.swarms;
  Object.assign(eldest!.dials, { rate: 90, lifetime: 600 });
  for (let k = 1; k < 5; k++) {
    const child = { ...structuredClone(eldest!), id: `child ${String(k)}` };
    child.emitter = makeChoice('emitters', 'swarm');
    child.emitter.dials.swarm = p.swarms.at(-1)!.id;
    p.swarms.push(child);
  }
}

// Ids were ahead of so many rounds, and so were fewer than none before.
test('a loop of three frames comes round, with generations that live over more than 64 of it', () => {
  comesRound(
    looping((p) => {
      p.frame.length = 3;
      generations(p);
    }),
  );
});

test('loops of a frame or three run beside a medium, which takes ten seconds to settle', () => {
  for (const length of [1, 3]) {
    const piece = looping((p) => {
      p.frame.length = length;
      p.media = [makePart('media', 'fluid', [])];
      p.media[0]!.dials.lines = 64;
    });
    const seen = run(piece, [0, length]);
    expect(seen.get(0)!.living[0]!.length).toBeGreaterThan(20);
    expect(seen.get(0)!.living[0]!.length).toBe(seen.get(length)!.living[0]!.length);
  }
});

test('noise comes round however fast it changes', () => {
  for (const change of [0, 0.1, 1, 7.3]) {
    comesRound(looping((p) => (p.forces[0]!.dials.change = change)));
  }
});

test('signals, formulas and the camera come round', () => {
  comesRound(
    looping((p) => {
      p.signals = [
        { ...makePart('signals', 'wave', []), id: 'wave' },
        { ...makePart('signals', 'noise', []), id: 'wander' },
      ];
      p.signals[0]!.dials.frequency = 0.77;
      const fed = (signal: string, from: number, to: number) => ({
        feed: 'signal' as const,
        signal,
        from,
        to,
      });
      p.swarms[0]!.dials.rate = fed('wave', 100, 900);
      p.swarms[0]!.dials.light = { feed: 'formula', text: '1 + sin(time * 3)', from: 0, to: 2 };
      p.forces[0]!.dials.strength = fed('wander', 0, 3);
      p.camera.dials.orbit = 50;
      p.camera.dials.shake = 3;
    }),
  );
});

test('trails reach over the seam', () => {
  comesRound(
    looping((p) => {
      const trails = makePart('bodies', 'trail', []);
      p.swarms[0]!.bodies = [trails];
    }),
  );
});

test('flocks come round: they go by those of their own round', () => {
  for (const lifetime of [0.9, 2]) {
    comesRound(
      looping((p) => {
        p.swarms[0]!.dials.lifetime = lifetime;
        p.forces.push(makePart('forces', 'flocking', []));
      }),
    );
  }
});

test('what lives for ever gives way to the next round as it comes', () => {
  for (const dials of [{ rate: 300 }, { rate: 0, burst: 200 }]) {
    comesRound(looping((p) => void Object.assign(p.swarms[0]!.dials, { lasts: 'ever', ...dials })));
  }
  const cubes = looping((p) => {
    Object.assign(p.swarms[0]!.dials, { lasts: 'ever', rate: 0, burst: 60 });
    p.swarms[0]!.bodies = [makePart('bodies', 'mesh', [])];
    p.swarms[0]!.bodies[0]!.dials.mode = 'opaque';
  });
  comesRound(cubes);
  // At the seam there is as much as in between: one half of two.
  const seen = run(cubes, [20, 39, 40, 42, 45]);
  const light = (frame: number): number => seen.get(frame)!.pixels.reduce((sum, v) => sum + v, 0);
  for (const frame of [39, 40, 42, 45]) expect(light(frame) / light(20)).toBeGreaterThan(0.6);
});

test('stored motion comes round as it does live, with its trails', async () => {
  const piece = looping((p) => (p.swarms[0]!.bodies = [makePart('bodies', 'trail', [])]));
  const { capacity, state } = compilePiece(piece).swarms[0]!;
  const live = run(piece, [0, 5, 40, 45]);
  engine.reset();
  const stored: Float32Array[][] = [];
  const born: number[] = [];
  while (engine.frame < 39) {
    engine.step();
    if (engine.frame < 0) continue;
    stored.push(await engine.stateOf('motes'));
    born.push(engine.born('motes'));
  }
  const bake: Bake = {
    name: 'stored',
    first: 0,
    last: 39,
    capacity,
    state,
    bornAt: (frame) => born[frame]!,
    read: (frame) => stored[frame]!,
  };
  engine.setPlan(compilePiece(piece, { bakes: new Map([['motes', bake]]) }));
  for (const frame of [0, 5, 40, 45]) {
    engine.reset();
    expect(engine.jump(frame)).toBe(true);
    const { pixels } = engine.draw(...SIZE);
    expect(apart(pixels, live.get(frame)!.pixels)).toBeLessThanOrEqual(1);
  }
});

test('a limit holds as many as ever', () => {
  comesRound(looping((p) => (p.swarms[0]!.dials.limit = 300)));
});

test('a finish that remembers has seen what was before', () => {
  comesRound(
    looping((p) => p.finish.push(makePart('finish', 'feedback', []))),
    2,
  );
});

test('motion does not change more from the last frame to the first than between others', () => {
  const piece = looping();
  const { length } = piece.frame;
  const frames = Array.from({ length: length + 1 }, (_, i) => i);
  const seen = run(piece, frames);
  const change = (a: number, b: number): number => {
    const [p, q] = [seen.get(a)!.pixels, seen.get(b)!.pixels];
    return p.reduce((sum, v, i) => sum + Math.abs(v - q[i]!), 0);
  };
  const inside = frames.slice(1, length).map((f) => change(f - 1, f));
  expect(change(length - 1, 0)).toBeLessThan(1.2 * Math.max(...inside));
});

test('playing goes on from the last frame to the first, as it goes to it by itself', async () => {
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(looping()));
  playback.restart();
  playback.seek(0);
  const first = engine.draw(...SIZE).pixels;
  playback.seek(39);
  expect(playback.comesRound).toBe(true);
  for (let i = 0; i < 3; i++) {
    playback.advance();
    expect(playback.frame).toBe(0);
    expect(apart(engine.draw(...SIZE).pixels, first)).toBe(0);
    while (playback.frame < 39) playback.advance();
  }
  // A dial is turned in a later round: what is mended beside it is that of the first one.
  playback.advance();
  const turned = compilePiece(looping((p) => (p.forces[0]!.dials.strength = 3)));
  playback.setPlan(turned);
  expect(playback.exact).toBe(false);
  await playback.mend(() => false);
  expect([playback.exact, playback.frame]).toEqual([true, 0]);
  const mended = engine.draw(...SIZE).pixels;
  engine.reset();
  while (engine.frame < 0) engine.step();
  expect(apart(engine.draw(...SIZE).pixels, mended)).toBe(0);
});

test('a piece that does not loop does not come round', () => {
  const seen = run(
    smallPiece((p) => (p.frame.length = 90)),
    [10, 50],
  );
  expect(seen.get(50)!.living.join() === seen.get(10)!.living.join()).toBe(false);
});

test('what cannot come round is told', () => {
  const piece = looping((p) => {
    p.frame.length = 10;
    p.swarms[0]!.dials.lifetime = 20;
    p.media = [makePart('media', 'fluid', [])];
  });
  const told = compilePiece(piece).notices.map((n) => n.message);
  expect(told.some((m) => m.startsWith('Motes lives for more than 16 rounds'))).toBe(true);
  expect(told.some((m) => m.includes('comes to rest at the end'))).toBe(true);
  expect(compilePiece(looping()).notices).toEqual([]);
});
