import type { NumberFeed, Vector, VectorFeed } from '../feeds/feeds';

/** Lines that show the shapes of kinds in the picture; see Kind.outline. */

/** A vector whose parts are plain numbers. */
export function plainVector(feed: VectorFeed): Vector | null {
  return feed.every((part) => typeof part === 'number') ? (feed as Vector) : null;
}

/** A number to draw by: what is fixed, or the far end of what varies. */
export function drawnSize(feed: NumberFeed): number {
  if (typeof feed === 'number') return feed;
  return feed.feed === 'fixed' ? feed.value : feed.to;
}

type Turn = (a: number, b: number) => Vector;

export function circleLine(radius: number, at: Turn = (a, b) => [a, 0, b]): Vector[] {
  return Array.from({ length: 49 }, (_, i) => {
    const turn = (2 * Math.PI * i) / 48;
    return at(radius * Math.cos(turn), radius * Math.sin(turn));
  });
}

export function ballLines(radius: number): Vector[][] {
  const planes: Turn[] = [(a, b) => [a, 0, b], (a, b) => [a, b, 0], (a, b) => [0, a, b]];
  return planes.map((at) => circleLine(radius, at));
}

/** A rectangle that lies flat, at a height. */
export function floorLine(width: number, depth: number, level = 0): Vector[] {
  const [x, z] = [width / 2, depth / 2];
  return [
    [-x, level, -z],
    [x, level, -z],
    [x, level, z],
    [-x, level, z],
    [-x, level, -z],
  ];
}

/** A rectangle that faces the front. */
export function frontLine(width: number, height: number): Vector[] {
  return floorLine(width, height).map(([x, , z]) => [x, z, 0]);
}

export function boxLines([w, h, d]: Vector): Vector[][] {
  const y = h / 2;
  const posts = floorLine(w, d)
    .slice(0, 4)
    .map(([px, , pz]): Vector[] => [
      [px, -y, pz],
      [px, y, pz],
    ]);
  return [floorLine(w, d, -y), floorLine(w, d, y), ...posts];
}
