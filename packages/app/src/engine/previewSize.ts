import { LINES, type PreviewChoice } from './messages';

/** Frames that are looked at before the preview is changed, and how many pass before the first of them. */
const TRIAL = 30;
const WARMING = 45;
/** Where frames are slow, these milliseconds of them do, and so many frames at the least. */
const LONG_ENOUGH = 1000;
const FEWEST = 8;
/** Lines to begin with. */
const START = 540;
/** A frame may take this many times its time before the preview gets smaller. */
const LATE = 1.35;

/** How many lines the preview has: what was chosen, or what there is room and time for. */
export class PreviewSize {
  lines = START;
  /** Whether what frames cost is known. */
  private learnt = false;
  private choice: PreviewChoice = 'auto';
  private room = 540;
  /** Frames still to pass before frames count: compilers take a while to do their best. */
  private warming = WARMING;
  private warmed = 0;
  private spent: { motion: number; pixels: number }[] = [];

  get auto(): boolean {
    return this.choice === 'auto';
  }

  /** The most lines that the picture's place on the screen has room for. */
  get most(): number {
    return LINES.find((l) => l <= this.room * 1.15) ?? LINES.at(-1)!;
  }

  /** @param room lines of the picture's place on the screen */
  choose(choice: PreviewChoice, room: number): void {
    this.choice = choice;
    this.room = room;
    const wanted = this.learnt ? this.lines : START;
    this.lines = choice === 'auto' ? Math.min(wanted, this.most) : choice;
    this.spent = [];
  }

  /**
   * Learns what a frame cost, in milliseconds: every second or so the most lines that fit into a
   * frame's time are taken, by what motion costs (whatever the lines) and what the pixels cost. Down
   * when frames are clearly late, up only when all would fit.
   */
  learn(spent: number, motion: number, budget: number): void {
    if (!this.auto) return;
    this.warmed += spent;
    if (this.warming > 0 && this.warmed < LONG_ENOUGH) {
      this.warming -= 1;
      return;
    }
    this.warming = 0;
    this.spent.push({ motion, pixels: spent - motion });
    const { length } = this.spent;
    const passed = this.spent.reduce((sum, s) => sum + s.motion + s.pixels, 0);
    if (length < FEWEST || (length < TRIAL && passed < LONG_ENOUGH)) return;
    // The middle frame: a hiccup of the machine is no reason to change.
    const middle = (get: (s: { motion: number; pixels: number }) => number): number =>
      this.spent.map(get).sort((a, b) => a - b)[length >> 1]!;
    const [fixed, perFrame] = [middle((s) => s.motion), middle((s) => s.pixels)];
    this.spent = [];
    this.learnt = true;
    // Part of drawing goes by particles and not by pixels.
    const cost = (lines: number): number =>
      fixed + perFrame * (0.4 + 0.6 * (lines / this.lines) ** 2);
    const late = cost(this.lines) > budget * LATE;
    const fits = LINES.filter((l) => l <= this.most && (late ? l < this.lines : l > this.lines));
    const best = fits.find((l) => cost(l) <= budget) ?? (late ? fits.at(-1) : undefined);
    if (best) this.lines = best;
  }
}
