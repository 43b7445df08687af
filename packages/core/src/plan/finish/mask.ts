import { smoothstep, type Expr } from '@vast-swarm/kernel';
import type { Mask, MaskShape } from '../../feeds/mask';
import { memo, serialOf, type Outline } from '../../stock/stock';
import type { DialReader } from '../dialReader';
import type { KernelBuilder } from '../kernelBuilder';
import type { Pixel } from './pixel';

/** Cells across the frame and down it, in which distances to the masks' edges are kept. */
const [ACROSS, DOWN] = [128, 72];
/** Most corners of a border that are looked at. */
const CORNERS = 160;

type Point = readonly [number, number];

/** Distance to the border of a closed polygon, below 0 inside; in the unit of its points. */
export function polygonDistance(points: readonly Point[], [x, y]: Point): number {
  let nearest = Infinity;
  let inside = false;
  for (let i = 0; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i]!, points[(i + 1) % points.length]!];
    const [dx, dy] = [bx - ax, by - ay];
    const square = dx * dx + dy * dy;
    const t = square > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / square)) : 0;
    nearest = Math.min(nearest, Math.hypot(x - ax - t * dx, y - ay - t * dy));
    // Even and odd crossings of a ray to the right.
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * dx) inside = !inside;
  }
  return inside ? -nearest : nearest;
}

/** An ellipse as a polygon fine enough for the eye. */
function roundOf(shape: MaskShape & { shape: 'ellipse' }, aspect: number): Point[] {
  const turn = (shape.turn * Math.PI) / 180;
  return Array.from({ length: 48 }, (_, i) => {
    const angle = (i / 48) * 2 * Math.PI;
    const [u, v] = [Math.cos(angle) * shape.wide, Math.sin(angle) * shape.high];
    const x = shape.x * aspect + u * Math.cos(turn) - v * Math.sin(turn);
    return [x, shape.y + u * Math.sin(turn) + v * Math.cos(turn)];
  });
}

/** A border with no more corners than are worth their time. */
function thinned(points: Point[]): Point[] {
  const every = Math.ceil(points.length / CORNERS);
  return points.filter((_, i) => i % every === 0);
}

/** Borders of a mask in frame heights, x from the left and y from the top. */
function bordersOf(mask: Mask, outline: Outline | null, aspect: number): Point[][] {
  const drawn = mask.map((shape): Point[] => {
    if (shape.shape === 'ellipse') return roundOf(shape, aspect);
    return Array.from({ length: shape.points.length / 2 }, (_, i) => [
      shape.points[2 * i]! * aspect,
      shape.points[2 * i + 1]!,
    ]);
  });
  // An outline of the stock stands in the middle, a metre as high as the frame.
  const traced = (outline?.curves ?? []).map(({ points }): Point[] =>
    Array.from({ length: points.length / 3 }, (_, i) => [
      aspect / 2 + points[3 * i]!,
      0.5 - points[3 * i + 1]!,
    ]),
  );
  return [...drawn, ...traced].map(thinned);
}

function distances(mask: Mask, outline: Outline | null, aspect: number): Float32Array {
  const owner = mask.length > 0 ? mask : outline!;
  const key = `mask.${String(aspect)}.${String(outline ? serialOf(outline) : 0)}`;
  return memo(owner, key, () => {
    const borders = bordersOf(mask, outline, aspect);
    return Float32Array.from({ length: ACROSS * DOWN }, (_, i) => {
      const at: Point = [
        ((i % ACROSS) / (ACROSS - 1)) * aspect,
        Math.floor(i / ACROSS) / (DOWN - 1),
      ];
      return Math.min(...borders.map((points) => polygonDistance(points, at)));
    });
  });
}

/** How much of a treatment is seen at a pixel, 0 to 1; null where it has no mask. */
export function maskAt(builder: KernelBuilder, dial: DialReader, pixel: Pixel): Expr | null {
  const mask = dial.raw('mask') as unknown as Mask;
  const traced = dial.raw('maskOutline') ? dial.stock('maskOutline') : undefined;
  const outline = traced?.type === 'outline' ? traced : null;
  if (mask.length === 0 && !outline) return null;
  const { width, height } = builder.scene.piece.frame;
  const values = distances(mask, outline, width / height);
  const x = pixel.x.div(pixel.width).mul(ACROSS - 1);
  const y = pixel.y.div(pixel.height).mul(DOWN - 1);
  const [fx, fy] = [x.floor().clamp(0, ACROSS - 2), y.floor().clamp(0, DOWN - 2)];
  const at = fy.toInt().mul(ACROSS).add(fx.toInt());
  const cell = (dx: number, dy: number): Expr =>
    builder.block(`data/${dial.scope}.mask`, values, at.add(dx + dy * ACROSS));
  const [tx, ty] = [x.sub(fx), y.sub(fy)];
  const row = (dy: number): Expr => cell(0, dy).add(cell(1, dy).sub(cell(0, dy)).mul(tx));
  const distance = row(0).add(row(1).sub(row(0)).mul(ty));
  // At its hardest the edge is two pixels of a 540-line frame wide.
  const soft = dial.number('maskSoft').max(0.002);
  const inside = builder.graph.float(1).sub(smoothstep(soft.neg(), soft, distance));
  return dial.raw('maskSide') === 'outside' ? builder.graph.float(1).sub(inside) : inside;
}
