import { catalogue, type Shelf } from '@vast-swarm/core/kinds';
import { compilePiece } from '@vast-swarm/core/plan';
import { kindPiece } from '@vast-swarm/core/demo';
import { validatePiece } from '@vast-swarm/core/piece';
import { CpuEngine } from '../src';

/** What the guide shows of kinds that stand in no place of the scene is to be seen in its picture. */

const [WIDE, HIGH] = [64, 36];

let engine: CpuEngine;
beforeAll(async () => {
  engine = await CpuEngine.create({ threads: 1 });
});
afterAll(() => {
  engine.close();
});

/** Light of each pixel, 0 to 255, after a second. */
function lights(shelf: Shelf, kind: string): number[] {
  engine.setPlan(compilePiece(validatePiece(kindPiece(shelf, kind).piece)));
  engine.reset();
  while (engine.frame < 30) engine.step();
  const { pixels } = engine.draw(WIDE, HIGH);
  const at = (i: number, c: number): number => pixels[i * 4 + c]! / 3;
  return Array.from({ length: WIDE * HIGH }, (_, i) => at(i, 0) + at(i, 1) + at(i, 2));
}

/** Mean difference of two pictures, in levels. */
const apart = (a: number[], b: number[]): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length;

test.each(catalogue.controls.map(({ kind }) => kind))(
  'what a %s control holds looks otherwise than what it does not',
  (kind) => {
    const { piece } = kindPiece('controls', kind);
    const whole = lights('controls', kind);
    // On the left is a swarm as it was, on the right the very same under the control.
    expect(piece.swarms[0]!.emitter.kind).toBe(piece.swarms[1]!.emitter.kind);
    const mirrored = whole.map((_, i) => whole[i - (i % WIDE) + (WIDE - 1 - (i % WIDE))]!);
    expect(apart(whole, mirrored)).toBeGreaterThan(2);
    expect(Math.max(...whole)).toBeGreaterThan(60);
  },
);

test.each(['backdrops', 'cameras'] as const)('%s are told apart', (shelf) => {
  const seen = catalogue[shelf].map(({ kind }) => lights(shelf, kind));
  for (const [i, one] of seen.entries()) {
    for (const other of seen.slice(i + 1)) expect(apart(one, other)).toBeGreaterThan(4);
  }
});

test.each(['played', 'live'])('a %s sound is drawn as wide as it is loud', (kind) => {
  const seen = lights('sounds', kind);
  const rows = Array.from({ length: HIGH }, (_, y) =>
    Math.max(...seen.slice(y * WIDE, (y + 1) * WIDE)),
  );
  const dark = seen[0]!;
  const lit = rows.map((v, y) => (v > dark + 40 ? y : -1)).filter((y) => y >= 0);
  // As far up as down.
  expect(lit.length).toBeGreaterThan(4);
  expect(Math.abs(lit[0]! + lit.at(-1)! - (HIGH - 1))).toBeLessThanOrEqual(2);
});
