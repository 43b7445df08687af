/** Seconds, the same for all workers. */
export function clock(): number {
  return (performance.timeOrigin + performance.now()) / 1000;
}
