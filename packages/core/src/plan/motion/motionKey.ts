import type { DialValues } from '../../language/dials';
import { kindOf } from '../../sections';
import { layersOf, mapOf } from '../../feeds/feeds';
import { swarmDials } from '../../sections/swarms/swarmDials';
import { inEffect } from '../../piece/follow';
import type { Part, Piece, Swarm } from '../../piece/types';
import { chainOf, sourcesOf } from '../../piece/chains';
import { mapsIn, signalsIn } from '../../piece/walk';
import { atHand, type StockFiles } from '../../stock/entry';
import type { ControlValue } from '../../feeds/control';
import { restOf } from '../../piece/controls';
import { heldBy, underControls } from '../score/held';
import { isBurst, isControl, scoreText, switchesMotion } from '../score/scoreText';
import { giversOf, stirredBy } from '../media/givers';
import { mediaNamed, mediumKey } from '../media/mediumKey';
import { gatheredBy, leavesInFields } from '../fields/fieldPlan';
import { historyRows, wantsWay } from './history';
import { influenceOf } from '../../piece/influence';
import { pushingOn } from '../../piece/pushing';
import { listsWhere, type PartList } from '../../sections/lists';

/** Grows when states are named or worked out in another way, so that what was baked before is stale. */
const STATES = 3;

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

const LETTER = /\bletter\b/;

/** Feeds of looks that are kept from birth, and so are part of the state. */
function keptLook(dials: DialValues, all = false): unknown[] {
  return Object.entries(dials).filter(([key, value]) => {
    if (!(all || LOOK.has(key))) return false;
    // Of words, formulas may ask for the letter, and picture sets go by it.
    if (LETTER.test(JSON.stringify(value))) return true;
    if (typeof value !== 'object' || !('feed' in value)) return false;
    const kept = 'evaluate' in value && value.evaluate === 'birth';
    // Layers may keep the place of birth, or its colour.
    if (value.feed === 'layers') {
      return layersOf(value).some((l) => l.by === 'place' || l.at === 'birth');
    }
    if (mapsIn(value).size > 0) return true;
    // Of a map, where it is looked up may be.
    const map = mapOf(value);
    if (map && ((map.by ?? 'surface') === 'surface' || map.source === 'colour')) return true;
    return value.feed === 'place' || (kept && value.feed !== 'spread');
  });
}

/**
 * By swarm, a text of all that its motion depends on: two pieces that agree in it have the same
 * states. Names, looks and the camera have no part in it.
 */
export function motionKeys(piece: Piece, files: StockFiles): Map<string, string> {
  const rest = (id: string): ControlValue => restOf(piece.controls.find((c) => c.id === id)!);
  return motionKeysHeld(underControls(piece, heldBy(piece), rest), files);
}

/** The same of a piece that is as its controls hold it already. */
export function motionKeysHeld(piece: Piece, files: StockFiles): Map<string, string> {
  const media = new Map(piece.swarms.map((s) => [s.id, mediaReached(piece, inEffect(piece, s))]));
  // Once for all swarms: it has all that was played.
  const script = { text: scoreText(piece), switches: switchesMotion(piece) };
  const own = new Map(
    piece.swarms.map((s) => [
      s.id,
      dependencies(piece, inEffect(piece, s), media.get(s.id)!, files, script),
    ]),
  );
  const key = ({ id }: Swarm): string => {
    const others = reached(piece, id, media);
    // In the order of the piece: which of a ring of swarms has no parent depends on it.
    const all = piece.swarms.filter((s) => others.has(s.id)).map((s) => [s.id, own.get(s.id)]);
    return JSON.stringify([id, all]);
  };
  return new Map(piece.swarms.map((s) => [s.id, key(s)]));
}

/** A swarm with all whose particles reach into its motion: those it is born from, or reads in a field or a medium. */
function reached(piece: Piece, id: string, media: ReadonlyMap<string, Part[]>): Set<string> {
  const found = new Set<string>();
  const visit = (next: string): void => {
    const swarm = piece.swarms.find((s) => s.id === next && (s.on || next === id));
    if (!swarm || found.has(next)) return;
    found.add(next);
    const parent = parentOf(inEffect(piece, swarm));
    if (parent !== null) visit(parent);
    for (const force of pushingOn(piece, next)) gatheredBy(piece, force)?.forEach(visit);
    for (const medium of media.get(next)!) giversOf(piece, medium).forEach(visit);
  };
  visit(id);
  return found;
}

/** The media that reach into a swarm's motion. */
function mediaReached(piece: Piece, swarm: Swarm): Part[] {
  return piece.media.length > 0 ? mediaNamed(piece, JSON.stringify(ownParts(piece, swarm))) : [];
}

function ownParts(piece: Piece, swarm: Swarm): unknown[] {
  const felt = (list: PartList) =>
    (piece[list] as Part[])
      .filter((p) => p.on && influenceOf(piece, p.id, swarm.id) !== 0)
      .map(({ id, kind, dials }) => [id, kind, dials, influenceOf(piece, id, swarm.id)]);
  // What it gives to media moves others; see mediumKey.
  const own = Object.entries(swarm.dials).filter(([key]) => !LOOK.has(key) && key !== 'stirs');
  const leaves = leavesInFields(piece, swarm.id) || stirredBy(piece, swarm.id).length > 0;
  return [
    swarm.id,
    swarm.emitter,
    swarm.launch,
    own,
    keptLook(swarm.dials),
    ...swarm.bodies.map((body) => keptLook(body.dials, true)),
    historyRows(swarm),
    wantsWay(swarm),
    piece.density,
    leaves,
    ...listsWhere((s) => s.influence === 'felt').map(felt),
  ];
}

function dependencies(
  piece: Piece,
  swarm: Swarm,
  media: readonly Part[],
  files: StockFiles,
  script: { text: string; switches: boolean },
): unknown[] {
  const { rate, preroll, length } = piece.frame;
  const parts = [...ownParts(piece, swarm), ...media.map((m) => mediumKey(piece, m))];
  const chain = chainOf(piece, signalsIn(parts));
  const heard = new Set(chain.flatMap((s) => sourcesOf(s, 'sounds')));
  const sounds = piece.sounds.filter((s) => heard.has(s.id));
  const seen = new Set(chain.flatMap((s) => sourcesOf(s, 'performers')));
  const signals = [...sounds, ...chain].map(({ id, kind, on, dials }) => [id, kind, on, dials]);
  const read = mapsIn(parts);
  const text = JSON.stringify(parts);
  const pictures = piece.pictures
    .filter(({ id }) => text.includes(`"${id}"`) || read.has(id))
    .map(({ id, kind, on, dials }) => [id, kind, on, dials]);
  const performers = piece.performers
    .filter(({ id }) => text.includes(`"${id}"`) || seen.has(id))
    .map(({ id, kind, on, dials }) => [id, kind, on, dials]);
  const stock = stockIn(piece, [parts, signals, pictures, performers, [...read]], files);
  // Pieces without any have the keys that they had before there were some.
  const moving: unknown[] = [pictures, performers].filter((list) => list.length > 0);
  const names = [...signalsIn(parts), ...signalsIn(chain.map((s) => s.dials))];
  const watched = chain.flatMap((s) => sourcesOf(s, 'signals'));
  const controlled = [...names, ...watched].some((name) => isControl(piece, name));
  if (controlled || isBurst(piece, swarm.id) || script.switches) moving.push(script.text);
  if (piece.frame.loop) moving.push('comes round');
  return [STATES, rate, preroll, length, piece.seed, parts, signals, stock, ...moving];
}

/** Entries of the stock that any dial of these parts names, and whether they are at hand. */
function stockIn(piece: Piece, parts: unknown, files: StockFiles): unknown[] {
  const text = JSON.stringify(parts);
  return piece.stock
    .filter(({ id }) => text.includes(`"${id}"`))
    .map((entry) => [entry.id, entry.source, atHand(entry, files)]);
}
