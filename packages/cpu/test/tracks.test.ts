import { compilePiece, motionKeys, type Plan } from '@vast-swarm/core/plan';
import { made, type Clip, type Picture } from '@vast-swarm/core/stock';
import { makeChoice, type Piece } from '@vast-swarm/core/piece';
import { Playback, TrackNotReady } from '@vast-swarm/core/play';
import { trackBuffer, type BlockTrack } from '@vast-swarm/core/kinds';
import { frameHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { movingPiece } from '../../../tests/support/moving';
import { CpuEngine } from '../src';

const engines: CpuEngine[] = [];
beforeAll(async () => {
  for (const threads of [1, 2, 4]) engines.push(await CpuEngine.create({ threads }));
});
afterAll(() => engines.forEach((e) => e.close()));

function run(engine: CpuEngine, piece: Piece, frame: number): string {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  return frameHash(engine.draw(128, 72).pixels);
}

test('births follow the picture that is there in their frame', () => {
  const engine = engines[1]!;
  run(engine, movingPiece(), 40);
  const clip = made('wanderingLight') as Clip;
  const state = (name: string): Float32Array => engine.state('motes', name);
  const born = engine.born('motes');
  let seen = 0;
  for (let id = 0; id < born; id++) {
    // Born at 900 a second at 30 frames a second: thirty a frame.
    const now = clip.picture(Math.floor(Math.floor(id / 30) / 5) % 24) as Picture;
    const [px, py] = [state('px')[id]!, state('py')[id]!];
    // Four metres are the longer side; y goes up, rows go down.
    const column = Math.floor((px / 4) * now.width + now.width / 2);
    const row = Math.floor(now.height / 2 - (py / 4) * now.width);
    const pixel = 4 * (row * now.width + column);
    expect(Math.max(...now.pixels.subarray(pixel, pixel + 3))).toBeGreaterThan(60);
    seen += 1;
  }
  expect(seen).toBeGreaterThan(1000);
});

test('the same bits on any number of threads, played and scrubbed back to', () => {
  const hashes = engines.map((e) => run(e, movingPiece(), 50));
  expect(new Set(hashes).size).toBe(1);
  const engine = engines[1]!;
  const playback = new Playback(engine, 1e8);
  playback.setPlan(compilePiece(movingPiece()));
  playback.restart();
  for (const frame of [70, 12, 50]) playback.seek(frame);
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(hashes[0]);
});

test('a snapshot taken between two pictures brings back what follows', () => {
  const engine = engines[0]!;
  run(engine, movingPiece(), 18);
  const snapshot = engine.save();
  const on = (): string => {
    while (engine.frame < 45) engine.step();
    return frameHash(engine.draw(128, 72).pixels);
  };
  const first = on();
  engine.restore(snapshot);
  expect(on()).toBe(first);
});

test('motion depends on what the track is made from', () => {
  const key = (piece: Piece): string => motionKeys(piece, new Map()).get('motes')!;
  const other = movingPiece();
  other.pictures[0]!.dials.speed = 2;
  expect(key(other)).not.toBe(key(movingPiece()));
});

/** The plan with its track coming from afar. */
function fromAfar(plan: Plan): Plan {
  const afar = (track: BlockTrack): BlockTrack => ({
    ...track,
    name: `${track.name}.afar`,
    read: (block) => Promise.resolve(track.read(block)),
  });
  const swarms = plan.swarms.map((s) => ({
    ...s,
    tracks: new Map([...s.tracks].map(([buffer, track]) => [buffer, afar(track)])),
  }));
  const blocks = swarms.flatMap((s) => [...s.tracks.values()]);
  const whole: Plan = { ...plan, swarms, tracks: { ...plan.tracks, blocks }, at: () => whole };
  return whole;
}

test('a track from afar is waited for, and gives the same bits', async () => {
  const engine = engines[1]!;
  const wanted = run(engine, movingPiece(), 30);
  engine.setPlan(fromAfar(compilePiece(movingPiece())));
  engine.reset();
  expect(() => {
    engine.step();
  }).toThrow(TrackNotReady);
  engine.reset();
  while (engine.frame < 30) {
    await engine.ready();
    engine.step();
  }
  expect(frameHash(engine.draw(128, 72).pixels)).toBe(wanted);
});

test('only what reads a track has one', () => {
  const plan = compilePiece(movingPiece());
  expect(plan.tracks.blocks).toHaveLength(1);
  expect([...plan.swarms[0]!.tracks.keys()]).toEqual([trackBuffer(plan.tracks.blocks[0]!)]);
  const still = smallPiece((p) => {
    p.swarms[0]!.emitter = makeChoice('emitters', 'picture');
    p.swarms[0]!.emitter.dials.picture = 'flags';
  });
  expect(compilePiece(still).tracks.blocks).toEqual([]);
});
