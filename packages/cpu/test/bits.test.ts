import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { compilePiece } from '@vast-swarm/core/plan';
import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { STATE } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import { bytesHash } from '../../../tests/support/frameHash';
import { pieceOfEveryKind } from '../../../tests/support/pieces';
import { swept } from '../../../tests/support/sweep';
import { CpuEngine } from '../src';

/**
 * The bits of every kind and of the whole show as they were when they were last meant to change. A change of them is a
 * change of what artists have rendered: say why in the commit, and write them with BITS=write.
 */

const FILE = join(__dirname, 'bits.json');
type Bits = Record<string, string>;
interface Kept {
  kinds: Record<string, Bits>;
  show: Record<string, Bits[]>;
}
const writes = process.env.BITS === 'write';
const kept: Kept = writes
  ? { kinds: {}, show: {} }
  : (JSON.parse(readFileSync(FILE, 'utf8')) as Kept);
const kinds = pieceOfEveryKind();
const show = DEMO_SHOW.pieces.map(({ id, piece }) => [id, piece] as const);

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 2 });
});
afterAll(() => {
  engine.close();
  if (writes) writeFileSync(FILE, `${JSON.stringify(kept, null, 2)}\n`);
});

function bitsOf(piece: Piece, frame: number, width: number, height: number): Bits {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  while (engine.frame < frame) engine.step();
  const states = piece.swarms.map(({ id }) => [
    id,
    STATE.map((name) => bytesHash(engine.state(id, name))).join(' '),
  ]);
  const picture = bytesHash(engine.draw(width, height).pixels);
  return { ...(Object.fromEntries(states) as Bits), picture };
}

test.each(writes ? kinds : swept(kinds, 0.1))('%s has the bits it had', (name, piece) => {
  const bits = bitsOf(piece, 24, 128, 72);
  if (writes) kept.kinds[name] = bits;
  expect(bits).toEqual(kept.kinds[name]);
});

test.each(writes ? show : swept(show, 0.2))('%s has the bits it had', (id, piece) => {
  const frame = { ...piece.frame, width: 320, height: 180, preroll: 10 };
  const bits = [0, 45].map((at) => bitsOf({ ...piece, frame }, at, 160, 90));
  if (writes) kept.show[id] = bits;
  expect(bits).toEqual(kept.show[id]);
});

test('there are bits of every kind and of every piece of the show, and of nothing else', () => {
  expect(Object.keys(kept.kinds)).toEqual(kinds.map(([name]) => name));
  expect(Object.keys(kept.show)).toEqual(show.map(([id]) => id));
});
