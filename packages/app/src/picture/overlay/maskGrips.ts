import type { MaskShape } from '@vast-swarm/core/feeds';
import type { Spot } from './useStroke';

export interface MaskGrip {
  name: string;
  at: Spot;
  /** The shape with this grip at a place, in parts of the picture. */
  moved: (x: number, y: number) => MaskShape;
  /** The shape without it, where it can do without. */
  removed?: MaskShape;
}

interface Size {
  width: number;
  height: number;
}

/** Where a shape of a mask can be taken hold of, in pixels of the picture. */
export function maskGrips(shape: MaskShape, size: Size): MaskGrip[] {
  if (shape.shape === 'polygon') return polygonGrips(shape, size);
  const { width, height } = size;
  const { x, y, turn } = shape;
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  /** Along the shape's own axes from its middle, both in frame heights. */
  const spot = (u: number, v: number): Spot => [
    x * width + (u * c - v * s) * height,
    y * height + (u * s + v * c) * height,
  ];
  const own = (px: number, py: number): [number, number] => {
    const [dx, dy] = [((px - x) * width) / height, py - y];
    return [dx * c + dy * s, dy * c - dx * s];
  };
  const away = (u: number, v: number): number => Math.max(0.005, Math.hypot(u, v));
  const degrees = (u: number, v: number): number => turn + (Math.atan2(v, u) * 180) / Math.PI;
  const middle: MaskGrip = {
    name: 'Middle',
    at: spot(0, 0),
    moved: (nx, ny) => ({ ...shape, x: nx, y: ny }),
  };
  if (shape.shape === 'outline') {
    const moved = (nx: number, ny: number): MaskShape => {
      const [u, v] = own(nx, ny);
      return { ...shape, tall: 2 * away(u, v), turn: degrees(u, v) };
    };
    return [middle, { name: 'Size and turn', at: spot(shape.tall / 2, 0), moved }];
  }
  const widened = (nx: number, ny: number): MaskShape => {
    const [u, v] = own(nx, ny);
    return { ...shape, wide: away(u, v), turn: degrees(u, v) };
  };
  const heightened = (nx: number, ny: number): MaskShape => {
    return { ...shape, high: away(0, own(nx, ny)[1]) };
  };
  return [
    middle,
    { name: 'Width and turn', at: spot(shape.wide, 0), moved: widened },
    { name: 'Height', at: spot(0, shape.high), moved: heightened },
  ];
}

/** Its middle moves all; each corner moves by itself. */
function polygonGrips(
  shape: MaskShape & { shape: 'polygon' },
  { width, height }: Size,
): MaskGrip[] {
  const { points } = shape;
  const count = points.length / 2;
  const mean = (axis: number): number =>
    points.reduce((sum, v, i) => sum + (i % 2 === axis ? v : 0), 0) / count;
  const [mx, my] = [mean(0), mean(1)];
  const moved = (x: number, y: number): MaskShape => ({
    ...shape,
    points: points.map((v, i) => v + (i % 2 === 0 ? x - mx : y - my)),
  });
  const corner = (k: number): MaskGrip => ({
    name: `Corner ${String(k + 1)}`,
    at: [points[2 * k]! * width, points[2 * k + 1]! * height],
    moved: (x, y) => ({
      ...shape,
      points: points.map((v, i) => (i === 2 * k ? x : i === 2 * k + 1 ? y : v)),
    }),
    ...(count > 3 ? { removed: { ...shape, points: points.toSpliced(2 * k, 2) } } : {}),
  });
  return [
    { name: 'Middle', at: [mx * width, my * height], moved },
    ...Array.from({ length: count }, (_, k) => corner(k)),
  ];
}
