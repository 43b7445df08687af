import { simplifierReady, type Mesh } from '@vast-swarm/core/stock';
import { formsOf } from '../src/plan/look/draws/forms';
import { coarserOf } from '../src/stock/places/coarser';

beforeAll(() => simplifierReady);

/** A ball of one metre across, of rows and columns, dented so that it is no ball of revolution. */
function ball(columns: number, rows: number): Mesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let j = 0; j <= rows; j++) {
    for (let i = 0; i < columns; i++) {
      const [u, v] = [(2 * Math.PI * i) / columns, (Math.PI * j) / rows];
      const r = 0.5 - 0.04 * Math.cos(3 * u) * Math.sin(v);
      positions.push(r * Math.sin(v) * Math.cos(u), r * Math.cos(v), r * Math.sin(v) * Math.sin(u));
      const next = j * columns + ((i + 1) % columns);
      const at = j * columns + i;
      if (j < rows) triangles.push(at, next, at + columns, next, next + columns, at + columns);
    }
  }
  return {
    type: 'mesh',
    positions: Float32Array.from(positions),
    triangles: Uint32Array.from(triangles),
  };
}

type Point = [number, number, number];
const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** From a place to a triangle: C. Ericson, Real-Time Collision Detection, 5.1.5, by halving instead. */
function toTriangle(p: Point, [a, b, c]: [Point, Point, Point]): number {
  let [u, v, w] = [a, b, c];
  const middle = (x: Point, y: Point): Point => [0, 1, 2].map((i) => (x[i]! + y[i]!) / 2) as Point;
  for (let turn = 0; turn < 12; turn++) {
    const [uv, vw, wu] = [middle(u, v), middle(v, w), middle(w, u)];
    const parts: [Point, Point, Point][] = [
      [u, uv, wu],
      [uv, v, vw],
      [wu, vw, w],
      [uv, vw, wu],
    ];
    const far = (t: [Point, Point, Point]): number => {
      const centre = [0, 1, 2].map((i) => (t[0][i]! + t[1][i]! + t[2][i]!) / 3) as Point;
      return dot(minus(p, centre), minus(p, centre));
    };
    [u, v, w] = parts.reduce((best, t) => (far(t) < far(best) ? t : best));
  }
  return Math.sqrt(dot(minus(p, u), minus(p, u)));
}

function point({ positions }: Mesh, vertex: number): Point {
  return [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
}

test('coarser forms have a third of the triangles each, and lie as near as they say', () => {
  const mesh = ball(40, 30);
  const forms = coarserOf(mesh);
  expect(forms.length).toBeGreaterThan(2);
  let before = mesh.triangles.length;
  for (const { triangles, error } of forms) {
    expect(triangles.length).toBeLessThan(before * 0.5);
    before = triangles.length;
    const faces = Array.from({ length: triangles.length / 3 }, (_, t) =>
      [0, 1, 2].map((k) => point(mesh, triangles[3 * t + k]!)),
    ) as [Point, Point, Point][];
    let worst = 0;
    for (let v = 0; v < mesh.positions.length / 3; v += 7) {
      const place = point(mesh, v);
      worst = Math.max(worst, Math.min(...faces.map((f) => toTriangle(place, f))));
    }
    // It is told as a mean over what meets in a corner: single places may lie twice as far off.
    expect(worst).toBeLessThan(2 * error + 0.004);
  }
  expect(forms.map((f) => f.error)).toEqual(forms.map((f) => f.error).sort((a, b) => a - b));
});

test.each<[string, Mesh]>([
  ['nothing', { type: 'mesh', positions: new Float32Array(0), triangles: new Uint32Array(0) }],
  ['one place', { ...ball(30, 30), positions: new Float32Array(3 * 30 * 31) }],
  ['two triangles', { ...ball(30, 30), triangles: Uint32Array.from([0, 31, 62, 4, 35, 66]) }],
])('a mesh of %s has forms that harm nothing', (_, mesh) => {
  const { levels, corners, faces } = formsOf(mesh, true, false);
  expect(levels[0]).toEqual({ first: 0, count: mesh.triangles.length / 3, error: 0 });
  expect([...corners, ...faces].every(Number.isFinite)).toBe(true);
});

test('faces know their planes, and two triangles of a square are one', () => {
  const positions = Float32Array.from(
    { length: 24 },
    (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1) * 4,
  );
  const triangles = Uint32Array.from([0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5]);
  const { faces, corners, half } = formsOf({ type: 'mesh', positions, triangles }, false, false);
  const kind = (t: number): number => faces[5 * t + 4]!;
  expect([0, 1, 2, 3, 4].map(kind)).toEqual([2, 1, 2, 1, 1]);
  expect(half).toEqual([0.5, 0.5, 0.5]);
  for (let t = 0; t < 5; t++) {
    const normal = faces.subarray(5 * t, 5 * t + 3);
    for (let c = 0; c < 3; c++) {
      const at = corners.subarray(18 * t + 6 * c, 18 * t + 6 * c + 3);
      const along = normal[0]! * at[0]! + normal[1]! * at[1]! + normal[2]! * at[2]!;
      expect(along).toBeCloseTo(faces[5 * t + 3]!, 6);
    }
    expect(Math.hypot(...normal)).toBeCloseTo(1, 6);
  }
});
