import { UsdExport, usdLayout } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import type { StockFiles } from '@vast-swarm/core/stock';
import { CpuEngine } from '@vast-swarm/cpu';
import { createReadStream } from 'node:fs';
import { mkdtemp, open, rename, rm, writeFile, type FileHandle } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { compiled } from './compiled';
import { whenInterrupted } from './interrupted';
import { Progress } from './progress';
import { Refused } from './refused';
import { tell } from './say';
import { makeFolder, whyNot } from './writeWhole';

interface UsdAsked {
  piece: Piece;
  files: StockFiles;
  /** Ids of swarms. */
  swarms: readonly string[];
  first: number;
  last: number;
  threads: number;
  json?: boolean;
  out: string;
}

/**
 * Particles of a stretch of frames as a scene. Samples of an attribute stand together in the file, and are kept in files of
 * their own until all are there.
 */
export async function writeUsd(asked: UsdAsked): Promise<void> {
  const { piece, files, swarms, first, last, out } = asked;
  await makeFolder(dirname(out));
  const part = `${out}.part`;
  const samples = await mkdtemp(`${out}.samples-`).catch((error: unknown) => {
    throw new Refused(`${out}: cannot be written: ${whyNot(error)}.`);
  });
  const handles = new Map<string, FileHandle>();
  const clear = async (): Promise<void> => {
    await Promise.all([...handles.values()].map((handle) => handle.close()));
    handles.clear();
    await rm(samples, { recursive: true, force: true });
    await rm(part, { force: true });
  };
  const stop = whenInterrupted(clear);
  const engine = await CpuEngine.create({ threads: asked.threads });
  try {
    const plan = compiled(piece, { files });
    for (const { message } of plan.notices) tell(`note: ${message}`);
    engine.setPlan(plan);
    const usd = new UsdExport(plan, swarms);
    const fileOf = (prim: number, attribute: string): string =>
      join(samples, `${String(prim)} ${attribute.replace(':', ' ')}`);
    const progress = new Progress('frame', last - first + 1, asked.json);
    while (engine.frame < last) {
      await engine.ready();
      engine.step();
      if (engine.frame < first) continue;
      for await (const [prim, attribute, bytes] of usd.frame(engine.frame, engine)) {
        const file = fileOf(prim, attribute);
        const handle = handles.get(file) ?? (await open(file, 'a'));
        handles.set(file, handle);
        await handle.write(bytes);
      }
      progress.one(engine.frame);
    }
    await writeFile(part, '');
    for (const piece of usdLayout(usd.scene(asked.piece.name, first, last))) {
      const more =
        typeof piece === 'string' ? piece : createReadStream(fileOf(piece.prim, piece.attribute));
      await writeFile(part, more, { flag: 'a' });
    }
    await rename(part, out);
  } catch (error) {
    if (!(error instanceof Error && 'code' in error)) throw error;
    throw new Refused(`${out}: cannot be written: ${whyNot(error)}.`);
  } finally {
    stop();
    engine.close();
    await clear();
  }
}
