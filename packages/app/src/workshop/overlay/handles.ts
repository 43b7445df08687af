import {
  inEffect,
  kindOf,
  rotationRows,
  type Choice,
  type DialValues,
  type Dials,
  type Piece,
  type Shelf,
  type Vector,
  type VectorFeed,
} from '@vast-swarm/core';
import type { Selection } from '../../store/pieceSlice';

type Path = (string | number)[];

/** Something of the selected part that can be seen and taken hold of. */
export interface Handle {
  kind: 'place' | 'way' | 'turn';
  title: string;
  path: Path;
  value: Vector;
  /** Where it hangs: the part's own place. */
  centre: Vector;
}

export interface Grip {
  handles: Handle[];
  /** Lines in the world that show the part's shape. */
  lines: Vector[][];
}

const PLACES = new Set(['centre', 'from', 'to', 'regionCentre', 'target']);
const WAYS = new Set(['axis', 'direction']);

function plain(feed: unknown): Vector | null {
  const parts = feed as VectorFeed | undefined;
  return Array.isArray(parts) && parts.every((p) => typeof p === 'number')
    ? (parts as Vector)
    : null;
}

/** A place turned about x, then y, then z, by degrees. */
export function turned(place: Vector, angles: Vector): Vector {
  return rotationRows(angles).map((row) =>
    row.reduce((sum, v, i) => sum + v * place[i]!, 0),
  ) as Vector;
}

function handlesOf(dials: Dials, values: DialValues, path: Path): Handle[] {
  const centre = plain(values.centre) ?? [0, 0, 0];
  const turn = plain(values.turn) ?? [0, 0, 0];
  const found: Handle[] = [];
  for (const [key, spec] of Object.entries(dials)) {
    const value = plain(values[key]);
    if (spec.type !== 'vector' || !value) continue;
    const own: Path = [...path, 'dials', key];
    if (key === 'turn') found.push({ kind: 'turn', title: spec.title, path: own, value, centre });
    if (WAYS.has(key)) found.push({ kind: 'way', title: spec.title, path: own, value, centre });
    if (!PLACES.has(key)) continue;
    if (key === 'regionCentre' && values.region === 'everywhere') continue;
    // Ends of lines are measured from the part's own place.
    const local = (key === 'from' || key === 'to') && 'centre' in dials;
    const at = local ? add(turned(value, turn), centre) : value;
    found.push({
      kind: 'place',
      title: spec.title,
      path: own,
      value: at,
      centre: local ? centre : [0, 0, 0],
    });
  }
  return found;
}

export function add(a: Vector, b: Vector): Vector {
  return a.map((v, i) => v + b[i]!) as Vector;
}

function circle(radius: number, at: (a: number, b: number) => Vector): Vector[] {
  return Array.from({ length: 49 }, (_, i) => {
    const turn = (2 * Math.PI * i) / 48;
    return at(radius * Math.cos(turn), radius * Math.sin(turn));
  });
}

const ROUND: ((a: number, b: number) => Vector)[] = [
  (a, b) => [a, 0, b],
  (a, b) => [a, b, 0],
  (a, b) => [0, a, b],
];

function boxLines([w, h, d]: Vector): Vector[][] {
  const [x, y, z] = [w / 2, h / 2, d / 2];
  const square = (level: number): Vector[] => [
    [-x, level, -z],
    [x, level, -z],
    [x, level, z],
    [-x, level, z],
    [-x, level, -z],
  ];
  const posts: Vector[][] = [
    [-x, -z],
    [x, -z],
    [x, z],
    [-x, z],
  ].map(([px, pz]) => [
    [px!, -y, pz!],
    [px!, y, pz!],
  ]);
  return [square(-y), square(y), ...posts];
}

/** The shape of a kind in its own frame; what has none shows its handles alone. */
function shapeOf({ kind, dials }: Choice): Vector[][] {
  const number = (key: string, otherwise = 1): number => {
    const value = dials[key];
    if (typeof value === 'number') return value;
    if (typeof value === 'object' && 'to' in value && typeof value.to === 'number') return value.to;
    return otherwise;
  };
  const size = plain(dials.size) ?? [1, 1, 1];
  switch (kind) {
    case 'ring':
    case 'disc':
      return [circle(number('radius'), ROUND[0]!)];
    case 'sphere':
      return ROUND.map((axis) => circle(number('radius'), axis));
    case 'vortex':
    case 'attraction':
      return [circle(number('radius'), ROUND[0]!)];
    case 'box':
      return boxLines(size);
    case 'rectangle':
      return [boxLines([number('width'), 0, number('depth')])[0]!];
    case 'lattice': {
      const spacing = plain(dials.spacing) ?? [1, 1, 1];
      const count = ['columns', 'rows', 'layers'].map((k) => number(k) - 1);
      return boxLines(spacing.map((s, i) => s * count[i]!) as Vector);
    }
    case 'line':
    case 'capsule':
      return [[plain(dials.from) ?? [0, 0, 0], plain(dials.to) ?? [0, 0, 0]]];
    case 'plane':
      return [
        boxLines([4, 0, 4])[0]!,
        [
          [0, 0, 0],
          [0, 0.8, 0],
        ],
      ];
    case 'brushed':
    case 'pictureFlow':
      return [
        boxLines([number('width'), number('height'), 0])[2]!,
        frontOf(number('width'), number('height')),
      ];
    default:
      return [];
  }
}

function frontOf(w: number, h: number): Vector[] {
  const [x, y] = [w / 2, h / 2];
  return [
    [-x, -y, 0],
    [x, -y, 0],
    [x, y, 0],
    [-x, y, 0],
    [-x, -y, 0],
  ];
}

function gripOf(shelf: Shelf, choice: Choice, path: Path): Grip {
  const { dials } = kindOf(shelf, choice.kind);
  const centre = plain(choice.dials.centre) ?? [0, 0, 0];
  const turn = plain(choice.dials.turn) ?? [0, 0, 0];
  const lines = shapeOf(choice).map((line) => line.map((p) => add(turned(p, turn), centre)));
  const { region } = choice.dials;
  if (region === 'ball' || region === 'box') {
    const middle = plain(choice.dials.regionCentre) ?? [0, 0, 0];
    const size = plain(choice.dials.regionSize) ?? [1, 1, 1];
    const shape =
      region === 'box'
        ? boxLines(size)
        : ROUND.map((axis) =>
            circle(0.5, axis).map((p) => p.map((c, i) => c * size[i]!) as Vector),
          );
    lines.push(...shape.map((line) => line.map((p) => add(p, middle))));
  }
  return { handles: handlesOf(dials, choice.dials, path), lines };
}

/** What of the selected part stands in the picture. */
export function gripOn(piece: Piece, selection: Selection | null): Grip | null {
  if (!selection) return null;
  const { list, id } = selection;
  if (list === 'swarms') {
    const at = piece.swarms.findIndex((s) => s.id === id);
    if (at < 0) return null;
    const { emitter } = inEffect(piece, piece.swarms[at]!);
    return gripOf('emitters', emitter, ['swarms', at, 'emitter']);
  }
  if (list === 'forces' || list === 'colliders') {
    const at = piece[list].findIndex((p) => p.id === id);
    return at < 0 ? null : gripOf(list, piece[list][at]!, [list, at]);
  }
  return null;
}
