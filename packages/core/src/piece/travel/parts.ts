import { z } from '../../zod';
import {
  isSignal,
  rangeOf,
  type DialValue,
  type NumberFeed,
  type Vector,
  type VectorFeed,
} from '../../feeds/feeds';
import { listsWhere, sectionOf } from '../../sections/lists';
import { numberControls, signalId } from '../chains';
import { restOf } from '../controls';
import { documentText, parseDocument, PieceError } from '../document';
import { inEffect } from '../follow';
import { partsThat } from '../influence';
import { parsePiece, pieceText, validatePiece } from '../parse';
import type { Piece } from '../types';
import { dialsOf, putAt, type DialPlace } from '../walk';
import { closureOf, isTravelling, namedBy, travelling, type PartRef } from './closure';

/** Parts of a piece on their way to another, as text between people, or as a recipe. */
export interface Parts {
  format: 'vast-swarm parts';
  version: 1;
  name: string;
  /** Those that were chosen; what else is there they need. */
  chosen: PartRef[];
  /** A piece with them, and with the camera, the lights and the frame that they were seen with. */
  piece: Piece;
}

/** The `format` of a file of parts. */
export const PARTS_FORMAT = 'vast-swarm parts';

/** Made when it is asked for: sections can come from outside. */
const schema = () =>
  z.strictObject({
    format: z.literal(PARTS_FORMAT),
    version: z.literal(1),
    name: z.string().min(1).max(120),
    chosen: z
      .array(z.strictObject({ list: z.enum(travelling()), id: z.string().min(1).max(64) }))
      .min(1)
      .max(400),
    // It is read as what it is: a piece, of whatever version.
    piece: z.unknown(),
  });

const PARTS = { what: 'file of parts', format: PARTS_FORMAT, version: 1, schema };

/**
 * Parts of a piece with all that they name. What a control drives in them stands where it rests.
 *
 * @param chosen what of it is no part that travels is left out
 * @returns null where nothing is left
 */
export function gathered(piece: Piece, chosen: readonly PartRef[], name: string): Parts | null {
  const found = closureOf(piece, chosen);
  const there = chosen.filter(({ list, id }) => isTravelling(list) && found[list].has(id));
  if (there.length === 0) return null;
  const next = structuredClone(piece);
  for (const swarm of next.swarms) {
    if (!swarm.follows || found.swarms.has(swarm.follows)) continue;
    Object.assign(swarm, structuredClone(inEffect(piece, swarm)));
    delete swarm.follows;
    delete swarm.own;
  }
  atRest(next);
  for (const list of [...travelling(), 'stock'] as const) {
    if (list !== 'stock' && sectionOf(list).scenery) continue;
    const kept = (next[list] as { id: string }[]).filter((p) => found[list].has(p.id));
    Object.assign(next, { [list]: kept });
  }
  withoutMissing(next, there);
  const felt = new Set(partsThat(next, 'felt').map((p) => p.id));
  const feeling = new Set(partsThat(next, 'feels').map((p) => p.id));
  next.influence = picked(next.influence, felt, (row) => picked(row, feeling, (v) => v));
  for (const list of listsWhere((s) => s.called === true)) next[list] = [];
  Object.assign(next, { played: [], name: name.slice(0, 120) });
  return { format: PARTS_FORMAT, version: 1, name: next.name, chosen: there, piece: next };
}

function picked<V>(
  row: Record<string, V>,
  keys: ReadonlySet<string>,
  each: (value: V) => V,
): Record<string, V> {
  const kept = Object.entries(row).filter(([id]) => keys.has(id));
  return Object.fromEntries(kept.map(([id, value]) => [id, each(value)]));
}

/** Feeds that follow controls, which stay behind, stand where these rest. */
function atRest(piece: Piece): void {
  const rests = new Map(numberControls(piece).map((c) => [c.id, Number(restOf(c))]));
  const still = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(still);
    if (typeof value !== 'object' || value === null) return value;
    if (!('feed' in value) || !isSignal(value as never)) return value;
    const { signal, from, to } = value as unknown as { signal: string; from: number; to: number };
    const rest = rests.get(signalId(signal));
    return rest === undefined ? value : from + (to - from) * rest;
  };
  for (const { value, path } of dialsOf(piece)) putAt(piece, path, still(value));
}

/** The scenery of the parts, as lights and the finish, as far as it names nothing that stays behind. */
function withoutMissing(piece: Piece, chosen: readonly PartRef[]): void {
  const ids = new Set(
    [...travelling(), 'stock' as const].flatMap((list) => piece[list].map((p) => p.id)),
  );
  for (const place of dialsOf({ ...piece, swarms: [] })) {
    const [list] = place.path;
    if (list !== 'camera' && list !== 'backdrop') continue;
    if (namedBy(place).every((n) => ids.has(n.id))) continue;
    piece[list].dials[String(place.path.at(-1))] = middleOf(place);
  }
  for (const list of travelling().filter((l) => sectionOf(l).scenery)) {
    const misses = new Set(
      [...dialsOf({ ...piece, swarms: [] })]
        .filter((place) => place.path[0] === list && namedBy(place).some((n) => !ids.has(n.id)))
        .map((place) => place.path[1] as number),
    );
    const wanted = (id: string): boolean => chosen.some((c) => c.list === list && c.id === id);
    const kept = (piece[list] as { id: string }[]).filter(
      (part, i) => wanted(part.id) || !misses.has(i),
    );
    Object.assign(piece, { [list]: kept });
  }
}

/** A dial without the name in it: the middle of its range. */
function middleOf({ spec, value }: DialPlace): DialValue {
  const middle = (feed: NumberFeed): number => {
    const [low, high] = rangeOf(feed);
    return (low + high) / 2;
  };
  if (spec.type === 'number') return middle(value as NumberFeed);
  if (spec.type === 'vector') return (value as VectorFeed).map(middle) as Vector;
  return structuredClone(spec.default);
}

export function partsText(parts: Parts): string {
  return documentText({ ...parts, piece: JSON.parse(pieceText(parts.piece)) as object });
}

/** Most text that is taken out of a clipboard: reading more would hold the interface up. */
const MOST_PASTED = 8 * 2 ** 20;

/**
 * Reads parts from text: a file of them, or a piece, of which all are meant.
 * @throws PieceError that says what is wrong and where
 */
export function parseParts(text: string): Parts {
  if (text.length > MOST_PASTED) {
    const size = (text.length / 2 ** 20).toFixed(0);
    fail(`The text has ${size} MB, parts have at most 8 MB; import a piece as a file instead.`);
  }
  if (!text.trimStart().startsWith('{')) {
    fail('This text holds no parts; copy a part of a piece first, or the text of a piece file.');
  }
  if (!text.slice(0, 400).includes(PARTS_FORMAT)) return wholeOf(parsePiece(text));
  const { piece: given, ...parts } = parseDocument(PARTS, text);
  const piece = validatePiece(given);
  const lost = parts.chosen.find(({ list, id }) => !piece[list].some((p) => p.id === id));
  if (lost) fail(`It has no '${lost.id}' among its ${lost.list}, which it says it brings.`);
  return { ...parts, piece };
}

function fail(message: string): never {
  throw new PieceError([{ where: '', line: 0, message }]);
}

/** All parts of a piece. */
function wholeOf(piece: Piece): Parts {
  const chosen = travelling().flatMap((list) => piece[list].map(({ id }) => ({ list, id })));
  const parts = gathered(piece, chosen, piece.name);
  if (!parts) fail(`The piece '${piece.name}' has no parts that could be taken from it.`);
  return parts;
}
