import { inEffect, type Choice, type Piece } from '@vast-swarm/core/piece';
import {
  isWanted,
  kindOf,
  sectionOf,
  type DialValues,
  type Dials,
  type Kind,
  type Shelf,
} from '@vast-swarm/core/kinds';
import { rotationRows } from '@vast-swarm/core/plan';
import type { Vector, VectorFeed } from '@vast-swarm/core/feeds';
import { selectedParts, type Selection } from '../../store/selection';

type Path = (string | number)[];

/** Something of the selected part that can be seen and taken hold of. */
export interface Handle {
  kind: 'place' | 'way' | 'turn';
  title: string;
  path: Path;
  value: Vector;
  /** Where it hangs: the part's own place. */
  centre: Vector;
  /** The value to be kept at the path; the handle's own where there is none. */
  write?: (value: Vector) => unknown;
}

export interface Grip {
  handles: Handle[];
  /** Lines in the world that show the part's shape. */
  lines: Vector[][];
}

/** A vector that does not change with time. */
export function plain(feed: unknown): Vector | null {
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
  return Object.entries(dials).flatMap(([key, spec]): Handle[] => {
    const value = plain(values[key]);
    if (spec.type !== 'vector' || !spec.grasp || !value || !isWanted(spec, values)) return [];
    const handle = { title: spec.title, path: [...path, 'dials', key] };
    switch (spec.grasp) {
      case 'turn':
      case 'way':
        return [{ ...handle, kind: spec.grasp, value, centre }];
      case 'place':
        return [{ ...handle, kind: 'place', value, centre: [0, 0, 0] }];
      case 'ownPlace':
        return [{ ...handle, kind: 'place', value: add(turned(value, turn), centre), centre }];
    }
  });
}

export function add(a: Vector, b: Vector): Vector {
  return a.map((v, i) => v + b[i]!) as Vector;
}

function gripOf(shelf: Shelf, { kind, dials: values }: Choice, path: Path): Grip {
  const found: Kind = kindOf(shelf, kind);
  const centre = plain(values.centre) ?? [0, 0, 0];
  const turn = plain(values.turn) ?? [0, 0, 0];
  const own = found.outline?.(values) ?? [];
  const lines = own.map((line) => line.map((p) => add(turned(p, turn), centre)));
  const around = found.surroundings?.(values) ?? [];
  return { handles: handlesOf(found.dials, values, path), lines: [...lines, ...around] };
}

/** Handles and lines of the selected part in the picture. */
export function gripOn(piece: Piece, selection: Selection | null): Grip | null {
  const [part] = selectedParts({ selection });
  if (!part) return null;
  const { list, id } = part;
  if (list === 'swarms') {
    const at = piece.swarms.findIndex((s) => s.id === id);
    if (at < 0) return null;
    const { emitter } = inEffect(piece, piece.swarms[at]!);
    return gripOf('emitters', emitter, ['swarms', at, 'emitter']);
  }
  // What acts on swarms, or feels what acts, stands somewhere.
  if (!sectionOf(list).influence) return null;
  const at = piece[list].findIndex((p) => p.id === id);
  return at < 0 ? null : gripOf(list, piece[list][at]!, [list, at]);
}
