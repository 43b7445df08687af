import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { PartReader } from '../../language/partReader';
import { NODE, TRIANGLE, type TriangleTree } from '../../stock/places/triangleTree';
import type { Meeting, Ray } from '../kinds';

/** Steps to the rounded edge of a triangle; over its face there is one. */
const TURNS = 12;
/** Lengths of the mesh's own frame at which it counts as reached. */
const REACHED = 5e-7;
/** Rounding of a place far from the origin. */
const ROUNDING = 1e-4;

/**
 * Where a straight way first comes within `radius` of the triangles of a mesh, from whichever side. The
 * tree of boxes is walked in its order, and what begins behind the nearest so far is left out.
 * @param ray in the mesh's own frame
 * @param radius above 0, in lengths of that frame
 */
export function meetTriangles(
  dial: PartReader,
  tree: TriangleTree,
  { from, way, on }: Ray,
  radius: Expr,
): Meeting {
  const { graph: g, builder } = dial;
  const length = way.length();
  const unit = way.unit();
  const inverse = unit.parts.map((u) => {
    const size = u.abs().max(1e-9);
    return g.float(1).div(u.lt(0).select(size.neg(), size));
  });
  const count = builder.constantOf(tree.nodes, 'count', tree.count, 'i32');
  const wide = radius.add(1e-4);
  const zero = g.float(0);
  const begin = [g.int(0), length, zero, zero, zero, g.float(2)];
  const walked = g.loopWhile(on.select(count, g.int(0)), begin, (_, [node, far, ...met]) => {
    const base = node!.mul(NODE);
    const read = (i: number): Expr => dial.block(tree.nodes, base.add(i));
    const link = (i: number): Expr => read(i).toInt();
    let [enter, leave] = [zero, far!];
    from.parts.forEach((f, i) => {
      const one = read(i).sub(wide).sub(f).mul(inverse[i]!);
      const other = read(3 + i)
        .add(wide)
        .sub(f)
        .mul(inverse[i]!);
      enter = enter.max(one.min(other));
      leave = leave.min(one.max(other));
    });
    const reaches = enter.le(leave);
    const leaf = link(7).ge(0);
    const tested = g.loop(reaches.and(leaf).select(1, g.int(0)), [far!, ...met], () => {
      const at = link(7).max(0).mul(TRIANGLE);
      const corner = (k: number): Vec3 => {
        const part = (i: number): Expr => dial.block(tree.triangles, at.add(3 * k + i));
        return new Vec3(part(0), part(1), part(2));
      };
      const start = from.sub(corner(0));
      const found = meetTriangle(start, unit, corner(1), corner(2), radius, far!);
      const either = (a: Expr, b: Expr): Expr => found.meets.select(a, b);
      const normal = found.normal.parts.map((n, i) => either(n, met[i]!));
      return [either(found.way, far!), ...normal, either(zero, met[3]!)];
    });
    const next = reaches.and(leaf.not()).select(node!.add(1), link(6));
    return { next: [next, ...tested], goOn: next.lt(count) };
  });
  const [, far, x, y, z, missed] = walked;
  const part = missed!.lt(1).select(far!.div(length.max(1e-12)), g.float(2));
  return { part, normal: new Vec3(x!, y!, z!) };
}

/**
 * The same for one triangle from the origin along u and v: a rounded triangle is convex, so that
 * tangents to the distance (Newton's method) never overshoot; they begin where the way comes within
 * the radius of its plane.
 */
function meetTriangle(
  start: Vec3,
  unit: Vec3,
  u: Vec3,
  v: Vec3,
  radius: Expr,
  far: Expr,
): { meets: Expr; way: Expr; normal: Vec3 } {
  const g = far.graph;
  const face = u.cross(v).unit();
  const height = start.dot(face);
  const rate = unit.dot(face);
  const behind = height.lt(0);
  const comes = behind.select(rate, rate.neg());
  // The side it starts on counts, so that rounding far from the origin does not take it through.
  const outward = face.scale(behind.select(-1, g.float(1)));
  const plane = height.abs().sub(radius).div(comes.max(1e-9)).max(0);
  const may = height.abs().le(radius).or(comes.gt(1e-9)).and(plane.le(far));
  const zero = g.float(0);
  const begin = [plane, g.float(1), zero, zero, zero];
  const [way, above, x, y, z] = g.loopWhile(may.select(TURNS, g.int(0)), begin, (_, [at]) => {
    const place = start.add(unit.scale(at!));
    const { distance, away } = nearest(place, u, v, outward);
    const slope = away.dot(unit);
    const approaches = slope.lt(-1e-7);
    const gap = distance.sub(radius);
    const next = at!.sub(gap.div(slope.min(-1e-7))).max(0);
    const goOn = approaches.and(gap.gt(REACHED)).and(next.le(far));
    return { next: [next, approaches.select(gap, g.float(1)), ...away.parts], goOn };
  });
  const meets = may.and(above!.le(far.mul(4e-7).add(REACHED * 4))).and(way!.le(far));
  return { meets, way: way!, normal: new Vec3(x!, y!, z!) };
}

/**
 * Distance from a place to a triangle, below 0 only just behind its face, and the unit vector away from it:
 * C. Ericson, "Real-Time Collision Detection", 2005, 5.1.5.
 */
function nearest(p: Vec3, u: Vec3, v: Vec3, face: Vec3): { distance: Expr; away: Vec3 } {
  const [uu, uv, vv, pu, pv] = [u.dot(u), u.dot(v), v.dot(v), p.dot(u), p.dot(v)];
  const whole = uu.mul(vv).sub(uv.mul(uv)).max(1e-30);
  const s = vv.mul(pu).sub(uv.mul(pv)).div(whole);
  const t = uu.mul(pv).sub(uv.mul(pu)).div(whole);
  const over = s.ge(0).and(t.ge(0)).and(s.add(t).le(1));
  const edge = (from: Vec3, along: Vec3): Vec3 => {
    const part = from.dot(along).div(along.dot(along).max(1e-30)).clamp(0, 1);
    return from.sub(along.scale(part));
  };
  const edges = [edge(p, u), edge(p, v), edge(p.sub(u), v.sub(u))];
  const off = edges.reduce((a, b) => Vec3.select(b.dot(b).lt(a.dot(a)), b, a));
  const height = p.dot(face);
  const behind = height.lt(-ROUNDING);
  const up = face.scale(behind.select(-1, p.x.graph.float(1)));
  return {
    distance: over.select(behind.select(height.neg(), height), off.length()),
    away: Vec3.select(over, up, off.unit()),
  };
}
