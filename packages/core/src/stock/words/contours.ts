import type { Glyph } from 'fontkit';

/** x and y of each point of a closed line in turn, y up; the first is not repeated. */
export type Contour = number[];

/** How far lines may lie off a letter's curves, in ems. */
const TOLERANCE = 1 / 2000;

/** A letter's lines as straight pieces, in units of its font. */
export function contoursOf(glyph: Glyph, em: number): Contour[] {
  const off = em * TOLERANCE;
  const contours: Contour[] = [];
  let points: Contour = [];
  const finish = (): void => {
    const n = points.length;
    // The end that stands on the beginning is said by its being closed.
    if (n > 2 && points[0] === points[n - 2] && points[1] === points[n - 1]) points.length = n - 2;
    if (points.length >= 6) contours.push(points);
    points = [];
  };
  for (const { command, args } of glyph.path.commands) {
    if (command === 'moveTo' || command === 'closePath') finish();
    if (command === 'quadraticCurveTo' || command === 'bezierCurveTo') curve(points, args, off);
    else points.push(...args);
  }
  finish();
  return contours;
}

/**
 * Adds a Bézier curve of 3 or 4 points, the first of which is the last that there is, as chords. A chord over a part h
 * of it lies h² / 8 times the largest second derivative off at the most (e.g. de Boor, A Practical Guide to Splines,
 * 2001, chapter III).
 */
function curve(points: Contour, args: readonly number[], off: number): void {
  const p = [...points.slice(-2), ...args];
  const degree = args.length / 2;
  let bend = 0;
  for (let i = 0; i + 4 < p.length; i += 2) {
    const second = [0, 1].map((k) => p[i + k]! - 2 * p[i + 2 + k]! + p[i + 4 + k]!);
    bend = Math.max(bend, degree * (degree - 1) * Math.hypot(...second));
  }
  const pieces = Math.max(1, Math.ceil(Math.sqrt(bend / (8 * off))));
  for (let i = 1; i <= pieces; i++) {
    const [x, y] = i === pieces ? p.slice(-2) : at(p, i / pieces);
    points.push(x!, y!);
  }
}

/** A place on a Bézier curve, by de Casteljau. */
function at(points: readonly number[], t: number): readonly number[] {
  if (points.length === 2) return points;
  const next = points.slice(2).map((v, i) => points[i]! + (v - points[i]!) * t);
  return at(next, t);
}
