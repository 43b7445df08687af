import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { catalogue, type Shelf } from '@vast-swarm/core/kinds';
import { compilePiece, isDrawn, type Plan } from '@vast-swarm/core/plan';
import { kindPiece, RECIPES } from '@vast-swarm/core/demo';
import { validatePiece, type Piece } from '@vast-swarm/core/piece';
import { withWords } from '@vast-swarm/core/stock';
import { encodePng } from '@vast-swarm/core/formats';
import { CpuEngine } from '@vast-swarm/cpu';

/** Draws what the application shows of recipes and of kinds, by the engine, from what is shipped. */

const FOLDER = 'packages/app/public/made';
const WIDE = 240;
/** What each picture was drawn of, as a hash: only what is drawn otherwise is drawn again. */
const DRAWN = `${FOLDER}/drawn.json`;

const before = JSON.parse(await readFile(DRAWN, 'utf8').catch(() => '{}')) as Record<
  string,
  string
>;
const drawn: Record<string, string> = {};
const engine = await CpuEngine.create({ threads: 2 });

/** All that a picture is made of, but for the engine's own hand: the piece, and the kernels that it becomes. */
function madeOf(piece: Piece, frame: number, plan: Plan): string {
  const kernels = plan.swarms.flatMap((s) => [
    s.birth,
    s.motion,
    ...[...s.draws, ...s.shadows].map((d) => d.kernel),
  ]);
  const finish = plan.finish.steps.flatMap((step) => ('kernel' in step ? [step.kernel] : []));
  const hash = createHash('sha256').update(JSON.stringify([frame, piece]));
  for (const { graph } of [...kernels, ...finish, plan.backdrop]) hash.update(graph.signature());
  return hash.digest('hex');
}

async function picture(piece: Piece, frame: number, file: string): Promise<void> {
  const { width, height } = piece.frame;
  const files = await withWords(piece.stock, new Map());
  const plan = compilePiece(validatePiece(piece), { files });
  drawn[file] = madeOf(piece, frame, plan);
  if (drawn[file] === before[file] && there.has(file)) return;
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
  await writeFile(`${FOLDER}/${file}`, await encodePng(draw()));
}

await mkdir(`${FOLDER}/recipes`, { recursive: true });
await mkdir(`${FOLDER}/kinds`, { recursive: true });
const there = new Set(await readdir(FOLDER, { recursive: true }));
for (const { id, frame, shown } of RECIPES) {
  await picture({ ...shown(), density: 0.6 }, frame, `recipes/${id}.png`);
}
for (const shelf of Object.keys(catalogue) as Shelf[]) {
  for (const { kind } of catalogue[shelf]) {
    const { piece, frame } = kindPiece(shelf, kind);
    await picture(piece, frame, `kinds/${shelf}-${kind}.png`);
  }
}
for (const file of there) {
  if (file.endsWith('.png') && !drawn[file]) await rm(`${FOLDER}/${file}`);
}
await writeFile(DRAWN, JSON.stringify(drawn, null, 1));
engine.close();
