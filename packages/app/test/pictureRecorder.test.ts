import { compilePiece } from '@vast-swarm/core/plan';
import { LivePictures, type Clip, type Picture } from '@vast-swarm/core/stock';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { bytesHash } from '../../../tests/support/frameHash';
import { smallPiece } from '../../../tests/support/pieces';
import { PictureRecorder, type PictureTake } from '../src/engine/recorders/pictures';
import type { EngineEvent } from '../src/engine/messages';
import { Session } from '../src/engine/session';
import { playedAgain, undrawn } from './recorded';

const [WIDTH, HEIGHT, RATE] = [32, 18, 24];
const SIZE = { width: WIDTH, height: HEIGHT };

/** A bright column on black, another for each number. */
function pictureOf(number: number): Picture {
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT).fill(255);
  for (let at = 0; at < WIDTH * HEIGHT; at++) {
    if (at % WIDTH !== (3 * number) % WIDTH) pixels.fill(0, 4 * at, 4 * at + 3);
  }
  return { type: 'picture', ...SIZE, pixels };
}

/** A camera whose pictures are put in by hand. */
class Lens {
  onmessage: ((event: MessageEvent) => void) | null = null;
  asked = 0;
  closed = false;
  sent = 0;

  postMessage(): void {
    this.asked += 1;
  }

  close(): void {
    this.closed = true;
  }

  /** The next picture, where one was asked for; whether it was. */
  send(): boolean {
    if (this.asked <= this.sent) return false;
    this.onmessage?.({ data: pictureOf(this.sent++) } as MessageEvent);
    return true;
  }
}

test('each frame takes the newest picture, keeps it where there is none, and asks for one at a time', async () => {
  const lens = new Lens();
  const recorder = new PictureRecorder('cam', { size: SIZE, port: lens });
  expect(lens.asked).toBe(1);
  lens.send();
  recorder.begin(10, RATE);
  const moving = recorder.input!.moving();
  await recorder.until(10);
  expect(lens.asked).toBe(2);
  await recorder.until(11);
  expect(lens.asked).toBe(2);
  lens.send();
  await recorder.until(12);
  expect([9, 10, 11, 12, 30].map((frame) => moving.stateAt(frame))).toEqual([0, 1, 1, 2, 2]);
  expect((moving.at(1) as Picture).pixels).toEqual(pictureOf(0).pixels);
  expect((moving.at(2) as Picture).pixels).toEqual(pictureOf(1).pixels);
  expect(recorder.end()).toEqual({ part: 'cam', start: 10, begins: [0, 2] });
  expect(lens.closed).toBe(true);
});

test('the first frame waits for its picture; where none came nothing is kept', async () => {
  const lens = new Lens();
  const recorder = new PictureRecorder('cam', { size: SIZE, port: lens });
  recorder.begin(0, RATE);
  expect((await recorder.input!.moving().at(0)).pixels.every((v) => v === 0)).toBe(true);
  let there = false;
  const waits = recorder.until(0).then(() => (there = true));
  await Promise.resolve();
  expect(there).toBe(false);
  lens.send();
  await waits;
  expect(recorder.input!.changes).toBe(1);
  const other = new PictureRecorder('cam', { size: SIZE, port: new Lens() });
  other.begin(0, RATE);
  expect(other.end()).toBeNull();
});

test('live pictures tell from when on they are others, and have as many at hand as motion is looked for in', () => {
  const live = new LivePictures(WIDTH, HEIGHT, RATE, 5);
  const moving = live.moving();
  for (let i = 0; i < 60; i++) live.append(5 + 2 * i, pictureOf(i));
  expect(live.changedFrom(0)).toBeCloseTo(5 / RATE);
  expect(live.changedFrom(7)).toBeCloseTo((5 + 14) / RATE);
  expect(live.changedFrom(60)).toBe(Infinity);
  expect(live.begins().slice(0, 3)).toEqual([0, 2, 4]);
  for (const back of [0, 1, 12, 30]) {
    const { pixels } = moving.at(60 - back) as Picture;
    expect(pixels).toEqual(pictureOf(59 - back).pixels);
  }
});

/** Births where a camera is bright, carried by the motion seen in it. */
function livePiece(): Piece {
  return smallPiece((p) => {
    Object.assign(p.frame, { rate: RATE, length: 200 });
    p.finish = [];
    p.pictures = [{ ...makePart('pictures', 'live', []), id: 'cam' }];
    const [swarm] = p.swarms;
    swarm!.emitter = makeChoice('emitters', 'picture');
    Object.assign(swarm!.emitter.dials, { picture: 'cam' });
    p.forces = [makePart('forces', 'clipFlow', [])];
    Object.assign(p.forces[0]!.dials, { clip: 'cam', detail: 32, steady: 4 });
  });
}

/** Of those that live: what was never born anywhere is nowhere. */
function stateOf(engine: CpuEngine): string {
  const born = engine.born('motes');
  const of = (name: string): Float32Array => engine.state('motes', name);
  const [age, life] = [of('age'), of('life')];
  return ['px', 'vx', 'age']
    .map((name) => {
      const all = of(name);
      const value = (_: unknown, id: number): number => {
        const slot = id % all.length;
        return age[slot]! >= 0 && age[slot]! < life[slot]! ? all[slot]! : 0;
      };
      return bytesHash(Float32Array.from({ length: born }, value));
    })
    .join();
}

test('a session records what it sees while it plays, and what was seen is what its take gives', async () => {
  const engine = await CpuEngine.create({ threads: 1 });
  const states = new Map<number, string>();
  const lens = new Lens();
  let frames = 0;
  const seen = await new Promise<PictureTake | null>((resolve) => {
    const tell = (event: EngineEvent): void => {
      if (event.type === 'taken') resolve(event.taken.take as PictureTake);
      if (event.type !== 'frame') return;
      const { frame, playing, settling } = event.report;
      if (!playing || settling > 0) return;
      states.set(frame, stateOf(engine));
      // Some frames find no new one.
      if (++frames % 4 !== 0) lens.send();
      if (frame === 50) session.play(false);
    };
    const session = new Session(undrawn(engine), tell);
    session.setPiece(livePiece());
    session.record('pictures', 'cam', { size: SIZE, port: lens });
    lens.send();
    session.play(true);
  });
  const { start, begins } = seen!;
  expect(begins.length).toBeGreaterThan(20);
  expect(begins.some((b, i) => i > 0 && b - begins[i - 1]! > 1)).toBe(true);

  // The take as a clip with the times that its file has.
  const clip: Clip = {
    type: 'clip',
    ...SIZE,
    times: Float64Array.from([...begins, begins.at(-1)! + 1], (b) => b / RATE),
    picture: pictureOf,
  };
  const replayed = livePiece();
  const source = { file: 't.webm', hash: 'a'.repeat(16) };
  replayed.stock.push({ id: 't', name: 'T', type: 'clip', source });
  Object.assign(replayed.pictures[0]!.dials, { take: 't', start });
  engine.setPlan(compilePiece(replayed, { files: new Map([[source.hash, clip]]) }));
  const compared = await playedAgain(engine, stateOf, states, [start, 50]);
  expect(compared).toBeGreaterThan(20);
  expect(engine.alive().get('motes')).toBeGreaterThan(100);
  engine.close();
});
