import { Vec3, type Expr } from '@vast-swarm/kernel';
import { jointsDial, number, partDial } from '../../language/dials';
import type { DialReader } from '../../language/dialReader';
import { jointBall, jointReader, jointsThere } from '../../language/jointTrack';
import type { Placement } from '../../language/placement';
import { chosenRows, type BoneRows } from '../../stock/motion/chosen';
import type { Performing } from '../../stock/motion/performing';
import { collider } from '../define';
import { frameAround } from '../swarms/emitters/frame';
import type { Distance, Limb } from '../kinds';
import { round, roundLine } from './round';

const dials = {
  performer: partDial('Performer', 'performers', 'Whose body it is.'),
  joints: jointsDial('Which joints', 'performer', 'Bones between these count; none is all.'),
  girth: number('Girth', 1, [0, 20], 'How thick the body is round its bones.'),
};
type Reader = DialReader<typeof dials>;

/** Limbs that are looked at closely for each particle. */
const LIMBS = 2;

interface Body {
  performing: Performing;
  rows: BoneRows;
  count: number;
}

function bodyIn(dial: Reader): Body | null {
  const performing = dial.performer('performer');
  if (!performing) return null;
  const rows = chosenRows(performing, dial.raw('joints'));
  return rows.radius.length > 0 ? { performing, rows, count: rows.radius.length } : null;
}

interface BoneNow {
  /** Its ends at the start and at the end of the frame. */
  before: [Vec3, Vec3];
  after: [Vec3, Vec3];
  radius: Expr;
}

function boneAt(dial: Reader, { performing, rows }: Body, row: Expr): BoneNow {
  const read = jointReader(dial, performing);
  const [a, b] = [dial.block(rows.from, row, 'i32'), dial.block(rows.to, row, 'i32')];
  return {
    before: [read(a, 'before'), read(b, 'before')],
    after: [read(a, 'now'), read(b, 'now')],
    radius: dial.block(rows.radius, row).mul(dial.number('girth')),
  };
}

/**
 * How near two straight ways come, from 0 to `p + t w` and from 0 to `s d`, and where on the first (C. Ericson,
 * "Real-Time Collision Detection", 2005, 5.1.9).
 */
function nearest(p: Vec3, w: Vec3, d: Vec3): { t: Expr; distance: Expr } {
  const g = p.x.graph;
  const [a, e, f] = [w.dot(w).max(1e-12), d.dot(d).max(1e-12), d.dot(p)];
  const [b, c] = [w.dot(d), w.dot(p)];
  const denominator = a.mul(e).sub(b.mul(b));
  const first = denominator
    .gt(1e-9)
    .select(b.mul(f).sub(c.mul(e)).div(denominator.max(1e-9)).clamp(0, 1), g.float(0));
  const s = b.mul(first).add(f).div(e).clamp(0, 1);
  const t = b.mul(s).sub(c).div(a).clamp(0, 1);
  return { t, distance: p.add(w.scale(t)).sub(d.scale(s)).length() };
}

/** More than any way: what is not met comes behind all that is. */
const NOT_MET = 4;

/** The rows of the limbs that a way meets first, else of those it comes nearest to. */
function likely(dial: Reader, body: Body, from: Vec3, to: Vec3): Expr[] {
  const g = dial.graph;
  const { middle, radius } = jointBall(dial, body.performing);
  const thick = dial.constant('thickest', Math.max(...body.rows.radius)).mul(dial.number('girth'));
  const reach = radius.add(thick).add(to.sub(from).length());
  const away = from.sub(middle);
  const near = away.dot(away).lt(reach.mul(reach).mul(4));
  const far = g.float(1e9);
  const start = [far, g.int(0), far, g.int(0)];
  const found = g.loop(near.select(g.int(body.count), g.int(0)), start, (row, best) => {
    const bone = boneAt(dial, body, row);
    const [d0, d1] = [bone.before, bone.after].map(([a, b]) => b.sub(a)) as [Vec3, Vec3];
    const begin = from.sub(bone.before[0]);
    const way = to.sub(bone.after[0]).sub(begin);
    const met = nearest(begin, way, d0.add(d1).scale(0.5));
    // A bone that turns is up to half its turn beside where it is looked for.
    const beside = d1.sub(d0).length().mul(0.5);
    const above = met.distance.sub(bone.radius);
    const order = above.lt(beside.add(1e-4)).select(met.t, above.max(0).add(NOT_MET));
    const [first, second] = [order.lt(best[0]!), order.lt(best[2]!)];
    return [
      first.select(order, best[0]!),
      first.select(row, best[1]!),
      first.select(best[0]!, second.select(order, best[2]!)),
      first.select(best[1]!, second.select(row, best[3]!)),
    ];
  });
  return [found[1]!, found[3]!];
}

/** The frame of a bone: it lies along y from the origin. */
function frameOf(origin: Vec3, axes: [Vec3, Vec3, Vec3]): Placement {
  const direction = (v: Vec3): Vec3 =>
    axes[0].scale(v.x).add(axes[1].scale(v.y)).add(axes[2].scale(v.z));
  const directionBack = (v: Vec3): Vec3 => new Vec3(axes[0].dot(v), axes[1].dot(v), axes[2].dot(v));
  return {
    direction,
    directionBack,
    place: (p) => direction(p).add(origin),
    placeBack: (p) => directionBack(p.sub(origin)),
  };
}

function limbOf(dial: Reader, body: Body, row: Expr): Limb {
  const g = dial.graph;
  const { before, after, radius } = boneAt(dial, body, row);
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  const along = ([a, b]: [Vec3, Vec3]): Vec3 => {
    const way = b.sub(a);
    return Vec3.select(way.length().gt(1e-6), way.unit(), up);
  };
  const [u, v] = [along(before), along(after)];
  const { u: right, v: front } = frameAround(u);
  // The least turn that takes the one direction to the other, so that it does not spin about itself.
  const sum = u.add(v);
  const share = g.float(1).div(u.dot(v).add(1).max(1e-6));
  const turned = (w: Vec3): Vec3 => w.sub(sum.scale(v.dot(w).mul(share)));
  const length = before[1].sub(before[0]).length().add(after[1].sub(after[0]).length()).mul(0.5);
  return {
    before: frameOf(before[0], [right, u, front]),
    after: frameOf(after[0], [turned(right), v, turned(front)]),
    distance: (p) => round(new Vec3(p.x, p.y.sub(p.y.clamp(0, length)), p.z), radius),
    there: jointsThere(dial, body.performing),
  };
}

export const performer = collider({
  kind: 'performer',
  title: 'Performer',
  help: 'The body of a performer: capsules round their bones, that move as they do.',
  icon: 'M12 3a2 2 0 1 0 .01 0M9 9.5a3 3 0 0 1 6 0v4a3 3 0 0 1-6 0zM10 16v5M14 16v5M9 10l-4 3M15 10l4 3',
  dials,
  build(dial) {
    const body = bodyIn(dial);
    if (!body) return null;
    const g = dial.graph;
    const distance = (p: Vec3): Distance => {
      const start = [g.float(1e9), g.float(0), g.float(1), g.float(0)];
      const [d, x, y, z] = g.loop(g.int(body.count), start, (row, best) => {
        const { after, radius } = boneAt(dial, body, row);
        const found = roundLine(p, ...after, radius);
        const nearer = found.distance.lt(best[0]!);
        return [found.distance, ...found.normal.parts].map((e, i) => nearer.select(e, best[i]!));
      });
      return { distance: d!, normal: new Vec3(x!, y!, z!) };
    };
    return { distance, there: jointsThere(dial, body.performing) };
  },
  limbs(dial, { from, to }) {
    const body = bodyIn(dial);
    if (!body) return [];
    return likely(dial, body, from, to)
      .slice(0, Math.min(LIMBS, body.count))
      .map((row) => limbOf(dial, body, row));
  },
});
