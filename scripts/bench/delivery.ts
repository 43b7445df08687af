import { promisify } from 'node:util';
import { constants, deflate } from 'node:zlib';
import { compilePiece, DEMO_SHOW, packBy } from '@vast-swarm/core';
import { CpuEngine, stillBytes, type StillFormat } from '@vast-swarm/cpu';
import { report } from './report';

/** Making files of frames: its share of a render, and megabytes a second of what the files hold. */

// As the command line has it.
const deflated = promisify<Uint8Array, { level: number; strategy: number }, Buffer>(deflate);
packBy((bytes) => deflated(bytes, { level: 1, strategy: constants.Z_RLE }));

const [WIDTH, HEIGHT] = [1920, 1080];
const FRAMES = 6;
/** What the files may take of a render in parts of a hundred, and megabytes of OpenEXR a second. */
const [SHARE, SPEED] = [15, 60];

async function measured(id: string, format: StillFormat): Promise<{ share: number; ms: number }> {
  const { piece } = DEMO_SHOW.pieces.find((p) => p.id === id)!;
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(piece, { light: format !== 'png' }));
  while (engine.frame < 60) engine.step();
  let [making, writing] = [0, 0];
  for (let i = 0; i < FRAMES; i++) {
    const started = performance.now();
    engine.step();
    const drawn = engine.draw(WIDTH, HEIGHT);
    const between = performance.now();
    await stillBytes({ format, alpha: false, rate: 30 }, engine, drawn);
    making += between - started;
    writing += performance.now() - between;
  }
  engine.close();
  return { share: (100 * writing) / (making + writing), ms: writing / FRAMES };
}

for (const format of ['png', 'png16', 'exr'] as const) {
  const { share, ms } = await measured('plankton-lantern', format);
  report(`${format}: share of a render that its files take`, share, '%', SHARE);
  if (format !== 'exr') continue;
  // Three channels in half precision.
  const megabytes = (WIDTH * HEIGHT * 6) / 2 ** 20;
  report('OpenEXR files', megabytes / (ms / 1000), 'MB/s', SPEED);
}
