import type { GivenValues } from '../../language/names';
import type { Copies } from '../../piece/types';
import { rotationRows } from './rotation';

/** A turn, scale and shift: three rows of x, y, z and the shift, in metres. */
export type Matrix = readonly number[];

const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

function times(a: Matrix, b: Matrix): Matrix {
  const out: number[] = [];
  for (let row = 0; row < 3; row++) {
    for (let column = 0; column < 4; column++) {
      let sum = column === 3 ? a[4 * row + 3]! : 0;
      for (let k = 0; k < 3; k++) sum += a[4 * row + k]! * b[4 * k + column]!;
      out.push(sum);
    }
  }
  return out;
}

/** About x, then y, then z, scaled, then shifted. */
function stepOf({ offset, turn, scale }: Copies): Matrix {
  return rotationRows(turn).flatMap((row, i) => [...row.map((v) => v * scale), offset[i]!]);
}

/** Where each repeat stands, the swarm itself first; chains repeat what came before them. */
export function copyMatrices(chain: readonly Copies[]): Matrix[] {
  let all = [IDENTITY];
  for (const copies of chain) {
    const step = stepOf(copies);
    const powers = [IDENTITY];
    for (let i = 1; i < copies.count; i++) powers.push(times(step, powers.at(-1)!));
    all = powers.flatMap((p) => all.map((m) => times(p, m)));
  }
  return all;
}

/** A repeat's place as uniforms of the look kernel; `copy.scale` is how much larger things get. */
export function copyUniforms(m: Matrix): GivenValues {
  const cells = m.map((v, i): [string, number] => [`copy.${String(i)}`, v]);
  return { ...Object.fromEntries(cells), 'copy.scale': Math.hypot(m[0]!, m[4]!, m[8]!) };
}
