import type { Bursts } from '../../feeds/control';
import type { DialValues } from '../../language/dials';
import { listsWhere } from '../../sections/lists';
import { controlKind } from '../../piece/controls';
import type { Part, Piece } from '../../piece/types';
import { heldBy } from './held';

/** Dials that only the desk is interested in. */
const DESK = ['group', 'unit', 'key', 'held', 'learnt'];

function played(dials: DialValues): DialValues {
  return Object.fromEntries(Object.entries(dials).filter(([key]) => !DESK.includes(key)));
}

/** Whether a piece has anything that changes in the course of being run. */
export function hasScore({ controls, cues }: Piece): boolean {
  return controls.length + cues.length > 0;
}

/**
 * All that a score depends on, as a text: equal texts have equal scores, but for what is played live. Empty where a
 * piece has neither controls nor cues.
 */
export function scoreText(piece: Piece): string {
  if (!hasScore(piece)) return '';
  const { controls, cues, signals, sounds, performers } = piece;
  const parts = (list: readonly Part[]): unknown[] =>
    list.map(({ id, kind, on, dials }) => [id, kind, on, played(dials)]);
  // What a signal that fires a cue is made of.
  const fired = cues.some((c) => c.on && c.dials.signal !== '');
  const heard = fired ? [signals, sounds, performers].map(parts) : [];
  return JSON.stringify([parts(controls), parts(cues), piece.played, heard]);
}

/** Lists that the motion of particles does not depend on. */
const seenOnly = (): readonly string[] => [
  ...listsWhere((s) => s.seenOnly === true),
  'camera',
  'backdrop',
];

/**
 * Whether motion depends on controls that no signal stands for: parts that are switched, whole numbers, choices.
 * Colours, and pictures of bodies, are looks alone.
 */
export function switchesMotion(piece: Piece): boolean {
  return heldBy(piece).some(({ control, move, smooth }) => {
    const looks = ['colour', 'gradient'].includes(controlKind(control).holds);
    const [list = '', , section] = move.place.split('.');
    const seen = seenOnly().includes(list) || (list === 'swarms' && section === 'bodies');
    return !smooth && !looks && !seen;
  });
}

/** Ids of the controls whose numbers a swarm's signals may be. */
export function isControl(piece: Piece, signal: string): boolean {
  const [id] = signal.split('/');
  return piece.controls.some((c) => c.id === id);
}

/** Whether a cue lets particles of a swarm be born. */
export function isBurst(piece: Piece, swarm: string): boolean {
  return piece.cues.some((c) => (c.dials.bursts as Bursts).some((b) => b.swarm === swarm));
}
