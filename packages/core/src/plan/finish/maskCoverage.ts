import { finishDials } from '../../sections/finish/common';
import { smoothstep, type Expr } from '@vast-swarm/kernel';
import type { Mask, MaskShape } from '../../feeds/mask';
import { memo, serialOf } from '../../stock/memo';
import type { Outline } from '../../stock/types';
import type { DialReader } from '../../language/dialReader';
import type { KernelBuilder } from '../../language/builder';
import { brightnessOver, type Pixel } from '../../language/pixel';

/** Cells across the frame and down it, in which distances to the masks' edges are kept. */
const [ACROSS, DOWN] = [128, 72];
/** Most corners of a border that are looked at, and those of an ellipse. */
const [CORNERS, ROUND] = [160, 48];
/** Frame heights to where nothing is. */
const FAR = 100;

type Point = readonly [number, number];

/** Distance to the borders of an area, below 0 inside; in the unit of their points. */
export function areaDistance(borders: readonly (readonly Point[])[], [x, y]: Point): number {
  let nearest = Infinity;
  let inside = false;
  // Runs millions of times while a shape is dragged: plain numbers, and one root at the end.
  for (const points of borders) {
    let from = points[points.length - 1]!;
    for (const to of points) {
      const ax = x - from[0];
      const ay = y - from[1];
      const dx = to[0] - from[0];
      const dy = to[1] - from[1];
      const square = dx * dx + dy * dy;
      const t = square > 0 ? Math.min(1, Math.max(0, (ax * dx + ay * dy) / square)) : 0;
      const ex = ax - t * dx;
      const ey = ay - t * dy;
      nearest = Math.min(nearest, ex * ex + ey * ey);
      // Even and odd crossings of a ray to the right: a border within another is a hole.
      if (from[1] > y !== to[1] > y && ax < (ay / dy) * dx) inside = !inside;
      from = to;
    }
  }
  const distance = Math.sqrt(nearest);
  return inside ? -distance : distance;
}

/** From a shape's own frame, x to the right and y down, to frame heights from the top left. */
function placed(
  { x, y, turn }: { x: number; y: number; turn: number },
  aspect: number,
): (u: number, v: number) => Point {
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return (u, v) => [x * aspect + u * c - v * s, y + u * s + v * c];
}

/** A border with no more corners than are worth their time. */
function thinned(points: Point[]): Point[] {
  const every = Math.ceil(points.length / CORNERS);
  return points.filter((_, i) => i % every === 0);
}

type Extents = [[number, number], [number, number]];

function extent({ curves }: Outline, axis: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const { points } of curves) {
    for (let i = axis; i < points.length; i += 3) {
      low = Math.min(low, points[i]!);
      high = Math.max(high, points[i]!);
    }
  }
  return [low, high];
}

/**
 * Borders of a shape of a mask, in frame heights, x from the left and y from the top.
 *
 * @param aspect width of the frame by its height
 */
export function maskBorders(
  shape: MaskShape,
  outlineOf: (id: string) => Outline | null,
  aspect: number,
): Point[][] {
  switch (shape.shape) {
    case 'ellipse': {
      const at = placed(shape, aspect);
      const corner = (i: number): Point => {
        const angle = (i / ROUND) * 2 * Math.PI;
        return at(Math.cos(angle) * shape.wide, Math.sin(angle) * shape.high);
      };
      return [Array.from({ length: ROUND }, (_, i) => corner(i))];
    }
    case 'polygon': {
      const { points } = shape;
      const corner = (i: number): Point => [points[2 * i]! * aspect, points[2 * i + 1]!];
      return [thinned(Array.from({ length: points.length / 2 }, (_, i) => corner(i)))];
    }
    case 'outline': {
      const outline = outlineOf(shape.outline);
      if (!outline) return [];
      const [[left, right], [low, high]] = [0, 1].map((axis) => extent(outline, axis)) as Extents;
      const size = shape.tall / Math.max(1e-6, high - low);
      const at = placed(shape, aspect);
      return outline.curves.map(({ points }) => {
        // Its y points up.
        const corner = (i: number): Point =>
          at(
            size * (points[3 * i]! - (left + right) / 2),
            size * ((low + high) / 2 - points[3 * i + 1]!),
          );
        return thinned(Array.from({ length: points.length / 3 }, (_, i) => corner(i)));
      });
    }
  }
}

function distances(
  mask: Mask,
  outlineOf: (id: string) => Outline | null,
  aspect: number,
): Float32Array {
  const outlines = mask.map((s) => (s.shape === 'outline' ? outlineOf(s.outline) : null));
  const serials = outlines.map((o) => (o ? serialOf(o) : 0));
  return memo(mask, `mask.${String(aspect)}.${serials.join()}`, () => {
    const areas = mask.map((shape) => maskBorders(shape, outlineOf, aspect));
    return Float32Array.from({ length: ACROSS * DOWN }, (_, i) => {
      const [u, v] = [(i % ACROSS) / (ACROSS - 1), Math.floor(i / ACROSS) / (DOWN - 1)];
      const nearest = areas.map((borders) => areaDistance(borders, [u * aspect, v]));
      // Farther than any edge is soft: an outline that is not at hand shows nothing.
      return Math.min(FAR, ...nearest);
    });
  });
}

/** How much of a treatment is seen at a pixel, 0 to 1; null where it has no mask. */
export function maskAt(
  builder: KernelBuilder,
  dial: DialReader<typeof finishDials>,
  pixel: Pixel,
): Expr | null {
  const [drawn, bright] = [drawnMaskAt(builder, dial, pixel), brightnessAt(builder, dial, pixel)];
  return drawn && bright ? drawn.mul(bright) : (drawn ?? bright);
}

/** How bright the picture of a mask is at a pixel, laid over the frame; null where there is none. */
function brightnessAt(
  builder: KernelBuilder,
  dial: DialReader<typeof finishDials>,
  pixel: Pixel,
): Expr | null {
  const picture = dial.picture('maskPicture');
  return picture ? brightnessOver(builder, picture, pixel) : null;
}

/** Of the shapes that are drawn. */
function drawnMaskAt(
  builder: KernelBuilder,
  dial: DialReader<typeof finishDials>,
  pixel: Pixel,
): Expr | null {
  const mask = dial.raw('mask');
  if (mask.length === 0) return null;
  const { scene } = builder;
  const outlineOf = (id: string): Outline | null => {
    const data = scene.stock(id);
    return data?.type === 'outline' ? data : null;
  };
  const { width, height } = scene.size;
  const values = distances(mask, outlineOf, width / height);
  const x = pixel.x.div(pixel.width).mul(ACROSS - 1);
  const y = pixel.y.div(pixel.height).mul(DOWN - 1);
  const [fx, fy] = [x.floor().clamp(0, ACROSS - 2), y.floor().clamp(0, DOWN - 2)];
  const at = fy.toInt().mul(ACROSS).add(fx.toInt());
  const cell = (dx: number, dy: number): Expr => dial.block(values, at.add(dx + dy * ACROSS));
  const [tx, ty] = [x.sub(fx), y.sub(fy)];
  const row = (dy: number): Expr => cell(0, dy).add(cell(1, dy).sub(cell(0, dy)).mul(tx));
  const distance = row(0).add(row(1).sub(row(0)).mul(ty));
  // At its hardest the edge is two pixels of a 540-line frame wide.
  const soft = dial.number('maskSoft').max(0.002);
  const inside = builder.graph.float(1).sub(smoothstep(soft.neg(), soft, distance));
  return dial.raw('maskSide') === 'outside' ? builder.graph.float(1).sub(inside) : inside;
}
