import { writeFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { encodePng, stillBytes, STILLS, type StillFormat } from '@vast-swarm/core/formats';
import { CpuEngine } from '@vast-swarm/cpu';
import { openFolder } from '../../packages/server/src/deliver/frameFolder';
import { complete, stampText } from '../../packages/server/src/deliver/stamp';
import { report } from './report';

/**
 * Making files of frames as the command line does: its share of a render, and megabytes a second of what the files hold;
 * and how soon a render that was ended goes on.
 */

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

/** Frames that are there when a render goes on, and milliseconds in which its place is to be found. */
const [THERE, WITHIN] = [10_000, 2000];

async function resumed(): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'vast-swarm-bench-'));
  const made = {
    size: '16x16',
    oversample: 1,
    alpha: false,
    format: 'png',
    piece: '',
    layers: '',
    program: '',
  };
  const frame = { width: 16, height: 16, pixels: new Uint8ClampedArray(1024) };
  for (let i = 0; i < THERE; i++) {
    const name = join(folder, `frame_${String(i).padStart(4, '0')}.png`);
    const png = await encodePng(frame, { comments: stampText(i, made) });
    writeFileSync(name, complete(png, STILLS.png));
  }
  const still = { format: 'png', alpha: false, rate: 30 } as const;
  const asked = { folder, pattern: 'frame_%04d.png', made, still, first: 0, last: THERE };
  const started = performance.now();
  const delivery = await openFolder({ ...asked, resume: true });
  const found = performance.now() - started;
  if (!delivery.has(THERE - 1) || delivery.has(THERE)) throw new Error('frames are missing');
  await delivery.cancel();
  await rm(folder, { recursive: true });
  return found;
}

report('resume: its place among 10,000 frames', await resumed(), 'ms', WITHIN);
