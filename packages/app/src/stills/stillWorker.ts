import '@vast-swarm/core/content';
import { arrivedFiles, type StockFiles } from '@vast-swarm/core/stock';
import { compilePiece, type Plan } from '@vast-swarm/core/plan';
import type { Piece } from '@vast-swarm/core/piece';
import { CpuEngine } from '@vast-swarm/cpu';
import { transfer } from 'comlink';
import { Looking } from '../engine/looking';
import { exposeWorker } from '../workers/exposeWorker';

/** A small picture of a piece that is wanted. */
export interface StillAsked {
  piece: Piece;
  frame: number;
  width: number;
  height: number;
}

export interface StillWorker {
  /** Sets the files of the pieces' stock, from now on. */
  files: (files: StockFiles) => void;
  /**
   * Draws a piece small, as the engine draws it, with fewer particles that carry the same picture. Null where another
   * one was asked for meanwhile: what was wanted before is not wanted any more.
   *
   * @throws Error in words where it cannot be drawn
   */
  draw: (asked: StillAsked) => Promise<ImageBitmap | null>;
}

/** So many particles are enough for a small picture. */
const ENOUGH = 6000;
/** Milliseconds of work between looks for something newer. */
const BREATH = 25;

let files: StockFiles = new Map();
const looking = new Looking();
let engine: Promise<CpuEngine> | null = null;
/** Grows with all that is asked. */
let asked = 0;

/** The plan of a piece with as many particles as are seen when it is small. */
function lightPlan(piece: Piece): Plan {
  const compiled = (own: Piece): Plan => compilePiece(own, { files, looker: looking.looker });
  const plan = compiled(piece);
  const all = plan.swarms.reduce((sum, s) => sum + s.capacity, 0);
  if (all <= ENOUGH) return plan;
  return compiled({ ...piece, density: Math.max(0.01, (piece.density * ENOUGH) / all) });
}

function breathe(): Promise<void> {
  return new Promise((resolve) => {
    setTimeout(resolve, 0);
  });
}

/** One after the other: there is one engine. */
let before: Promise<unknown> = Promise.resolve();

async function draw({ piece, frame, width, height }: StillAsked): Promise<ImageBitmap | null> {
  const own = ++asked;
  const last = before;
  let over: () => void = () => undefined;
  before = new Promise<void>((resolve) => (over = resolve));
  try {
    await last;
    await breathe();
    if (own !== asked) return null;
    engine ??= CpuEngine.create({ threads: 1 });
    const made = await engine;
    made.setPlan(lightPlan(piece));
    made.reset();
    let rested = performance.now();
    while (made.frame < frame) {
      await made.ready();
      made.step();
      if (performance.now() - rested < BREATH) continue;
      await breathe();
      rested = performance.now();
      if (own !== asked) return null;
    }
    await made.ready();
    const { pixels } = made.draw(width, height);
    const bitmap = await createImageBitmap(new ImageData(pixels, width, height));
    return transfer(bitmap, [bitmap]);
  } finally {
    over();
  }
}

const worker: StillWorker = {
  files: (given) => {
    files = arrivedFiles(given);
    looking.files = files;
  },
  draw,
};
exposeWorker(worker, () => undefined);
