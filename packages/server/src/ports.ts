/** The port for joints that goes with one of the page. */
export function jointsBehind(port: number): number {
  return Math.min(65535, port + 1);
}
