import { PieceError } from './document';
import { validatePiece } from './parse';
import { PART_LISTS, type Part, type Piece } from './types';

/**
 * A piece with one dial set from text, as `plankton.rate=5000`, `plankton.emitter.radius=2`,
 * `bloom.amount=0`, `camera.distance=9` or `frame.rate=60`. Parts go by id or name; the value is
 * JSON, or else a word.
 *
 * @throws PieceError when there is no such part or dial, or the value does not fit
 */
export function setDial(piece: Piece, assignment: string): Piece {
  const split = assignment.indexOf('=');
  const path = assignment.slice(0, split).split('.');
  if (split < 1 || path.length < 2) {
    return fail(assignment, "is no assignment; write 'part.dial=value'");
  }
  const copy = structuredClone(piece);
  const dial = path.pop()!;
  const holder = holderOf(copy, path);
  if (!holder) return fail(assignment, `there is no part '${path.join('.')}'; ${partNames(copy)}`);
  if (!(dial in holder)) {
    return fail(
      assignment,
      `'${path.join('.')}' has no dial '${dial}'; it has ${Object.keys(holder).join(', ')}`,
    );
  }
  Object.assign(holder, { [dial]: valueOf(assignment.slice(split + 1)) });
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

function holderOf(piece: Piece, path: readonly string[]): object | undefined {
  const [name, section] = path;
  if (name === 'frame' && !section) return piece.frame;
  if ((name === 'camera' || name === 'backdrop') && !section) return piece[name].dials;
  const named = <T extends { id: string; name: string }>(
    parts: readonly T[],
    as = name,
  ): T | undefined => parts.find((p) => p.id === as) ?? parts.find((p) => p.name === as);
  const swarm = named(piece.swarms);
  if (swarm) {
    if (!section) return swarm.dials;
    if (section === 'emitter' || section === 'launch') return swarm[section].dials;
    return named(swarm.bodies, section)?.dials;
  }
  return section ? undefined : named(partsOf(piece))?.dials;
}

/** Parts other than swarms. */
function partsOf(piece: Piece): Part[] {
  return PART_LISTS.flatMap((list) => piece[list]);
}

function partNames(piece: Piece): string {
  const parts = [...piece.swarms, ...partsOf(piece)].map((p) => p.id);
  return `the parts are ${['frame', 'camera', 'backdrop', ...parts].join(', ')}`;
}
