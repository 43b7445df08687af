import '@vast-swarm/core/content';
import { exposeWorker } from '../workers/exposeWorker';
import type { LiveEngine } from '@vast-swarm/core/play';
import { chooseEngine } from './live';
import type { EngineWorker } from './messages';
import { Looking } from './looking';
import { Session } from './session';

/** The worker that simulates and draws: the interface thread never does. */

let live: LiveEngine | null = null;
let canvas: OffscreenCanvas | null = null;
let current: Session | null = null;
let begin: (session: Session) => void;
/** Calls that came before the engine was there; they wait for it, in order. */
const session = new Promise<Session>((resolve) => (begin = resolve));

const worker: EngineWorker = {
  async start(on, choice, tell, asked) {
    canvas = on;
    live = await chooseEngine(choice, on);
    current = new Session(live, tell, new Looking(), asked);
    begin(current);
  },
  setPiece: async (piece) => (await session).setPiece(piece),
  setStock: async (files) => (await session).setStock(files),
  setBakes: async (files) => (await session).setBakes(files),
  stopBuilding: async () => (await session).stopBuilding(),
  bake: async (swarm, file) => (await session).bake(swarm, file),
  stopBake: async () => (await session).stopBake(),
  sound: async (id) => (await session).hearing.sound(id),
  extent: async (id) => (await session).hearing.extent(id),
  peaks: async (...asked) => (await session).hearing.peaks(...asked),
  spectrum: async (...asked) => (await session).hearing.spectrum(...asked),
  tempo: async (id) => (await session).hearing.tempo(id),
  curve: async (...asked) => (await session).hearing.curve(...asked),
  fired: async (...asked) => (await session).hearing.fired(...asked),
  census: async (swarm) => (await session).census(swarm),
  mediumCensus: async (medium) => (await session).mediumCensus(medium),
  follow: async (at) => (await session).follow(at),
  drive: async (signal, value) => (await session).drive(signal, value),
  act: async (play) => (await session).act(play),
  letGo: async (control) => (await session).letGo(control),
  record: async (...asked) => (await session).record(...asked),
  stopRecording: async (list) => (await session).stopRecording(list),
  play: async (playing) => (await session).play(playing),
  seek: async (frame) => (await session).seek(frame),
  run: async (run) => (await session).run(run),
  jump: async (frame) => (await session).jump(frame),
  pace: async (speed) => (await session).setPace(speed),
  preview: async (choice, room) => (await session).preview(choice, room),
  thumb,
  crash: () => {
    live?.crash();
    return Promise.resolve();
  },
};
exposeWorker(worker, (what, part) => {
  current?.reportProgress(what, part);
});

/** A small picture of what is on the canvas. */
async function thumb(): Promise<Blob | null> {
  if (!canvas || canvas.width < 2) return null;
  const small = new OffscreenCanvas(480, Math.round((480 * canvas.height) / canvas.width));
  const context = small.getContext('2d')!;
  context.drawImage(canvas, 0, 0, small.width, small.height);
  return small.convertToBlob({ type: 'image/jpeg', quality: 0.88 });
}
