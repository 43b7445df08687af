import { bakeOffsets, compilePiece, motionKeys, type Bake } from '@vast-swarm/core/plan';
import { makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

/** The swarm's states of all frames, as an engine stores them. */
async function baked(piece: Piece, swarm: string): Promise<Bake> {
  const plan = compilePiece(piece);
  engine.setPlan(plan);
  engine.reset();
  const { capacity, state } = plan.swarms.find((s) => s.id === swarm)!;
  const [frames, born]: [Float32Array[][], number[]] = [[], []];
  while (engine.frame < piece.frame.length - 1) {
    engine.step();
    if (engine.frame < 0) continue;
    frames.push(await engine.stateOf(swarm));
    born.push(engine.born(swarm));
  }
  return {
    name: 'stored',
    first: 0,
    last: piece.frame.length - 1,
    capacity,
    state,
    bornAt: (frame) => born[frame] ?? 0,
    read: (frame) => frames[frame]!,
  };
}

/** A swarm that is stirred, and another that is born from it. */
function pair(): Piece {
  return smallPiece((p) => {
    p.frame.length = 50;
    p.frame.preroll = 10;
    p.forces.push(makePart('forces', 'home', []));
    const child = { ...structuredClone(makeSwarm('swarm', p.swarms)), id: 'wake', name: 'Wake' };
    child.emitter.dials.swarm = 'motes';
    p.swarms.push(child);
  });
}

/** Of the slots in use: kernels also write a few behind them, that nothing reads. */
const states = (id: string): Float32Array[] =>
  ['px', 'vy', 'age', 'life'].map((name) => engine.state(id, name).slice(0, engine.born(id)));

test('a baked swarm has the state it had live, and a live one plays together with it', async () => {
  const piece = pair();
  const bake = await baked(piece, 'motes');
  const live = [states('motes'), states('wake')];
  engine.setPlan(compilePiece(piece, { bakes: new Map([['motes', bake]]) }));
  engine.reset();
  // What is born from it in the pre-roll is not stored: its child begins with frame 0.
  while (engine.frame < 49) engine.step();
  expect(states('motes')).toEqual(live[0]);
  expect(engine.alive().get('wake')).toBeGreaterThan(0);
});

test('with all swarms baked any frame is there at once, both ways', async () => {
  const piece = smallPiece((p) => (p.frame.length = 50));
  const bake = await baked(piece, 'motes');
  engine.setPlan(compilePiece(piece));
  engine.reset();
  const wanted = new Map<number, Float32Array[]>();
  while (engine.frame < 40) {
    engine.step();
    if (engine.frame === 12 || engine.frame === 40) wanted.set(engine.frame, states('motes'));
  }
  engine.setPlan(compilePiece(piece, { bakes: new Map([['motes', bake]]) }));
  for (const frame of [40, 12, 40]) {
    expect(engine.jump(frame)).toBe(true);
    expect(states('motes')).toEqual(wanted.get(frame));
  }
});

test('a stale bake plays as it was, with its own room', async () => {
  const piece = smallPiece((p) => (p.frame.length = 30));
  const bake = await baked(piece, 'motes');
  const before = engine.alive().get('motes');
  piece.swarms[0]!.dials.rate = 20;
  const plan = compilePiece(piece, { bakes: new Map([['motes', bake]]) });
  expect(plan.swarms[0]!.capacity).toBe(bake.capacity);
  engine.setPlan(plan);
  engine.jump(29);
  expect(engine.alive().get('motes')).toBe(before);
});

test('motion keys change with all that motion depends on, and with nothing else', () => {
  const key = (change: (p: Piece) => void): string =>
    motionKeys(
      smallPiece((p) => {
        p.signals.push({ ...makePart('signals', 'wave', []), id: 'tide' });
        change(p);
      }),
      new Map(),
    ).get('motes')!;
  const same = key(() => undefined);
  const looks: ((p: Piece) => void)[] = [
    (p) => (p.swarms[0]!.dials.size = 1),
    (p) => (p.swarms[0]!.dials.colour = '#ffffff'),
    (p) => (p.camera.dials.distance = 2),
    (p) => (p.signals[0]!.dials.period = 9),
    (p) => (p.finish = []),
    (p) => (p.swarms[0]!.name = 'Other'),
  ];
  for (const look of looks) expect(key(look)).toBe(same);
  const motions: ((p: Piece) => void)[] = [
    (p) => (p.seed = 9),
    (p) => (p.swarms[0]!.dials.rate = 9),
    (p) => (p.swarms[0]!.emitter.dials.radius = 2),
    (p) => (p.forces[0]!.dials.strength = 2),
    (p) => (p.influence = { curlNoise: { motes: 0.5 } }),
    (p) => p.colliders.push(makePart('colliders', 'plane', [])),
    (p) => (p.forces[0]!.dials.strength = { feed: 'signal', signal: 'tide', from: 0, to: 1 }),
    (p) => (p.swarms[0]!.dials.colour = { feed: 'place' }),
  ];
  const keys = motions.map(key);
  expect(new Set([same, ...keys]).size).toBe(motions.length + 1);
});

test('frames of a bake follow each other in its file without a gap', () => {
  expect(bakeOffsets([2, 5, 9], 6, 8)).toEqual([0, 64, 224, 416]);
});
