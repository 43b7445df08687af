import { isDrawn } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import { join } from 'node:path';
import { compiled } from './compiled';
import { framesOf } from './frames';
import { load, withStock, type WorkOptions } from './load';
import { Progress } from './progress';
import { Refused } from './refused';
import { tell } from './say';
import { stillOf, STILLS, type StillFormat } from './stills';
import { makeFolder, numbered, writeWhole } from './writeWhole';

interface RenderOptions extends WorkOptions {
  frames?: [number, number];
  size?: [number, number];
  oversample: number;
  format: StillFormat;
  alpha?: boolean;
  out: string;
}

export async function render(file: string, options: RenderOptions): Promise<void> {
  const { piece, files } = await withStock(file, await load(file, options));
  const [first, last] = framesOf(piece, options.frames);
  const [width, height] = options.size ?? [piece.frame.width, piece.frame.height];
  if (Math.min(width, height) < 16 || Math.max(width, height) > 16384) {
    throw new Refused('--size: each side has 16 to 16384 pixels');
  }
  if (options.oversample > 4) throw new Refused('--oversample: 1 to 4');
  const { format, alpha: clear = false } = options;
  const { ending, fine } = STILLS[format];
  const light = fine || clear;
  await makeFolder(options.out);
  const engine = await CpuEngine.create({ threads: options.threads });
  try {
    const plan = compiled(piece, { files, light, clear });
    for (const { message } of plan.notices) tell(`note: ${message}`);
    engine.setPlan(plan);
    const progress = new Progress('frame', last - first + 1);
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      if (!isDrawn(plan, engine.frame, first)) continue;
      const frame = engine.draw(width, height, options.oversample);
      if (engine.frame < first) continue;
      const name = join(options.out, numbered(`frame_%04d.${ending}`, engine.frame));
      await writeWhole(name, stillOf(format, engine, frame, { rate: piece.frame.rate, light }));
      progress.at(engine.frame - first + 1);
    }
  } finally {
    engine.close();
  }
}
