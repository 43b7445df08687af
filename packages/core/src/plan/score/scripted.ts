import type { Follow } from '../../sections/kinds';
import { NEARLY } from '../../feeds/control';
import type { Piece } from '../../piece/types';
import { remembers } from '../finish/remembers';
import { secondIn, type Plan } from '../plan';
import { heldBy, underControls, withStart } from './held';
import type { Score } from './score';
import { scoreText, switchesMotion } from './scoreText';

/** Plans that are kept: to and fro between two, as a switch goes, makes none anew. */
const KEPT = 6;

type Signals = ReadonlyMap<string, Follow>;

/** A compile of a piece as controls hold it; signals that are known already are taken over. */
type Compile = (piece: Piece, known: Signals | undefined) => { plan: Plan; signals: Signals };

/**
 * The plans of a piece with controls, by frame. What signals can move is moved by them, in one plan; for what they
 * cannot, as parts that are switched, colours, pictures, sounds that a cue starts, there is another plan while it is
 * something else. A frame has the plan of the end of its time.
 */
export class Scripted {
  private readonly kept = new Map<string, Plan>();
  private readonly held: ReturnType<typeof heldBy>;
  /** Controls that hold what no signal can move. */
  private readonly stepping: readonly string[];
  private readonly motionKey: string;
  private readonly remembers: boolean;
  /** The piece that signals were made of, and the signals. */
  private made: { piece: Piece; signals: Signals };
  private readonly piece: Piece;
  /** The motion key of the first plan. */
  private first: string | null = null;

  constructor(
    whole: { piece: Piece; signals: Signals },
    private readonly score: Score,
    private readonly compile: Compile,
  ) {
    const { piece } = whole;
    this.piece = piece;
    this.made = whole;
    this.held = heldBy(piece);
    this.stepping = [...new Set(this.held.filter((h) => !h.smooth).map((h) => h.control.id))];
    // A treatment that remembers may be switched on.
    const switched = new Set(this.held.map(({ move }) => move.place));
    this.remembers = piece.finish.some(
      (part) => remembers(part) && (part.on || switched.has(`finish.${part.id}.on`)),
    );
    const text = scoreText(piece);
    const sounding = piece.cues.some((c) => c.on && c.dials.sound);
    this.motionKey = switchesMotion(piece) || sounding ? text : '';
  }

  /** The plan of a frame: the same object while it is the same. */
  at = (frame: number): Plan => {
    const { rate } = this.piece.frame;
    const time = secondIn(this.piece.frame, frame, 1);
    const now = new Map(this.stepping.map((id) => [id, this.score.at(id, time)]));
    const { sounds } = this.score.until(time);
    const begun = sounds.filter((s) => s.at < time - NEARLY);
    const started = new Map(begun.map((s) => [s.sound, s.at]));
    const key = JSON.stringify([[...now], [...started]]);
    const known = this.kept.get(key);
    if (known) return known;
    let piece = underControls(this.piece, this.held, (id) => now.get(id));
    for (const [sound, at] of started) piece = withStart(piece, sound, Math.round(at * rate));
    return this.keep(key, this.planOf(piece));
  };

  private planOf(piece: Piece): Plan {
    const before = this.made;
    const same =
      before.piece.signals === piece.signals &&
      before.piece.sounds === piece.sounds &&
      before.piece.performers === piece.performers;
    const { plan, signals } = this.compile(piece, same ? before.signals : undefined);
    if (!same) this.made = { piece, signals };
    return {
      ...plan,
      at: this.at,
      anew: this.anew,
      finish: { ...plan.finish, remembers: this.remembers },
      // All plans of the piece are of one motion.
      motionKey:
        this.motionKey === '' ? plan.motionKey : `${this.motionKey}\n${this.firstKey(plan)}`,
    };
  }

  private firstKey({ motionKey }: Plan): string {
    this.first ??= motionKey;
    return this.first;
  }

  /** Whether the finish forgets at a frame what it has. */
  private anew = (frame: number): boolean => {
    const { frame: settings } = this.piece;
    const [from, until] = [secondIn(settings, frame, 0), secondIn(settings, frame, 1)];
    const { resets } = this.score.until(until);
    return resets.some((at) => at >= from - NEARLY && at < until - NEARLY);
  };

  private keep(key: string, plan: Plan): Plan {
    this.kept.set(key, plan);
    const [oldest] = this.kept.keys();
    if (this.kept.size > KEPT) this.kept.delete(oldest!);
    return plan;
  }
}
