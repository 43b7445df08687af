import svgpath from 'svgpath';
import type { Curve, Outline } from './types';

/** Straight pieces that one Bézier curve becomes; a quarter circle is then 1e-5 short. */
const PIECES = 48;

/** Characters of a path: longer ones take minutes, and all memory. */
const LONGEST = 2e6;

/** Numbers of all points of a path: x, y and z of a million. */
const MOST = 3e6;

/** A path that cannot be read, or holds nothing to draw. */
export class PathError extends Error {
  override readonly name = 'PathError';
}

/**
 * Reads SVG path data (W3C SVG 2, 9.3) as lines in the plane z = 0. SVG counts y downwards, here it
 * goes up. Curves are broken into straight pieces.
 * @throws PathError
 */
export function outlineOfPath(data: string, scale = 1): Outline {
  if (data.length > LONGEST) {
    throw new PathError('The path has more than 2 million characters; make it simpler.');
  }
  const path = svgpath(data);
  // svgpath keeps what it could read before the error; half an outline is no outline.
  const problem = (path as unknown as { err?: string }).err;
  if (problem)
    throw new PathError(`The path cannot be read: ${problem.replace(/^SvgPath: /, '')}.`);
  const curves: Curve[] = [];
  let points: number[] = [];
  const finish = (closed: boolean): void => {
    if (closed && points.length >= 6) points.push(points[0]!, points[1]!, points[2]!);
    if (points.length >= 6) curves.push({ points: Float32Array.from(points), closed });
    points = [];
  };
  let left = MOST;
  const add = (x: number, y: number): void => {
    left -= 3;
    if (left < 0) throw new PathError('The path has more than a million points; make it simpler.');
    points.push(x * scale, -y * scale, 0);
  };
  path
    .abs()
    .unshort()
    .unarc()
    .iterate((segment, _, x, y) => {
      const [command, ...v] = segment as [string, ...number[]];
      if (points.length === 0 && !'MmZz'.includes(command)) add(x, y);
      if (command === 'M') {
        finish(false);
        add(v[0]!, v[1]!);
      } else if (command === 'L') add(v[0]!, v[1]!);
      else if (command === 'H') add(v[0]!, y);
      else if (command === 'V') add(x, v[0]!);
      else if (command === 'C') cubic([x, y, ...v], add);
      else if (command === 'Q') {
        const toward = (from: number, control: number): number => from + (control - from) * (2 / 3);
        const [cx, cy, ex, ey] = v as [number, number, number, number];
        cubic([x, y, toward(x, cx), toward(y, cy), toward(ex, cx), toward(ey, cy), ex, ey], add);
      } else if (command === 'Z' || command === 'z') finish(true);
    });
  finish(false);
  if (curves.length === 0)
    throw new PathError('The path holds no line; it needs two points at least.');
  return { type: 'outline', curves };
}

function cubic(p: number[], add: (x: number, y: number) => void): void {
  for (let i = 1; i <= PIECES; i++) {
    const t = i / PIECES;
    const s = 1 - t;
    const w = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    const at = (axis: number): number =>
      w.reduce((sum, weight, k) => sum + weight * p[2 * k + axis]!, 0);
    add(at(0), at(1));
  }
}
