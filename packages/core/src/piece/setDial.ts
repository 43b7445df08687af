import { PieceError } from './document';
import { partsThat } from './influence';
import { validatePiece } from './parse';
import { PART_LISTS, type Part, type Piece } from './types';

/**
 * A piece with one dial set from text, as `plankton.rate=5000`, `plankton.emitter.radius=2`, `bloom.amount=0`,
 * `camera.distance=9`, `frame.rate=60`, `plankton.on=false`, `influence.wind.plankton=0.5`, `seed=7` or `density=2`.
 * Parts go by id or name; the value is JSON, or else a word.
 *
 * @throws PieceError when there is no such part or dial, or the value does not fit
 */
export function setDial(piece: Piece, assignment: string): Piece {
  const split = assignment.indexOf('=');
  const path = assignment.slice(0, split).split('.');
  if (split < 1) return fail(assignment, "is no assignment; write 'part.dial=value'");
  const copy = structuredClone(piece);
  const dial = path.pop()!;
  const value = valueOf(assignment.slice(split + 1));
  if (path[0] === 'influence') setInfluence(copy, path.slice(1), dial, value);
  else {
    const holder = holderOf(copy, path, dial);
    const whose = path.length > 0 ? `'${path.join('.')}'` : 'the piece';
    if (!holder) return fail(assignment, `there is no part ${whose}; ${partNames(copy)}`);
    if (!Object.hasOwn(holder, dial)) {
      const has = Object.keys(holder).join(', ');
      return fail(assignment, `${whose} has no dial '${dial}'; it has ${has}`);
    }
    Object.assign(holder, { [dial]: value });
  }
  try {
    return validatePiece(copy);
  } catch (error) {
    if (error instanceof PieceError) return fail(assignment, error.problems[0]!.message);
    throw error;
  }
}

function fail(assignment: string, message: string): never {
  throw new PieceError([{ where: `--set ${assignment}`, line: 0, message }]);
}

function valueOf(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}

/** Influence is there without being written down: what is wrong with its names is found when the piece is read. */
function setInfluence(piece: Piece, [part, ...more]: string[], on: string, value: unknown): void {
  const by = (list: readonly { id: string; name: string }[], name: string): string =>
    (list.find((p) => p.id === name) ?? list.find((p) => p.name === name))?.id ?? name;
  const felt = by(partsThat(piece, 'felt'), [part, ...more].join('.'));
  const row = piece.influence[felt] ?? {};
  const feels = by(partsThat(piece, 'feels'), on);
  piece.influence[felt] = Object.assign({ ...row }, { [feels]: value });
}

function holderOf(piece: Piece, path: readonly string[], dial: string): object | undefined {
  const [name, section] = path;
  if (name === undefined) {
    // What the piece has for itself, beside its parts.
    const { seed, density } = piece;
    return Object.hasOwn({ seed, density }, dial) ? piece : { seed, density };
  }
  if (name === 'frame' && !section) return piece.frame;
  if ((name === 'camera' || name === 'backdrop') && !section) return piece[name].dials;
  const named = <T extends { id: string; name: string }>(
    parts: readonly T[],
    as = name,
  ): T | undefined => parts.find((p) => p.id === as) ?? parts.find((p) => p.name === as);
  const inside = (part: { dials: object; on: boolean } | undefined): object | undefined =>
    dial === 'on' ? part : part?.dials;
  const swarm = named(piece.swarms);
  if (swarm) {
    if (!section) return inside(swarm);
    if (section === 'emitter' || section === 'launch') return swarm[section].dials;
    return inside(named(swarm.bodies, section));
  }
  return section ? undefined : inside(named(partsOf(piece)));
}

/** Parts other than swarms. */
function partsOf(piece: Piece): Part[] {
  return PART_LISTS.flatMap((list) => piece[list]);
}

function partNames(piece: Piece): string {
  const parts = [...piece.swarms, ...partsOf(piece)].map((p) => p.id);
  return `the parts are ${['frame', 'camera', 'backdrop', ...parts].join(', ')}`;
}
