import { compilePiece, isDrawn } from '@vast-swarm/core';
import { CpuEngine, encodePng } from '@vast-swarm/cpu';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { load, loadStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { numbered, writeWhole } from './writeWhole';

interface RenderOptions extends WorkOptions {
  frames?: [number, number];
  size?: [number, number];
  oversample: number;
  out: string;
}

export async function render(file: string, options: RenderOptions): Promise<void> {
  const piece = await load(file, options);
  const [first, last] = options.frames ?? [0, piece.frame.length - 1];
  const [width, height] = options.size ?? [piece.frame.width, piece.frame.height];
  if (Math.min(width, height) < 16 || Math.max(width, height) > 16384) {
    throw new Refused('--size: each side has 16 to 16384 pixels');
  }
  if (options.oversample > 4) throw new Refused('--oversample: 1 to 4');
  const engine = await CpuEngine.create({ threads: options.threads });
  try {
    const plan = compilePiece(piece, { files: await loadStock(file, piece) });
    for (const { message } of plan.notices) process.stderr.write(`note: ${message}\n`);
    engine.setPlan(plan);
    await mkdir(options.out, { recursive: true });
    const progress = new Progress('frame', last - first + 1);
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      if (!isDrawn(plan, engine.frame, first)) continue;
      const frame = engine.draw(width, height, options.oversample);
      if (engine.frame < first) continue;
      const name = join(options.out, numbered('frame_%04d.png', engine.frame));
      await writeWhole(name, encodePng(frame));
      progress.at(engine.frame - first + 1);
    }
  } finally {
    engine.close();
  }
}
