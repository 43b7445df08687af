/**
 * One line of the bench. `baseline` is measured in the same run, or what is wanted; `ratio` says how much
 * better the value is.
 */
export function report(name: string, value: number, unit: string, baseline?: number): void {
  if (!name.toLowerCase().includes((process.env.BENCH_WORD ?? '').toLowerCase())) return;
  const round = (v: number): number => Number(v.toPrecision(4));
  const line: Record<string, string | number> = { name, value: round(value), unit };
  if (baseline !== undefined) {
    line.baseline = round(baseline);
    const better = ['fps', 'MB/s'].includes(unit) ? value / baseline : baseline / value;
    if (value > 0) line.ratio = round(better);
  }
  console.log(JSON.stringify(line));
}

/** Milliseconds that one figure may take, once it has been measured three times. */
const ENOUGH = 700;

/**
 * The best of some runs in milliseconds: what the machine can do when it is left alone. Slow things are
 * run fewer times.
 *
 * @param take measures one run
 */
export function bestOf(runs: number, take: () => number): number {
  let least = Infinity;
  const started = performance.now();
  for (let i = 0; i < runs; i++) {
    least = Math.min(least, take());
    if (i >= 2 && performance.now() - started > ENOUGH) break;
  }
  return least;
}

/** The same, of the time that the work takes. */
export function best(runs: number, work: () => void): number {
  return bestOf(runs, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
}
