import { lengthOf, made, pointsOf, type Mesh, type Outline } from '@vast-swarm/core/stock';
import { MADE } from '@vast-swarm/core/demo';
import { outlineOfPath, PathError } from '../src/stock/outlinePath';
import { pointAlong } from '../src/stock/places/along';
import { aliasOf } from '../src/stock/places/alias';
import { evenPlaces, segmentsOf } from '../src/stock/places/along';
import { fieldOf } from '../src/stock/places/distanceField';
import { matched, sample } from '../src/stock/places/match';
import { edgesByLength, facesByArea, isClosed, vertexNormals } from '../src/stock/places/meshParts';
import { spotsOf } from '../src/stock/places/pictureParts';
import { surface } from '../src/demo/content/surface';
import { spacingOf } from '../src/stock/places/spacing';

const ball = (radius = 1, n = 48): Mesh =>
  surface(
    2 * n,
    n,
    (u, v) => {
      const [a, b] = [-2 * Math.PI * u, Math.PI * v];
      const out = Math.sin(b) * radius;
      return [out * Math.cos(a), -Math.cos(b) * radius, out * Math.sin(a)];
    },
    { round: true },
  );

test.each(MADE)('%s has finite points in a stage of ten metres', (name) => {
  const data = made(name);
  expect(made(name)).toBe(data);
  const points = pointsOf(data);
  expect(points.every((v) => Math.abs(v) < 5)).toBe(true);
  if (data.type === 'mesh') {
    const vertices = data.positions.length / 3;
    expect(data.triangles.every((t) => t < vertices)).toBe(true);
  }
});

test.each([
  [
    'a lattice',
    0.25,
    (i: number) => [(i % 10) * 0.25, (Math.floor(i / 10) % 10) * 0.25, Math.floor(i / 100) * 0.25],
  ],
  ['a flat lattice', 0.1, (i: number) => [(i % 40) * 0.1, 3, Math.floor(i / 40) * 0.1]],
  ['a row', 2, (i: number) => [i * 2, i * 0, -5]],
  ['pairs far apart', 0.01, (i: number) => [(i >> 1) * 0.5 + (i & 1) * 0.01, 0, 0]],
])('the spacing of %s is %d', (_, expected, at) => {
  const points = Float32Array.from({ length: 3000 }, (_, i) => at(Math.floor(i / 3))[i % 3]!);
  expect(spacingOf(points) / expected).toBeCloseTo(1, 2);
});

test('the spacing of scattered places is what comparing all with all gives', () => {
  const points = Float32Array.from({ length: 1200 }, () => Math.random() ** 3 * 10);
  const nearest = Array.from({ length: 400 }, (_, i) => {
    const to = (j: number): number =>
      Math.hypot(...[0, 1, 2].map((k) => points[3 * i + k]! - points[3 * j + k]!));
    return Math.min(...Array.from({ length: 400 }, (_, j) => (j === i ? Infinity : to(j))));
  }).sort((a, b) => a - b);
  expect(spacingOf(points)).toBe(nearest[200]);
  expect(spacingOf(new Float32Array(3))).toBe(0);
  expect(spacingOf(new Float32Array(30))).toBe(0);
});

test('an alias table gives each row its share', () => {
  const weights = [1, 0, 3, 4.5, 0.25];
  const { own, other } = aliasOf(weights);
  const others = new Int32Array(other.buffer);
  const shares = weights.map((_, i) => own[i]!);
  others.forEach((to, from) => (shares[to]! += 1 - own[from]!));
  const total = weights.reduce((a, b) => a + b, 0);
  shares.forEach((s, i) => expect(s / weights.length).toBeCloseTo(weights[i]! / total, 6));
});

test('paths keep their lengths: lines, a circle of arcs, and Bézier curves', () => {
  expect(lengthOf(outlineOfPath('M0 0 H3 V4 Z'))).toBeCloseTo(12, 6);
  const circle = outlineOfPath('M0 -1 A1 1 0 1 1 0 1 A1 1 0 1 1 0 -1 Z');
  expect(lengthOf(circle) / (2 * Math.PI)).toBeCloseTo(1, 3);
  expect(circle.curves[0]!.closed).toBe(true);
  // SVG counts y downwards.
  const [x, y] = pointAlong(outlineOfPath('M0 0 L2 2'), 1);
  expect([x, y]).toEqual([2, -2]);
  const quadratic = outlineOfPath('M0 0 Q1 2 2 0');
  expect(pointAlong(quadratic, 0.5)[1]).toBeCloseTo(-1, 3);
});

test.each(['', 'M0 0', 'nonsense', 'M 1 2 L x'])('the path "%s" is refused', (text) => {
  expect(() => outlineOfPath(text)).toThrow(PathError);
});

test('even places stand equally far apart along all curves, to 0.1 %', () => {
  const outline = made('harbourMark') as Outline;
  const count = 300;
  const places = evenPlaces(outline, count);
  const { starts } = segmentsOf(outline);
  const each = lengthOf(outline) / count;
  const along = [...places].map((at) => {
    const curve = starts.findLast((s) => s.first <= at)!;
    return curve.length + (at - curve.first) * curve.each;
  });
  for (let i = 1; i < count; i++) {
    expect(Math.abs((along[i]! - along[i - 1]!) / each - 1)).toBeLessThan(1e-3);
  }
});

test('edges are found once, faces by area, and a closed mesh is told from an open one', () => {
  const sheet = surface(2, 1, (u, v) => [2 * u, v, 0]);
  expect(edgesByLength(sheet).count).toBe(9);
  expect(facesByArea(sheet).count).toBe(4);
  expect(isClosed(sheet)).toBe(false);
  expect(isClosed(ball())).toBe(true);
  expect(isClosed(made('buoy') as Mesh)).toBe(true);
  const normals = vertexNormals(ball());
  const { positions } = ball();
  for (let v = 300; v < 3000; v += 3) {
    const dot = [0, 1, 2].reduce((s, k) => s + normals[v + k]! * positions[v + k]!, 0);
    expect(dot).toBeGreaterThan(0.99);
  }
});

test('the distance field of a ball is that of a ball, inside and out', () => {
  const { size, origin, step, values, closed } = fieldOf(ball(1, 64), 40);
  expect(closed).toBe(true);
  let worst = 0;
  for (let k = 0; k < size[2]; k++) {
    for (let j = 0; j < size[1]; j++) {
      for (let i = 0; i < size[0]; i++) {
        const at = [i, j, k].map((c, axis) => origin[axis]! + c * step);
        const exact = Math.hypot(...at) - 1;
        worst = Math.max(worst, Math.abs(values[i + size[0] * (j + size[1] * k)]! - exact));
      }
    }
  }
  // The facets of the ball lie within a thousandth of it.
  expect(worst).toBeLessThan(3e-3);
});

test('an open sheet has no inside', () => {
  const { values } = fieldOf(made('slipway') as Mesh, 32);
  expect(values.every((d) => d >= 0 && Number.isFinite(d))).toBe(true);
});

test('degenerate triangles and meshes without faces do no harm', () => {
  const flat: Mesh = {
    type: 'mesh',
    positions: new Float32Array([0, 0, 0, 1, 1, 1, 0, 0, 0]),
    triangles: new Uint32Array([0, 1, 2, 0, 0, 0]),
  };
  expect(fieldOf(flat, 16).values.every(Number.isFinite)).toBe(true);
  expect(facesByArea(flat).count).toBe(2);
  const none: Mesh = { ...flat, triangles: new Uint32Array(0) };
  expect(isClosed(none)).toBe(false);
  expect(sample(none, 10).points.every((v) => v === 0)).toBe(true);
});

test('pictures of one pixel and pictures with nothing bright have defined places', () => {
  const pixel = (v: number) => ({
    type: 'picture' as const,
    width: 1,
    height: 1,
    pixels: new Uint8Array([v, v, v, 255]),
  });
  expect(spotsOf(pixel(255), 'brightness', 0.5)).toMatchObject({ count: 1, pixel: 1 });
  expect(spotsOf(pixel(0), 'brightness', 0.5).count).toBe(0);
  expect(spotsOf(pixel(0), 'alpha', 0.5).count).toBe(1);
});

test('matched places are the sampled ones, each once, and ways are short', () => {
  const shapes = [made('conch'), made('buoy')];
  const count = 4096;
  const { shapes: found } = matched(shapes, count);
  const key = (p: number[]): string => p.map((v) => v.toFixed(5)).join();
  shapes.forEach((shape, k) => {
    const { points } = sample(shape, count);
    const wanted = Array.from({ length: count }, (_, i) =>
      key([...points.slice(3 * i, 3 * i + 3)]),
    );
    const got = Array.from({ length: count }, (_, i) => key(found[k]!.map((axis) => axis[i]!)));
    expect(got.sort()).toEqual(wanted.sort());
  });
  const mean = (pair: (i: number) => number): number => {
    let sum = 0;
    for (let i = 0; i < count; i++) {
      const part = (axis: number): number => found[0]![axis]![i]! - found[1]![axis]![pair(i)]!;
      sum += Math.hypot(part(0), part(1), part(2));
    }
    return sum / count;
  };
  // Far shorter than ways between places paired by chance.
  expect(mean((i) => i)).toBeLessThan(0.6 * mean((i) => (i * 1237) % count));
});
