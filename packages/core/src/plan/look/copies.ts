import { hashNumber, unitNumber } from '@vast-swarm/kernel';
import type { GivenValues } from '../../language/names';
import { CHANCES, type Chance } from '../../language/particle';
import type { Copies } from '../../piece/types';
import { rotationRows } from './rotation';

/** A turn, scale and shift: three rows of x, y, z and the shift, in metres. */
export type Matrix = readonly number[];

const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** A repeat of a swarm. */
interface Copy {
  matrix: Matrix;
  /** Keys of its chances, i32 each; 0 leaves them as the swarm's own. */
  chances: Readonly<Record<Chance, number>>;
  /** Where the surface it was born on begins along and around, and how much it takes of the whole. */
  surface: readonly [Stretch, Stretch];
}

interface Stretch {
  first: number;
  part: number;
}

const WHOLE: Stretch = { first: 0, part: 1 };
const ITSELF: Copy = {
  matrix: IDENTITY,
  chances: Object.fromEntries(CHANCES.map((c) => [c, 0])) as Copy['chances'],
  surface: [WHOLE, WHOLE],
};

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

/** How many there are of a swarm, with itself. */
export function copyCount(chain: readonly Copies[]): number {
  return chain.reduce((product, { count }) => product * count, 1);
}

/**
 * Repeats of a swarm as uniforms of the look kernels, the swarm itself first; chains repeat what came before them.
 *
 * @param most no more than the first so many
 */
export function copiesOf(chain: readonly Copies[], most = Infinity): GivenValues[] {
  return repeats(chain, most).slice(0, most).map(uniformsOf);
}

function repeats(chain: readonly Copies[], most: number): Copy[] {
  let all = [ITSELF];
  chain.forEach((copies, link) => {
    const step = stepOf(copies);
    const powers = [IDENTITY];
    // Of those behind the last that is wanted none is made: a chain could have a million million.
    const wanted = Math.min(copies.count, Math.ceil(most / all.length));
    for (let i = 1; i < wanted; i++) powers.push(times(step, powers.at(-1)!));
    all = powers.flatMap((power, i) =>
      all.map(({ matrix, chances, surface }) => ({
        matrix: times(power, matrix),
        chances: ownChances(chances, copies, link, i),
        surface: runOn(surface, copies, i),
      })),
    );
  });
  return all;
}

/** The first of a chain keeps the chances of what is repeated. */
function ownChances(
  chances: Copy['chances'],
  { differ }: Copies,
  link: number,
  i: number,
): Copy['chances'] {
  if (!differ || i === 0) return chances;
  const own = differ.in.map((chance): [Chance, number] => {
    const key = hashNumber(hashNumber(differ.seed ^ (link << 24)) ^ i);
    return [chance, (chances[chance] ^ key) | 0 || 1];
  });
  return { ...chances, ...Object.fromEntries(own) };
}

/** Each repeat's surface begins where that of the one before ends. */
function runOn(surface: Copy['surface'], { count, runsOn }: Copies, i: number): Copy['surface'] {
  if (!runsOn) return surface;
  const next = ({ first, part }: Stretch): Stretch => ({
    first: (i + first) / count,
    part: part / count,
  });
  const [along, around] = surface;
  return runsOn === 'along' ? [next(along), around] : [along, next(around)];
}

/** `copy.scale` is how much larger things get. */
function uniformsOf({ matrix, chances, surface }: Copy): GivenValues {
  const cells = matrix.map((v, i): [string, number] => [`copy.${String(i)}`, v]);
  const keys = CHANCES.map((c): [string, number] => [`copy.chance.${c}`, chances[c]]);
  const stretches = surface.flatMap(({ first, part }, i): [string, number][] => [
    [`copy.first.${String(i)}`, first],
    [`copy.part.${String(i)}`, part],
    // Another place in the map for each axis; a shift by nothing where it has no chance of its own.
    [`copy.shift.${String(i)}`, chances.map === 0 ? 0 : unitNumber(chances.map + i)],
  ]);
  const values: GivenValues = Object.fromEntries([...cells, ...keys, ...stretches]);
  return {
    ...values,
    'copy.scale': Math.hypot(matrix[0]!, matrix[4]!, matrix[8]!),
  };
}
