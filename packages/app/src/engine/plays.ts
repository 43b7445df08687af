import equal from 'fast-deep-equal';
import { allPlayed, LivePlay, type Piece, type Played } from '@vast-swarm/core/piece';
import type { ControlValue, Ease } from '@vast-swarm/core/feeds';

/** A control that is set, or a cue that is fired; when is said by the frame that it comes before. */
export type Play =
  | { control: string; to: ControlValue; over?: number; ease?: Ease; hold?: boolean }
  | { cue: string };

/** Controls that are moved and cues that are fired while the piece is run: recorded before the frame that sees them. */
export class Plays {
  /** Once something was played, it stands in for what the piece has, until that is another. */
  live: LivePlay | null = null;
  /** Acts since the last frame: of one control the last counts. */
  private readonly sets = new Map<string, Extract<Play, { control: string }>>();
  private cues: string[] = [];
  /** Controls that are held, with the second of what was recorded of each last. */
  private readonly held = new Map<string, number | null>();
  /** Whether it is run for a show: what is played is none of the piece's then. */
  private running = false;

  /**
   * @param told gets all that was played, as soon as nothing is held
   * @param recorded gets what is played for a show, as it is recorded
   */
  constructor(
    private readonly told: (played: Played[]) => void,
    private readonly recorded: (played: Played[]) => void,
  ) {}

  /** From now on it is run for a show, where so much was played before. */
  run(played: readonly Played[]): void {
    this.running = true;
    this.live = new LivePlay(played);
    this.forget();
  }

  /** Time jumps: beside what the piece has, so much was played. */
  carry({ played }: Piece, carried: readonly Played[]): void {
    this.live?.replace(allPlayed(played, carried));
    // What is held is held from there on.
    for (const control of this.held.keys()) this.held.set(control, null);
  }

  private forget(): void {
    this.sets.clear();
    this.cues = [];
    this.held.clear();
  }

  /** Whether something is on its way into the next frame. */
  get waiting(): boolean {
    return this.sets.size > 0 || this.cues.length > 0;
  }

  /** Plays something; true where the plan has to be made for it. */
  play(piece: Piece, play: Play): boolean {
    if ('cue' in play) this.cues.push(play.cue);
    else {
      this.sets.set(play.control, play);
      if (play.hold && !this.held.has(play.control)) this.held.set(play.control, null);
    }
    if (this.live) return false;
    this.live = new LivePlay(piece.played);
    return true;
  }

  /** A control is held no longer. */
  letGo(control: string): void {
    this.held.delete(control);
    if (!this.waiting && !this.running) this.tell();
  }

  /** Records what came, at the second at which a frame begins. */
  write(at: number): void {
    const { live, waiting, held } = this;
    if (!live || !waiting) return;
    const sets = [...this.sets.values()].map(({ control, to, over, ease }): Played => {
      const last = held.get(control);
      // What was recorded before of the time over which it is held is played anew.
      live.clear(control, typeof last === 'number' ? last + 1e-6 : at, at);
      if (held.has(control)) held.set(control, at);
      return { at, control, to, ...(over ? { over } : {}), ...(ease ? { ease } : {}) };
    });
    const played = [...sets, ...this.cues.map((cue): Played => ({ at, cue }))];
    for (const one of played) live.add(one);
    this.sets.clear();
    this.cues = [];
    if (this.running) this.recorded(played);
    else if (held.size === 0) this.tell();
  }

  /** The piece has changed: where it was played otherwise that counts again; true where it does. */
  settle(piece: Piece): boolean {
    if (!this.live || this.running || this.waiting || this.held.size > 0) return false;
    if (equal(piece.played, this.live.events)) return false;
    this.live = null;
    return true;
  }

  /** The piece has all of it: it counts as it stands there. */
  rest(): void {
    if (!this.waiting && !this.running && this.held.size === 0) this.live = null;
  }

  private tell(): void {
    if (this.live) this.told([...this.live.events]);
  }
}
