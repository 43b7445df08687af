import type { Shape } from '../../feeds/shape';
import type { NumberFeed } from '../../feeds/feeds';

/** Shapes over life that pieces of the show share. */

/** In slowly, out slowly. */
export const COME_AND_GO: Shape = [
  { x: 0, y: 0 },
  { x: 0.2, y: 1 },
  { x: 0.75, y: 1 },
  { x: 1, y: 0 },
];

/** There at once, then less and less. */
export const FADING: Shape = [
  { x: 0, y: 1 },
  { x: 0.5, y: 0.45 },
  { x: 1, y: 0 },
];

export function over(value: number, shape: Shape): NumberFeed {
  return { feed: 'fixed', value, over: shape };
}

export function spread(from: number, to: number): NumberFeed {
  return { feed: 'spread', from, to };
}
