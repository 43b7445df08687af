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
    const better = unit === 'fps' ? value / baseline : baseline / value;
    if (value > 0) line.ratio = round(better);
  }
  console.log(JSON.stringify(line));
}

/** The best of some runs in milliseconds: what the machine can do when it is left alone. */
export function best(runs: number, work: () => void): number {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    work();
    least = Math.min(least, performance.now() - start);
  }
  return least;
}
