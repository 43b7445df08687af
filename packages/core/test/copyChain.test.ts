import type { Copies } from '../src/piece/types';
import { copiesOf } from '../src/plan/look/copies';

/**
 * Where repeats of a swarm stand. In the plane a turn about z, a scale and a shift are z ↦ a·z + b of complex numbers, so
 * that a chain of them is worked out without any matrix.
 */

type Complex = readonly [re: number, im: number];

/** The step of one link, done `times` over. */
function stepped({ offset, turn, scale }: Copies, times: number, from: Complex): Complex {
  const angle = (turn[2] * Math.PI) / 180;
  const [re, im] = [scale * Math.cos(angle), scale * Math.sin(angle)];
  let [x, y] = from;
  for (let i = 0; i < times; i++) {
    [x, y] = [re * x - im * y + offset[0], im * x + re * y + offset[1]];
  }
  return [x, y];
}

const link = (count: number, x: number, y: number, degrees: number, scale: number): Copies => ({
  count,
  offset: [x, y, 0],
  turn: [0, 0, degrees],
  scale,
});

test.each<[string, Copies[]]>([
  ['a row that is turned as a whole', [link(3, 2, 0, 0, 1), link(4, 0, 0, 90, 1)]],
  ['a ring that is set in a row', [link(4, 0, 0, 90, 1), link(3, 2, 0, 0, 1)]],
  ['a spiral', [link(7, 1, 0.2, 35, 0.8)]],
  ['three links', [link(2, 1, 3, 10, 1.3), link(3, -2, 0.5, -70, 0.6), link(4, 0.1, -1, 200, 1.1)]],
])('%s: each link repeats what came before it', (_, chain) => {
  const all = copiesOf(chain);
  expect(all).toHaveLength(chain.reduce((product, { count }) => product * count, 1));
  for (const point of [
    [0, 0],
    [0.7, -0.4],
  ] as const) {
    all.forEach((copy, index) => {
      let [at, rest]: [Complex, number] = [point, index];
      for (const copies of chain) {
        at = stepped(copies, rest % copies.count, at);
        rest = Math.floor(rest / copies.count);
      }
      const row = (k: number): number =>
        [...point, 0, 1].reduce(
          (sum, v, i) => sum + v * (copy[`copy.${String(4 * k + i)}`] as number),
          0,
        );
      expect(row(0)).toBeCloseTo(at[0], 5);
      expect(row(1)).toBeCloseTo(at[1], 5);
      expect(row(2)).toBeCloseTo(0, 5);
    });
  }
});
