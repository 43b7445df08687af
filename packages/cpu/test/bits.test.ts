import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { STATE } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { bytesHash } from '../../../tests/support/frameHash';
import { pieceOfEveryKind } from '../../../tests/support/pieces';
import { CpuEngine } from '../src';

/**
 * The bits of every kind and of the whole show as they were when they were last meant to change. A
 * change of a snapshot is a change of what artists have rendered: say why in the commit.
 */

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => engine.close());

function bitsOf(
  piece: Piece,
  frame: number,
  width: number,
  height: number,
): Record<string, string> {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  const states = piece.swarms.map(({ id }) => [
    id,
    STATE.map((name) => bytesHash(engine.state(id, name))).join(' '),
  ]);
  const picture = bytesHash(engine.draw(width, height).pixels);
  return { ...(Object.fromEntries(states) as Record<string, string>), picture };
}

test('every kind has the bits it had', () => {
  const all = pieceOfEveryKind().map(([name, piece]) => [name, bitsOf(piece, 24, 128, 72)]);
  expect(Object.fromEntries(all)).toMatchSnapshot();
});

test('every piece of the show has the bits it had', () => {
  const all = DEMO_SHOW.pieces.map(({ id, piece }) => {
    const frame = { ...piece.frame, width: 320, height: 180, preroll: 10 };
    return [id, [0, 45].map((at) => bitsOf({ ...piece, frame }, at, 160, 90))];
  });
  expect(Object.fromEntries(all)).toMatchSnapshot();
});
