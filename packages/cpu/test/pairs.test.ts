import { listsWhere } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { gathered, pasted, validatePiece, type PartRef, type Piece } from '@vast-swarm/core/piece';
import { bytesHash } from '../../../tests/support/frameHash';
import { pieceOfEveryKind } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { CpuEngine } from '../src';

/**
 * Each kind beside each other one: the parts of one small piece are put into another, as an artist pastes them. It runs,
 * whatever it is, in a loop and with a start ahead, and is the same with one thread and two, when it is gone back in, and
 * whatever the engine has run before.
 */

const KINDS = pieceOfEveryKind();
const [WIDE, HIGH] = [96, 54];
const FRAMES = 5;

/** Frames of a loop, 0 without; frames ahead of the first. */
const WAYS = [
  [0, 0],
  [1, 0],
  [3, 0],
  [0, 7],
] as const;

const PAIRS = KINDS.flatMap(([one, a], i) =>
  KINDS.slice(i).map(([other, b], k) => [one, other, WAYS[(i + k) % WAYS.length]!, a, b] as const),
);

let one: CpuEngine;
let two: CpuEngine;
beforeAll(async () => {
  one = await CpuEngine.create({ threads: 1 });
  two = await CpuEngine.create({ threads: 2 });
});
afterAll(() => {
  one.close();
  two.close();
});

function together(a: Piece, b: Piece, [loop, preroll]: (typeof WAYS)[number]): Piece {
  const all = listsWhere((s) => !s.called).flatMap((list) =>
    b[list].map(({ id }): PartRef => ({ list, id })),
  );
  const { piece } = pasted(structuredClone(a), gathered(b, all, 'All')!);
  Object.assign(piece.frame, loop ? { loop: true, length: loop } : { preroll });
  for (const swarm of piece.swarms) swarm.dials.rate = 300;
  return validatePiece(piece);
}

/** Bits of the states, which are all finite, and of the picture. */
function seen(engine: CpuEngine, piece: Piece): string {
  const states = piece.swarms.map(({ id }) => {
    const all = ['px', 'py', 'pz', 'vx', 'age'].map((name) => engine.state(id, name));
    const slots = Math.min(engine.born(id), all[0]!.length);
    for (const values of all) {
      for (const v of values.subarray(0, slots))
        if (!Number.isFinite(v)) throw new Error(`${id}: ${String(v)}`);
    }
    return all.map((values) => bytesHash(values.slice(0, slots))).join();
  });
  return [...states, bytesHash(engine.draw(WIDE, HIGH).pixels)].join();
}

function run(engine: CpuEngine, piece: Piece): string[] {
  engine.reset();
  return Array.from({ length: FRAMES }, () => {
    engine.step();
    while (engine.frame < 0) engine.step();
    return seen(engine, piece);
  });
}

test.each(swept(PAIRS, 0.001, 0.02))('%s beside %s, %j', (_one, _other, way, a, b) => {
  const piece = together(a, b, way);
  const plan = compilePiece(piece);
  for (const engine of [one, two]) engine.setPlan(plan);
  const first = run(one, piece);
  expect(run(two, piece)).toEqual(first);
  expect(run(one, piece)).toEqual(first);
});
