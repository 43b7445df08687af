import { kindOf } from '../sections';
import type { Follow, LiveClock, SignalContext } from '../sections/kinds';
import { LiveTake } from '../feeds/take';
import { startedAt, type Heard } from '../stock/sound/heard';
import type { LivePictures } from '../stock/clip/livePictures';
import type { LiveMotion } from '../stock/motion/liveMotion';
import { LiveSound } from '../stock/sound/liveSound';
import type { StockData } from '../stock/types';
import { eased } from '../feeds/shape';
import { signalId } from '../piece/chains';
import { controlKind, movesOf } from '../piece/controls';
import type { LivePlay } from '../piece/played';
import { movingSignal, partOfRange } from './score/held';
import type { Deeds, Score } from './score/score';
import type { Part, Piece } from '../piece/types';

/** A recording in progress: of a signal that is moved by hand, or of a sound, pictures or joints that come in. */
export type LiveInput = LiveTake | LiveSound | LivePictures | LiveMotion | LivePlay;

/** Inputs of signals beside the piece. */
interface Found {
  stock: (id: string) => StockData | undefined;
  performer?: SignalContext['performer'];
  /** The course of controls, which signals can be made from. */
  score?: Pick<Score, 'at'> | null;
}

const NOTHING: Follow = () => 0;

/** The dial of a signal that holds what was recorded, where it has one. */
export function takeKey({ kind }: Part): string | undefined {
  const dials = Object.entries(kindOf('signals', kind).dials);
  return dials.find(([, spec]) => spec.type === 'take')?.[0];
}

/** A sound of a piece as it is heard, whether it is switched on or not; null where nothing is. */
export function heardIn(
  { sounds, frame: { rate } }: Piece,
  id: string,
  stock: (id: string) => StockData | undefined,
  input?: LiveInput,
): Heard | null {
  const part = sounds.find((s) => s.id === id);
  const live = input instanceof LiveSound ? input : undefined;
  return part ? kindOf('sounds', part.kind).heard(part.dials, { rate, stock, live }) : null;
}

/**
 * All that is heard of a piece: its sounds that are on and have something to let be heard, and those that cues start.
 *
 * @param started by cues, in order of time
 */
export function allHeard(
  piece: Piece,
  stock: (id: string) => StockData | undefined,
  started: Deeds['sounds'],
): Heard[] {
  return piece.sounds.flatMap(({ id, on }) => {
    const seconds = started.filter((s) => s.sound === id).map((s) => s.at);
    const heard = on || seconds.length > 0 ? heardIn(piece, id, stock) : null;
    return heard ? startedAt(heard, seconds, on) : [];
  });
}

/** Recordings in progress as a clock of their changes. */
export function clockOf(live: ReadonlyMap<string, LiveInput>): LiveClock {
  const all = [...live.values()];
  const changes = (): number => all.reduce((sum, { changes: n }) => sum + n, 0);
  return {
    changes,
    changedFrom(seen) {
      // Each has changed at most so often as all together.
      const more = changes() - seen;
      return Math.min(...all.map((one) => one.changedFrom(Math.max(0, one.changes - more))));
    },
  };
}

/**
 * The signals of a piece as functions of the time in seconds, by id; one of several parts has `id.1`, `id.2` and so
 * on, and is its first by its id alone. Each is made when one that needs it comes, so that they may stand in any
 * order; what would need itself is 0 there (a piece with such a loop is refused when it is read).
 */
export function signalsOf(
  piece: Piece,
  live: ReadonlyMap<string, LiveInput>,
  { stock, performer = () => undefined, score = null }: Found,
): Map<string, Follow> {
  const { rate, preroll } = piece.frame;
  const found = new Map<string, Follow>();
  const sounds = new Map<string, Heard | null>();
  const common = {
    rate,
    seed: piece.seed,
    start: -preroll / rate,
    live: clockOf(live),
    performer,
    signal: (id: string): Follow => (id ? signal(id) : NOTHING),
    heard(id: string): Heard | null {
      if (!piece.sounds.find((s) => s.id === id)?.on) return null;
      if (!sounds.has(id)) sounds.set(id, heardIn(piece, id, stock, live.get(id)));
      return sounds.get(id)!;
    },
  };
  const make = (part: Part): void => {
    const { id, kind, on } = part;
    found.set(id, NOTHING);
    const [key, take] = [takeKey(part), live.get(id)];
    const dials = key && take instanceof LiveTake ? { ...part.dials, [key]: take } : part.dials;
    const context: SignalContext = { ...common, id };
    const all = kindOf('signals', kind).follow(dials, context);
    // Switched off, a signal rests at 0.
    const parts = [all].flat().map((follow) => (on ? follow : NOTHING));
    found.set(id, parts[0]!);
    if (Array.isArray(all))
      parts.forEach((follow, i) => found.set(`${id}.${String(i + 1)}`, follow));
  };
  const signal = (id: string): Follow => {
    const part = piece.signals.find((s) => s.id === signalId(id));
    if (part && !found.has(part.id)) make(part);
    return found.get(id) ?? NOTHING;
  };
  for (const [id, follow] of score ? controlSignals(piece, score) : []) found.set(id, follow);
  for (const { id } of piece.signals) signal(id);
  return found;
}

/** Controls as signals: their own number under their id, and what moves dials under names that no file has. */
function* controlSignals(piece: Piece, score: Pick<Score, 'at'>): Generator<[string, Follow]> {
  for (const control of piece.controls) {
    const { id } = control;
    const own: Follow = (time) => Number(score.at(id, time) ?? 0);
    const { holds } = controlKind(control);
    if (holds === 'switch') yield [id, own];
    if (holds !== 'number') continue;
    yield [id, own];
    for (const move of movesOf(control)) {
      yield [
        movingSignal(id, move),
        (time) => eased(move.ease ?? 'straight', partOfRange(control, own(time))),
      ];
    }
  }
}
