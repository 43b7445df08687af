import { cos, sin, Vec3 } from '@vast-swarm/kernel';
import { number, stockDial, vector, type DialValues } from './dials';
import type { VectorFeed } from '../feeds/feeds';
import { pointAlong } from '../stock/places/along';
import { allDials, sharedDials } from './dialReader';
import type { PartReader } from './partReader';

const group = 'Place';

/** Where a part with a frame of its own stands. */
export const standingDials = {
  centre: vector('Centre', [0, 0, 0], 1000, 'm', 'Where it stands.', { group, grasp: 'place' }),
  turn: vector('Turn', [0, 0, 0], 36000, '°', 'About x, then y, then z.', { group, grasp: 'turn' }),
};

/** Where an emitter stands, and how it travels. */
export const placementDials = {
  ...standingDials,
  pivot: vector('Pivot', [0, 0, 0], 1000, 'm', 'What it turns about, from its centre.', { group }),
  along: stockDial('Carried along', ['outline'], 'A line that it travels along.', { group }),
  progress: number('Progress', 0, [0, 1], 'How far along the line it is.', { group }),
};

/** Takes places and directions from a part's own frame to the world's, and back. */
export interface Placement {
  place(p: Vec3): Vec3;
  direction(v: Vec3): Vec3;
  placeBack(p: Vec3): Vec3;
  directionBack(v: Vec3): Vec3;
}

function isZero(feed: VectorFeed | undefined): boolean {
  return !feed || feed.every((part) => part === 0);
}

/** Whether the placement changes with time. */
export function travels(values: Partial<DialValues>): boolean {
  const moves = (key: string): boolean =>
    (values[key] as VectorFeed | undefined)?.some((part) => typeof part !== 'number') ?? false;
  const along = Boolean(values.along) && typeof values.progress !== 'number';
  return moves('centre') || moves('turn') || moves('pivot') || along;
}

type Turner = (v: Vec3, back: boolean) => Vec3;

/** Rotation about x, then y, then z, by angles in degrees; none where they are all fixed at 0. */
export function turner(part: PartReader, key = 'turn'): Turner {
  const dial = allDials(part);
  if (isZero(dial.raw(key) as VectorFeed | undefined)) return (v) => v;
  const [ax, ay, az] = dial.vector(key).scale(Math.PI / 180).parts;
  const [cx, sx, cy, sy, cz, sz] = [cos(ax), sin(ax), cos(ay), sin(ay), cos(az), sin(az)];
  const rows = [
    [cy.mul(cz), sx.mul(sy).mul(cz).sub(cx.mul(sz)), cx.mul(sy).mul(cz).add(sx.mul(sz))],
    [cy.mul(sz), sx.mul(sy).mul(sz).add(cx.mul(cz)), cx.mul(sy).mul(sz).sub(sx.mul(cz))],
    [sy.neg(), sx.mul(cy), cx.mul(cy)],
  ].map(([x, y, z]) => new Vec3(x!, y!, z!)) as [Vec3, Vec3, Vec3];
  const columns = (['x', 'y', 'z'] as const).map(
    (k) => new Vec3(rows[0][k], rows[1][k], rows[2][k]),
  ) as [Vec3, Vec3, Vec3];
  return (v, back) => {
    const [x, y, z] = back ? columns : rows;
    return new Vec3(x.dot(v), y.dot(v), z.dot(v));
  };
}

export function placementOf(part: PartReader): Placement {
  const dial = sharedDials(part, placementDials);
  const turn = turner(part);
  const pivot = isZero(dial.raw('pivot')) ? null : dial.vector('pivot');
  let centre = dial.vector('centre');
  const line = dial.raw('along') ? dial.stock('along') : undefined;
  if (line?.type === 'outline') {
    const at = dial.number('progress');
    const part = (axis: number) =>
      dial.curve(`placement along ${String(axis)}`, (s) => pointAlong(line, s)[axis]!, at);
    centre = centre.add(new Vec3(part(0), part(1), part(2)));
  }
  return {
    place(p) {
      const turned = pivot ? turn(p.sub(pivot), false).add(pivot) : turn(p, false);
      return turned.add(centre);
    },
    direction: (v) => turn(v, false),
    placeBack(p) {
      const local = p.sub(centre);
      return pivot ? turn(local.sub(pivot), true).add(pivot) : turn(local, true);
    },
    directionBack: (v) => turn(v, true),
  };
}
