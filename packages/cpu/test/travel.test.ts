import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import {
  gathered,
  inEffect,
  makePiece,
  parseParts,
  partsText,
  pasted,
  type Piece,
} from '@vast-swarm/core/piece';
import { swept } from '../../../tests/support/sweep';
import { CpuEngine } from '../src';

/** A part that was pasted looks as where it came from. */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function picture(piece: Piece, frame: number): Uint8ClampedArray {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  return engine.draw(96, 54).pixels;
}

/** A piece of a show with few particles, nothing outside, and a plain finish. */
function plain(piece: Piece): Piece {
  const still = piece.swarms.map((s) => ({ ...inEffect(piece, s), follows: undefined }));
  return { ...piece, swarms: still, density: 0.05, finish: [], controls: [], cues: [], played: [] };
}

const swarms = DEMO_SHOW.pieces
  // Others drive dials by controls, and cameras by signals, which stay where they are.
  .filter(
    ({ piece }) => piece.controls.length === 0 && !JSON.stringify(piece.camera).includes('signal'),
  )
  .flatMap(({ piece }) => piece.swarms.map((s) => [piece.name, s.id, piece] as const));

test.each(swept(swarms, 0.2))("of %s, '%s' pasted elsewhere draws the same", (_, id, piece) => {
  const from = plain(piece);
  const text = partsText(gathered(from, [{ list: 'swarms', id }], id)!);
  const { seed, frame, density, camera, backdrop, lights } = from;
  const target = {
    ...makePiece('Other'),
    seed,
    frame,
    density,
    camera,
    backdrop,
    lights,
    finish: [],
  };
  const { piece: there } = pasted(target, parseParts(text));
  // Where it came from, nothing else is seen: what it is born from is there, and is there too.
  const brought = new Set(there.swarms.map((s) => s.id));
  const alone = { ...from, swarms: from.swarms.filter((s) => brought.has(s.id)) };
  alone.influence = Object.fromEntries(
    Object.entries(from.influence).map(([felt, row]) => [
      felt,
      Object.fromEntries(
        Object.entries(row).filter(
          ([feels]) => from.media.some((m) => m.id === feels) || brought.has(feels),
        ),
      ),
    ]),
  );
  const [here, pastedThere] = [picture(alone, 20), picture(there, 20)];
  expect(pastedThere).toEqual(here);
});
