import { cos, mix, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import { sharedDials } from '../../language/dialReader';
import type { PartReader } from '../../language/partReader';
import { number, vector } from '../../language/dials';
import type { Plane } from '../kinds';

const group = 'Plane';

/** Dials of forces that are laid out on a plane. */
export const planeDials = {
  centre: vector('Centre', [0, 0, 0], 1000, 'm', 'Middle of the plane.', { group, grasp: 'place' }),
  turn: vector('Turn', [0, 0, 0], 36000, '°', 'About x, then y; 0 faces the front.', {
    group,
    grasp: 'turn',
  }),
  width: number('Width', 4, [0.001, 10_000], 'Across the plane.', { unit: 'm', group }),
  height: number('Height', 2.25, [0.001, 10_000], 'Up the plane.', { unit: 'm', group }),
  reach: number('Reach', 1000, [0.001, 1000], 'How far before and behind the plane it is felt.', {
    unit: 'm',
    group,
    drag: 'log',
  }),
};

/** The plane that they tell of. */
export function planeOf({ centre, turn, width, height }: Plane): Plane {
  return { centre, turn, width, height };
}

export interface PlanePlace {
  /** 0 to 1 from the left and from the top. */
  u: Expr;
  v: Expr;
  /** Unit vectors to the right and up. */
  across: Vec3;
  up: Vec3;
  /** 1 on the plane and within its reach, else 0. */
  inside: Expr;
}

export function planePlace(part: PartReader, position: Vec3): PlanePlace {
  const dial = sharedDials(part, planeDials);
  const g = dial.graph;
  const angles = dial.vector('turn').scale(Math.PI / 180);
  const [cx, sx, cy, sy] = [cos(angles.x), sin(angles.x), cos(angles.y), sin(angles.y)];
  const across = new Vec3(cy, g.float(0), sy.neg());
  const up = new Vec3(sx.mul(sy), cx, sx.mul(cy));
  const away = across.cross(up);
  const offset = position.sub(dial.vector('centre'));
  const u = offset.dot(across).div(dial.number('width')).add(0.5);
  const v = g.float(0.5).sub(offset.dot(up).div(dial.number('height')));
  const near = offset.dot(away).abs().le(dial.number('reach'));
  const on = u.ge(0).and(u.le(1)).and(v.ge(0)).and(v.le(1));
  return { u, v, across, up, inside: near.and(on).select(1, g.float(0)) };
}

/** Reads a grid of values, rows from the top, straight between its points. */
export function readGrid(
  dial: PartReader,
  values: Float32Array,
  width: number,
  height: number,
  u: Expr,
  v: Expr,
): Expr {
  return readCells((cell) => dial.block(values, cell), width, height, u, v);
}

/** The same of a grid whose cells are read by their numbers. */
export function readCells(
  cellAt: (cell: Expr) => Expr,
  width: number,
  height: number,
  u: Expr,
  v: Expr,
): Expr {
  const split = (at: Expr, size: number): [Expr, Expr] => {
    const place = at.clamp(0, 1).mul(size - 1);
    const low = place
      .floor()
      .min(size - 2)
      .max(0);
    return [low.toInt(), place.sub(low)];
  };
  const [x, fx] = split(u, width);
  const [y, fy] = split(v, height);
  const row = y.mul(width).add(x);
  const read = (offset: number): Expr => cellAt(row.add(offset));
  const right = width > 1 ? 1 : 0;
  const below = height > 1 ? width : 0;
  return mix(mix(read(0), read(right), fx), mix(read(below), read(below + right), fx), fy);
}
