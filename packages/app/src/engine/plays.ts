import equal from 'fast-deep-equal';
import { LivePlay, type ControlValue, type Ease, type Piece, type Played } from '@vast-swarm/core';

/** A control that is set, or a cue that is fired; when is said by the frame that it comes before. */
export type Play =
  | { control: string; to: ControlValue; over?: number; ease?: Ease; hold?: boolean }
  | { cue: string };

/** Controls that are moved and cues that are fired while the piece is run: recorded before the frame that sees them. */
export class Plays {
  /** Once something was played, it stands in for what the piece has, until that is another. */
  live: LivePlay | null = null;
  /** What came since the last frame: of one control the last counts. */
  private readonly sets = new Map<string, Extract<Play, { control: string }>>();
  private cues: string[] = [];
  /** Controls that are held, with the second of what was recorded of each last. */
  private readonly held = new Map<string, number | null>();

  /** @param told gets all that was played, as soon as nothing is held */
  constructor(private readonly told: (played: Played[]) => void) {}

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
    if (!this.waiting) this.tell();
  }

  /** Records what came, at the second at which a frame begins. */
  write(at: number): void {
    const { live, waiting } = this;
    if (!live || !waiting) return;
    for (const { control, to, over, ease } of this.sets.values()) {
      const last = this.held.get(control);
      // What was recorded before of the time over which it is held is played anew.
      live.clear(control, typeof last === 'number' ? last + 1e-6 : at, at);
      const way = { ...(over ? { over } : {}), ...(ease ? { ease } : {}) };
      live.add({ at, control, to, ...way });
      if (this.held.has(control)) this.held.set(control, at);
    }
    for (const cue of this.cues) live.add({ at, cue });
    this.sets.clear();
    this.cues = [];
    if (this.held.size === 0) this.tell();
  }

  /** The piece has changed: where it was played otherwise that counts again; true where it does. */
  settle(piece: Piece): boolean {
    if (!this.live || this.waiting || this.held.size > 0) return false;
    if (equal(piece.played, this.live.events)) return false;
    this.live = null;
    return true;
  }

  /** The piece has all of it: it counts as it stands there. */
  rest(): void {
    if (!this.waiting && this.held.size === 0) this.live = null;
  }

  private tell(): void {
    if (this.live) this.told([...this.live.events]);
  }
}
