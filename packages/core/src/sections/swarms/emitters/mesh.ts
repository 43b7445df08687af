import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { DialReader } from '../../../language/dialReader';
import type { PartReader } from '../../../language/partReader';
import { fieldOf, type Field } from '../../../stock/places/distanceField';
import {
  columns,
  edgesByLength,
  facesByArea,
  vertexCoordinates,
  vertexNormals,
} from '../../../stock/places/meshParts';
import { rangeOf } from '../../../feeds/feeds';
import { spacingOf } from '../../../stock/places/spacing';
import { memo } from '../../../stock/memo';
import { lettersOfCells, lettersOfFaces, lettersOfVertices } from '../../../stock/places/letters';
import type { Mesh } from '../../../stock/types';
import type { Birthplace } from '../../kinds';
import { choice, number, stockDial } from '../../../language/dials';
import { fieldAt } from '../../colliders/fieldAt';
import { NOTHING_CHOSEN } from './nothingChosen';
import { orderDial, pickRow, placeNumber } from './order';
import { emitter } from '../../define';

const dials = {
  mesh: stockDial('Mesh', ['mesh'], 'From a file, one of those made by code, or words.'),
  from: choice(
    'From',
    'faces',
    { faces: 'Faces', edges: 'Edges', vertices: 'Vertices', inside: 'The inside' },
    'Faces go by area, edges by length.',
  ),
  order: { ...orderDial(), when: { dial: 'from', is: ['vertices'] } },
  detail: number('Detail', 48, [8, 128], 'Cells along the mesh that tell its inside.', {
    whole: true,
    when: { dial: 'from', is: ['inside'] },
  }),
  size: number('Scale', 1, [0.0001, 10_000], 'Of the mesh.', { drag: 'log' }),
};
type Reader = DialReader<typeof dials>;

export function nowhere(dial: PartReader): Birthplace {
  const zero = dial.graph.float(0);
  const none = new Vec3(zero, zero, zero);
  return { position: none, normal: none, there: zero.gt(0) };
}

/** Reads x, y, z (or red, green, blue) number `index` of a list of points. */
export function pointOf(
  dial: PartReader,
  item: object,
  key: string,
  points: Float32Array,
  index: Expr,
): Vec3 {
  const parts = columns(item, key, points).map((values) => dial.block(values, index));
  return new Vec3(parts[0]!, parts[1]!, parts[2]!);
}

function mixed(points: Vec3[], weights: Expr[]): Vec3 {
  return points.map((p, i) => p.scale(weights[i]!)).reduce((sum, p) => sum.add(p));
}

/** A place on the picture that is laid round the mesh, between some of its coordinates. */
function surfaceOf(
  dial: PartReader,
  list: Float32Array,
  places: Expr[],
  weights: Expr[],
): [Expr, Expr] {
  const part = (k: number): Expr =>
    places
      .map((at, i) => dial.block(list, at.mul(2).add(k)).mul(weights[i]!))
      .reduce((sum, v) => sum.add(v));
  return [part(0), part(1)];
}

/**
 * A place between some vertices of the mesh, by their weights.
 *
 * @param corners numbers of the corners of a triangle that the vertices stand at, where they do
 */
function between(
  dial: PartReader,
  mesh: Mesh,
  vertices: Expr[],
  weights: Expr[],
  corners?: Expr[],
): Birthplace {
  const read = (key: string, list: Float32Array): Vec3 =>
    mixed(
      vertices.map((v) => pointOf(dial, mesh, key, list, v)),
      weights,
    );
  const normal = read('normals', vertexNormals(mesh)).unit();
  const { coordinates } = mesh;
  const surface =
    coordinates &&
    (corners
      ? surfaceOf(dial, coordinates, corners, weights)
      : surfaceOf(dial, vertexCoordinates(mesh), vertices, weights));
  const position = read('positions', mesh.positions);
  const place = { position, normal, ...(surface ? { surface } : {}) };
  return mesh.colours ? { ...place, colour: read('colours', mesh.colours) } : place;
}

/** The numbers of the field's cells whose middle is inside, as f32 places of their low corners. */
function cellsInside(field: Field): Float32Array {
  return memo(field, 'inside', () => {
    const found: number[] = [];
    field.values.forEach((d, i) => {
      if (d < 0) found.push(i);
    });
    return new Float32Array(Int32Array.from(found).buffer);
  });
}

function inside(dial: Reader, mesh: Mesh): Birthplace {
  const g = dial.graph;
  const field = fieldOf(mesh, dial.plain('detail'));
  const cells = cellsInside(field);
  if (cells.length === 0) return nowhere(dial);
  const count = dial.constant('cells', cells.length, 'i32');
  const row = dial.random('cell').mul(count.toFloat()).toInt().min(count.sub(1));
  const cell = dial.block(cells, row, 'i32');
  const [nx, ny] = field.size;
  const inverse = (n: number): Expr => g.float(1 / n);
  // Grids hold less than 2^24 points, so that single precision counts them exactly.
  const layer = cell
    .toFloat()
    .add(0.5)
    .mul(inverse(nx * ny))
    .floor();
  const rest = cell.toFloat().sub(layer.mul(nx * ny));
  const rowOf = rest.add(0.5).mul(inverse(nx)).floor();
  const column = rest.sub(rowOf.mul(nx));
  const jitter = (axis: string): Expr => dial.random(`in.${axis}`).sub(0.5);
  const grid = new Vec3(
    column.add(jitter('x')),
    rowOf.add(jitter('y')),
    layer.add(jitter('z')),
  ).scale(field.step);
  const origin = new Vec3(...(field.origin.map((o) => g.float(o)) as [Expr, Expr, Expr]));
  const spot = origin.add(grid);
  // Cells at the surface reach out of it by half a step: those places are put back.
  const { distance, normal } = fieldAt(dial, field, spot);
  const position = spot.sub(normal.scale(distance.max(0)));
  return { position, normal, ...onLetter(dial, lettersOfCells(mesh, field), cell) };
}

/** Tells which letter a place is on, by a list of them. */
function onLetter(
  dial: PartReader,
  letters: Float32Array | null,
  index: Expr,
): Pick<Birthplace, 'letter'> {
  return letters ? { letter: dial.block(letters, index) } : {};
}

export const mesh = emitter({
  kind: 'mesh',
  title: 'Mesh',
  help: 'Particles start on the faces, edges or vertices of a mesh, or inside it.',
  icon: 'M12 3l8 5v8l-8 5l-8-5V8zM4 8l8 5l8-5M12 13v8',
  dials,
  measures: (values) => (values.from === 'inside' ? values : null),
  places({ mesh: chosen, from, size }, stock) {
    const data = stock(chosen);
    if (data?.type !== 'mesh' || from !== 'vertices') return null;
    return {
      count: data.positions.length / 3,
      spacing: () => spacingOf(data.positions) * rangeOf(size)[1],
      coloured: data.colours !== undefined,
    };
  },
  whyNoBirths: ({ mesh: chosen }) => (chosen ? null : NOTHING_CHOSEN),
  build(dial) {
    const data = dial.stock('mesh');
    if (data?.type !== 'mesh' || data.positions.length === 0) return nowhere(dial);
    const place = placeOn(dial, data);
    return { ...place, position: place.position.scale(dial.number('size')) };
  },
});

function placeOn(dial: Reader, data: Mesh): Birthplace {
  const g = dial.graph;
  const from = dial.choice('from');
  if (from === 'vertices') {
    const vertex = placeNumber(dial, data.positions.length / 3);
    const place = between(dial, data, [vertex], [g.float(1)]);
    return { ...place, ...onLetter(dial, lettersOfVertices(data), vertex) };
  }
  if (data.triangles.length === 0) return nowhere(dial);
  if (from === 'inside') return inside(dial, data);
  if (from === 'edges') {
    const { ends, alias } = edgesByLength(data);
    const row = pickRow(dial, alias).mul(2);
    const end = (k: number): Expr => dial.block(ends, row.add(k), 'i32');
    const t = dial.random('along');
    const place = between(dial, data, [end(0), end(1)], [g.float(1).sub(t), t]);
    return { ...place, ...onLetter(dial, lettersOfVertices(data), end(0)) };
  }
  const { corners, alias } = facesByArea(data);
  const face = pickRow(dial, alias);
  const row = face.mul(3);
  const corner = (k: number): Expr => dial.block(corners, row.add(k), 'i32');
  // Even over a triangle: R. Osada et al., "Shape Distributions", ACM TOG 21(4), 2002.
  const root = dial.random('u').sqrt();
  const v = dial.random('v');
  const weights = [g.float(1).sub(root), root.mul(g.float(1).sub(v)), root.mul(v)];
  const numbers = [0, 1, 2].map((k) => row.add(k));
  const place = between(dial, data, [corner(0), corner(1), corner(2)], weights, numbers);
  return { ...place, ...onLetter(dial, lettersOfFaces(data), face) };
}
