import { createSocket } from 'node:dgram';
import { toBuffer } from 'osc-min';
import { WebSocket } from 'ws';
import { compilePiece, Scene } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import {
  LivePlay,
  makePart,
  makePiece,
  PLAYED,
  type Part,
  type Piece,
} from '@vast-swarm/core/piece';
import { offerOf, type RunnerTold } from '@vast-swarm/core/formats';
import { CpuEngine } from '@vast-swarm/cpu';
import { best, bestOf, report } from './report';
import { startServer } from './server';

/** What controls and cues cost a frame, in a long night too, and how long a message is on its way to the picture. */

const WANTED = { frame: 1, night: 1.05, fade: 1.3, frames: 2 };
const RATE = 30;

function part(list: 'controls' | 'cues', kind: string, id: string, dials: Part['dials']): Part {
  const made = makePart(list, kind, []);
  return { ...made, id, name: id, dials: { ...made.dials, ...dials } };
}

/** Sixty faders, and cues that move six of them each. */
function desk(): Piece {
  const piece = makePiece('Desk');
  piece.frame = { ...piece.frame, rate: RATE, length: 200_000 };
  piece.controls = Array.from({ length: 60 }, (_, i) =>
    part('controls', 'fader', `fader${String(i)}`, {}),
  );
  piece.cues = Array.from({ length: 40 }, (_, i) => {
    const sets = Array.from({ length: 6 }, (_, k) => ({
      control: `fader${String((7 * i + 11 * k) % 60)}`,
      to: ((i + k) % 5) / 4,
    }));
    return part('cues', 'cue', `cue${String(i)}`, { sets, over: 2 + (i % 4) });
  });
  return piece;
}

const played = new LivePlay([]);
const score = new Scene(desk(), new Map(), new Map([[PLAYED, played]])).score!;
let frame = 0;
/** Milliseconds a frame, over so many: a cue each second, all faders read at each frame. */
function run(frames: number): number {
  const begun = performance.now();
  for (let n = 0; n < frames; n++, frame++) {
    if (frame % RATE === 0) played.add({ at: frame / RATE, cue: `cue${String((frame * 7) % 40)}` });
    for (let i = 0; i < 60; i++) score.at(`fader${String(i)}`, (frame + 1) / RATE);
  }
  return (performance.now() - begun) / frames;
}
run(3000);
const early = bestOf(5, () => run(1500));
run(8 * 3600 * RATE - frame - 7500);
const late = bestOf(5, () => run(1500));
report('controls: sixty faders, a cue a second', early, 'ms a frame', WANTED.frame);
report('controls: the same after eight hours', late / early, 'times', WANTED.night);

/** A frame of the barge while its flame goes to another gradient, against one while it rests. */
async function fading(): Promise<void> {
  const { piece } = DEMO_SHOW.pieces.find((p) => p.id === 'ember-barge')!;
  const engine = await CpuEngine.create({ threads: 2 });
  const cost = (cues: Part[]): number => {
    engine.setPlan(compilePiece({ ...piece, cues }));
    return bestOf(3, () => {
      engine.reset();
      while (engine.frame < 90) engine.step();
      return best(1, () => {
        for (let n = 0; n < 20; n++) {
          engine.step();
          engine.draw(480, 270);
        }
      });
    });
  };
  const salt = piece.cues.find((c) => c.id === 'salt')!;
  const faded = { ...salt, dials: { ...salt.dials, at: 3, over: 5 } };
  report(
    'controls: a frame while a gradient fades',
    cost([faded]) / cost([]),
    'times',
    WANTED.fade,
  );
  engine.close();
}

const pause = (seconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, 1000 * seconds));

/** From a message at the server's port to the end of the frame's time that has it, in frames. */
async function delay(fps: number): Promise<number> {
  const { host, udp, child } = await startServer();
  const page = new WebSocket(`ws://${host}/control/run`, { origin: `http://${host}` });
  await new Promise((resolve) => page.once('open', resolve));
  page.send(JSON.stringify({ offer: offerOf(desk()) }));
  let came = 0;
  page.on('message', (data: Buffer) => {
    came += (JSON.parse(data.toString()) as RunnerTold).acts.length;
  });
  const socket = createSocket('udp4');
  await pause(0.3);
  let frames = 0;
  const tries = 40;
  for (let n = 0; n < tries; n++) {
    await pause(0.02 + 0.0037 * n);
    const before = came;
    const value = { type: 'float' as const, value: (n % 10) / 10 };
    const { buffer, byteOffset, byteLength } = toBuffer({
      address: '/control/fader1',
      args: [value],
    });
    const sent = performance.now();
    socket.send(new Uint8Array(buffer, byteOffset, byteLength), udp, '127.0.0.1');
    // Frames begin at their own beat; one that begins with it there shows it at its end.
    const beat = 1000 / fps;
    for (let next = sent + beat * ((n % 7) / 7); ; next += beat) {
      await pause(Math.max(0, next - performance.now()) / 1000);
      if (came > before) break;
    }
    frames += (performance.now() - sent) / beat + 1;
  }
  socket.close();
  page.close();
  child.kill();
  return frames / tries;
}

await fading();
for (const fps of [30, 60]) {
  const name = `controls: from a message to the frame that has it, ${String(fps)} a second`;
  report(name, await delay(fps), 'frames', WANTED.frames);
}
process.exit(0);
