import { Triangle, Vector3 } from 'three';
import type { Mesh } from '@vast-swarm/core/stock';
import { surface } from '../src/demo/content/surface';
import { fieldOf } from '../src/stock/places/distanceField';

/** A closed thing with bumps and hollows. */
function bumpy(n: number, deep: number): Mesh {
  return surface(
    2 * n,
    n,
    (u, v) => {
      const [a, b] = [-2 * Math.PI * u, Math.PI * v];
      const r = 1 + deep * Math.sin(3 * a) * Math.sin(4 * b);
      return [r * Math.sin(b) * Math.cos(a), -r * Math.cos(b), 0.7 * r * Math.sin(b) * Math.sin(a)];
    },
    { round: true },
  );
}

/** Thin, and open: a strip that is wound up. */
function strip(n: number): Mesh {
  return surface(n, 3, (u, v) => {
    const turn = 9 * u;
    return [(0.3 + 0.1 * turn) * Math.cos(turn), 0.4 * v, (0.3 + 0.1 * turn) * Math.sin(turn)];
  });
}

/** Metres from a place to the nearest triangle, of all of them. */
function nearest(mesh: Mesh): (place: readonly number[]) => number {
  const corner = (v: number): Vector3 => new Vector3().fromArray(mesh.positions, 3 * v);
  const all: Triangle[] = [];
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [...mesh.triangles.subarray(t, t + 3)] as [number, number, number];
    all.push(new Triangle(corner(a), corner(b), corner(c)));
  }
  const on = new Vector3();
  return (place) => {
    const from = new Vector3().fromArray(place);
    return all.reduce(
      (d, tri) => Math.min(d, tri.closestPointToPoint(from, on).distanceTo(from)),
      Infinity,
    );
  };
}

test.each([
  ['a bumpy ball', bumpy(9, 0.25), 24, true],
  ['a ball with deep hollows', bumpy(14, 0.5), 20, true],
  ['a strip', strip(60), 22, false],
] as const)(
  'distances to %s are those to its nearest triangle: exact beside it, and nearly elsewhere',
  (_, mesh, detail, closed) => {
    const field = fieldOf(mesh, detail);
    const { size, origin, step, values } = field;
    expect(field.closed).toBe(closed);
    const exact = nearest(mesh);
    let [nearer, beside, elsewhere, off] = [0, 0, 0, 0];
    for (let at = 0; at < values.length; at++) {
      const cell = [
        at % size[0],
        Math.floor(at / size[0]) % size[1],
        Math.floor(at / size[0] / size[1]),
      ];
      const wanted = exact(cell.map((c, axis) => origin[axis]! + c * step));
      const error = Math.abs(values[at]!) - wanted;
      nearer = Math.min(nearer, error);
      if (wanted <= step) beside = Math.max(beside, error);
      else {
        elsewhere = Math.max(elsewhere, error / step);
        if (error > 0.01 * step) off += 1;
      }
    }
    // No triangle is nearer than the nearest.
    expect(nearer).toBeGreaterThan(-1e-5);
    expect(beside).toBeLessThan(1e-5);
    expect(elsewhere).toBeLessThan(0.1);
    expect(off / values.length).toBeLessThan(0.02);
  },
);
