import type { DialValues } from '../../language/dials';
import { kindOf } from '../../catalogue';
import { layersOf } from '../../feeds/feeds';
import { swarmDials } from '../../catalogue/swarmDials';
import { inEffect } from '../../piece/follow';
import type { Piece, Swarm } from '../../piece/types';
import { signalsIn } from '../../piece/walk';
import type { StockFiles } from '../../stock/entry';
import { historyRows, wantsWay } from './history';
import { influenceOf } from '../../piece/influence';

/** Grows when states are named or worked out in another way, so that what was baked before is stale. */
const STATES = 2;

/** The swarm that a swarm is born from, by id. */
export function parentOf(swarm: Swarm): string | null {
  const { kind, dials } = swarm.emitter;
  return kindOf('emitters', kind).parent?.(dials) || null;
}

/** Dials of look that are worked out while drawing; what is kept from birth counts as motion. */
const LOOK = new Set(
  Object.entries(swarmDials)
    .filter(([, spec]) => spec.group === 'Look')
    .map(([key]) => key),
);

/** What is kept from birth for a look: its feed is part of the state. */
function keptLook(dials: DialValues, all = false): unknown[] {
  return Object.entries(dials).filter(([key, value]) => {
    if (!(all || LOOK.has(key)) || typeof value !== 'object' || !('feed' in value)) return false;
    const kept = 'evaluate' in value && value.evaluate === 'birth';
    // Layers may keep the place of birth, or its colour.
    if (value.feed === 'layers') {
      return layersOf(value).some((l) => l.by === 'place' || l.at === 'birth');
    }
    return value.feed === 'place' || (kept && value.feed !== 'spread');
  });
}

/**
 * By swarm, a text of all that its motion depends on: two pieces that agree in it have the same
 * states. Names, looks and the camera have no part in it.
 */
export function motionKeys(piece: Piece, files: StockFiles): Map<string, string> {
  const keys = new Map<string, string>();
  const of = (swarm: Swarm, trail: readonly string[]): string => {
    const known = keys.get(swarm.id);
    if (known !== undefined) return known;
    const parent = piece.swarms.find((s) => s.id === parentOf(swarm) && s.on);
    const from =
      parent && !trail.includes(parent.id) ? of(parent, [...trail, swarm.id]) : 'no parent';
    const key = JSON.stringify([...dependencies(piece, inEffect(piece, swarm), files), from]);
    keys.set(swarm.id, key);
    return key;
  };
  for (const swarm of piece.swarms) of(swarm, [swarm.id]);
  return keys;
}

function dependencies(piece: Piece, swarm: Swarm, files: StockFiles): unknown[] {
  const { rate, preroll, length } = piece.frame;
  const felt = (list: 'forces' | 'colliders') =>
    piece[list]
      .filter((p) => p.on && influenceOf(piece, p.id, swarm.id) !== 0)
      .map(({ id, kind, dials }) => [id, kind, dials, influenceOf(piece, id, swarm.id)]);
  const own = Object.entries(swarm.dials).filter(([key]) => !LOOK.has(key));
  const parts = [
    ...[swarm.id, swarm.emitter, swarm.launch, own, keptLook(swarm.dials)],
    ...swarm.bodies.map((body) => keptLook(body.dials, true)),
    ...[historyRows(swarm), wantsWay(swarm), piece.density],
    ...[felt('forces'), felt('colliders')],
  ];
  const fed = signalsIn(parts);
  const signals = piece.signals
    .filter((s) => fed.has(s.id))
    .map(({ id, kind, on, dials }) => [id, kind, on, dials]);
  const stock = stockIn(piece, parts, files);
  return [STATES, rate, preroll, length, piece.seed, parts, signals, stock];
}

/** Entries of the stock that any dial of these parts names, and whether they are at hand. */
function stockIn(piece: Piece, parts: unknown, files: StockFiles): unknown[] {
  const text = JSON.stringify(parts);
  return piece.stock
    .filter(({ id }) => text.includes(`"${id}"`))
    .map(({ id, source }) => [id, source, 'hash' in source && files.has(source.hash)]);
}
