/** What a mark looks like in its own square, u and v from -1 to 1; the engines draw the same. */
export const PATTERNS = ['disc', 'ring', 'square', 'spark', 'puff', 'pictures'] as const;
export type Pattern = (typeof PATTERNS)[number];

function edged(inside: number, edge: number): number {
  return Math.min(1, Math.max(0, inside) * edge) ** 2;
}

/**
 * Opacity of a pattern without its noise or picture, 0 to 1; a puff is a soft disc on average.
 *
 * @param edge 1 fades from the middle, more is harder
 * @param param the pattern's own number: half the width of a ring, how far a spark's sides bend in
 */
export function patternAt(
  kind: Pattern,
  u: number,
  v: number,
  edge: number,
  param: number,
): number {
  const far = u * u + v * v;
  switch (kind) {
    case 'ring':
      return edged(1 - ((Math.sqrt(far) - (1 - param)) / param) ** 2, edge);
    case 'square':
      return edged(1 - u * u, edge) * edged(1 - v * v, edge);
    case 'spark':
      return edged(1 - (Math.abs(u) + Math.abs(v) + param * Math.sqrt(Math.abs(u * v))), edge);
    case 'pictures':
      return 1;
    case 'disc':
    case 'puff':
      return edged(1 - far, edge);
  }
}

const STEPS = 512;
const areas = new Map<string, number>();

/** Integral of a pattern's opacity over its square, by the midpoint rule; of 4 in all. */
export function patternArea(kind: Pattern, edge: number, param: number): number {
  const key = `${kind} ${String(edge)} ${String(param)}`;
  const known = areas.get(key);
  if (known !== undefined) return known;
  let sum = 0;
  for (let y = 0; y < STEPS; y++) {
    for (let x = 0; x < STEPS; x++) {
      const [u, v] = [x, y].map((i) => ((i + 0.5) / STEPS) * 2 - 1) as [number, number];
      sum += patternAt(kind, u, v, edge, param);
    }
  }
  // Of a puff's squared noise, its mean: measured over the lattice's random numbers.
  const area = (sum * 4 * (kind === 'puff' ? PUFF_MEAN : 1)) / STEPS ** 2;
  areas.set(key, area);
  return area;
}

/** Mean of a puff's noise, (1.3 a + 0.7 b)² for two fields of smooth noise (cpu/test/look.test.ts). */
export const PUFF_MEAN = 1.1;
