import type { LiveEngine } from '@vast-swarm/core';
import { chooseEngine } from './live';
import type { EngineChoice, FromEngine, ToEngine } from './messages';
import { Session } from './session';

/** The worker that simulates and draws: the interface thread never does. */

let session: Session | null = null;
let live: LiveEngine | null = null;
let canvas: OffscreenCanvas | null = null;
/** Messages that came before the engine was there. */
const early: ToEngine[] = [];

const send = (message: FromEngine): void => {
  postMessage(message);
};

self.onmessage = ({ data }: MessageEvent<ToEngine>) => {
  if (data.type === 'start') void start(data.canvas, data.engine);
  else if (session) handle(session, data);
  else early.push(data);
};

async function start(on: OffscreenCanvas, choice: EngineChoice): Promise<void> {
  canvas = on;
  try {
    await open(on, choice);
  } catch (error) {
    // Thrown anew outside the promise, so that it reaches the interface as the worker's error.
    setTimeout(() => {
      throw error;
    });
  }
}

async function open(on: OffscreenCanvas, choice: EngineChoice): Promise<void> {
  const engine = await chooseEngine(choice, on);
  live = engine;
  session = new Session(engine, send);
  for (const message of early) handle(session, message);
}

function handle(to: Session, message: ToEngine): void {
  switch (message.type) {
    case 'piece':
      to.setPiece(message.piece);
      return;
    case 'stock':
      to.setStock(message.files);
      return;
    case 'bakes':
      void to.setBakes(message.bakes);
      return;
    case 'bake':
      to.bake(message.swarm, message.file);
      return;
    case 'stopBake':
      to.stopBake();
      return;
    case 'census':
      void to.census(message.swarm);
      return;
    case 'follow':
      to.follow(message.at);
      return;
    case 'drive':
      to.drive(message.signal, message.value);
      return;
    case 'play':
    case 'pause':
      to.play(message.type === 'play');
      return;
    case 'seek':
      to.seek(message.frame);
      return;
    case 'preview':
      to.preview(message.choice, message.room);
      return;
    case 'thumb':
      void thumb();
      return;
    case 'crash':
      live!.crash();
      return;
    case 'start':
      return;
  }
}

/** A small picture of what is on the canvas. */
async function thumb(): Promise<void> {
  if (!canvas || canvas.width < 2) return;
  const small = new OffscreenCanvas(480, Math.round((480 * canvas.height) / canvas.width));
  const context = small.getContext('2d')!;
  context.drawImage(canvas, 0, 0, small.width, small.height);
  const blob = await small.convertToBlob({ type: 'image/jpeg', quality: 0.88 });
  send({ type: 'thumb', blob });
}
