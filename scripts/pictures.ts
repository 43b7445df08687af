import { mkdir, rm, writeFile } from 'node:fs/promises';
import {
  catalogue,
  compilePiece,
  isDrawn,
  kindPiece,
  RECIPES,
  validatePiece,
  withWords,
  type Piece,
  type Shelf,
} from '@vast-swarm/core';
import { CpuEngine, encodePng } from '@vast-swarm/cpu';

/** Draws what the application shows of recipes and of kinds, by the engine, from what is shipped. */

const FOLDER = 'packages/app/public/made';
const WIDE = 240;

const engine = await CpuEngine.create({ threads: 2 });

async function picture(piece: Piece, frame: number, file: string): Promise<void> {
  const { width, height } = piece.frame;
  const files = await withWords(piece.stock, new Map());
  const plan = compilePiece(validatePiece(piece), { files });
  const draw = () => engine.draw(WIDE, Math.round((WIDE * height) / width), 2);
  engine.setPlan(plan);
  engine.reset();
  while (engine.frame < frame) {
    await engine.ready();
    engine.step();
    // What looks back on earlier frames has to have drawn them.
    if (engine.frame < frame && isDrawn(plan, engine.frame, frame)) draw();
  }
  await engine.ready();
  const drawn = draw();
  await writeFile(file, await encodePng(drawn));
}

await rm(FOLDER, { recursive: true, force: true });
await mkdir(`${FOLDER}/recipes`, { recursive: true });
for (const { id, frame, shown } of RECIPES) {
  await picture({ ...shown(), density: 0.6 }, frame, `${FOLDER}/recipes/${id}.png`);
}
await mkdir(`${FOLDER}/kinds`);
for (const shelf of Object.keys(catalogue) as Shelf[]) {
  for (const { kind } of catalogue[shelf]) {
    const { piece, frame } = kindPiece(shelf, kind);
    await picture(piece, frame, `${FOLDER}/kinds/${shelf}-${kind}.png`);
  }
}
engine.close();
