import { dialsOf, type Piece } from '@vast-swarm/core/piece';
import { MAP_PLANE, mapOf, type MapPlane, type Vector } from '@vast-swarm/core/feeds';
import { rotationRows } from '@vast-swarm/core/plan';
import type { Selection } from '../../store/selection';
import { add, turned, type Grip, type Handle } from './handles';

const LEAST = 0.001;

/** A plane as lines in the world. */
function linesOf({ centre, turn, width, height }: MapPlane): Vector[][] {
  const at = (x: number, y: number): Vector =>
    add(turned([(x * width) / 2, (y * height) / 2, 0], [...turn, 0]), centre);
  return [
    [at(-1, -1), at(1, -1), at(1, 1), at(-1, 1), at(-1, -1)],
    // Cut off where the picture begins, so that it is told which way is up.
    [at(-1, 0.8), at(-1 + (0.2 * height) / width, 1)],
  ];
}

/** An offset in the world, along and up a plane. */
function within({ turn }: MapPlane, offset: Vector): Vector {
  const rows = rotationRows([...turn, 0]);
  // The other way round: columns for rows.
  return [0, 1, 2].map((k) =>
    rows.reduce((sum, row, i) => sum + row[k]! * offset[i]!, 0),
  ) as Vector;
}

function handlesOf(title: string, plane: MapPlane, path: (string | number)[]): Handle[] {
  const { centre, turn, width, height } = plane;
  const angles: Vector = [...turn, 0];
  const corner = turned([width / 2, height / 2, 0], angles);
  const side = (half: number): number => Math.max(LEAST, Math.round(2000 * Math.abs(half)) / 1000);
  return [
    {
      kind: 'place',
      title,
      path,
      value: centre,
      centre: [0, 0, 0],
      write: (to) => ({ ...plane, centre: to }),
    },
    {
      kind: 'turn',
      title: `${title}, turn`,
      path,
      value: angles,
      centre,
      write: ([x, y]) => ({ ...plane, turn: [x, y] }),
    },
    {
      kind: 'place',
      title: `${title}, size`,
      path,
      value: add(corner, centre),
      centre,
      write(offset) {
        const [x, y] = within(plane, offset);
        return { ...plane, width: side(x), height: side(y) };
      },
    },
  ];
}

/** The planes on which dials of the selected part are looked up in maps. */
export function mapPlanes(piece: Piece, selection: Selection | null): Grip {
  const grip: Grip = { handles: [], lines: [] };
  if (!selection) return grip;
  const { list, id } = selection;
  if (list === 'frame' || list === 'camera' || list === 'backdrop') return grip;
  const at = piece[list].findIndex((p) => p.id === id);
  // Where several lie on one plane, the first is taken hold of.
  const shown = new Set<string>();
  for (const { spec, value, path } of dialsOf(piece)) {
    if (path[0] !== list || path[1] !== at) continue;
    const map = mapOf(value);
    if (map?.by !== 'plane') continue;
    const plane = map.plane ?? MAP_PLANE;
    const same = JSON.stringify(plane);
    if (shown.has(same)) continue;
    shown.add(same);
    grip.lines.push(...linesOf(plane));
    grip.handles.push(...handlesOf(`${spec.title} map`, plane, [...path, 'plane']));
  }
  return grip;
}
