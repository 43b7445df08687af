import { fadeAt } from '../feeds/control';
import type { Frames } from './conductor';
import type { NightRow } from './night';
import { framesOf, type Show } from './show';

/** An entry as it is seen at a moment of a night. */
export interface Seen {
  stretch: number;
  entry: string;
  frame: number;
  /** How much of it is seen over what is below it, 0 to 1. */
  part: number;
}

/** A night as it is seen at a moment: from below, how bright all of it is, and whether it is dark. */
export interface NightMoment {
  seen: Seen[];
  brightness: number;
  blackout: boolean;
}

/** A stretch of a night on its way: where it began, in seconds of the night and frames of its piece. */
interface Span {
  stretch: number;
  entry: string;
  begun: number;
  /** Frames: where it begins, the one behind its last, in how many it comes in, and how many there are a second. */
  from: number;
  until: number;
  fade: number;
  rate: number;
  /** The span before, as long as this one comes in over it. */
  over: Span | null;
}

/** From a second of the night on time goes so fast; 0 stands still. */
interface Pace {
  at: number;
  speed: number;
}

/** Against rounding where a frame begins just then. */
const TINY = 1e-6;

/** The last one that has begun at a second, of those that are in order; sounds ask for it sample by sample. */
function latest<T>(list: readonly T[], begun: (one: T) => number, second: number): T | undefined {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (begun(list[middle]!) <= second + TINY) low = middle + 1;
    else high = middle;
  }
  return list[low - 1];
}

/** A night that is over, as what was to be seen at any moment of it; by what was written down, and nothing else. */
export class NightFilm {
  readonly spans: Span[] = [];
  private readonly paces: Pace[];
  private readonly bright: { at: number; over: number; from: number; to: number }[] = [];
  private readonly dark: { at: number; to: boolean }[] = [];

  /** @param framesOfPiece null where there is no such piece */
  constructor(
    private readonly show: Pick<Show, 'entries' | 'brightness' | 'speed'>,
    rows: readonly NightRow[],
    framesOfPiece: (piece: string) => Frames | null,
  ) {
    this.paces = [{ at: 0, speed: show.speed }];
    let [speed, held] = [show.speed, false];
    for (const { time, stretch, act } of [...rows].sort((a, b) => a.time - b.time)) {
      if (!('all' in act)) continue;
      if (act.all === 'go') this.go(time, stretch + 1, act.entry, framesOfPiece);
      else if (act.all === 'jump') this.jump(time, stretch + 1, act.to);
      else if (act.all === 'brightness') {
        const { to, over = 0 } = act;
        this.bright.push({ at: time, over, from: this.brightnessAt(time), to });
      } else if (act.all === 'blackout') this.dark.push({ at: time, to: act.to });
      else {
        if (act.all === 'speed') speed = act.to;
        else held = act.to;
        this.paces.push({ at: time, speed: held ? 0 : speed });
      }
    }
  }

  private go(
    at: number,
    stretch: number,
    id: string,
    framesOfPiece: (piece: string) => Frames | null,
  ) {
    const entry = this.show.entries.find((e) => e.id === id);
    const frames = entry && framesOfPiece(entry.piece);
    if (!frames) return;
    const { rate } = frames;
    const { from, until } = framesOf(entry, frames);
    const fade = Math.max(0, Math.round(entry.fade * rate));
    const over = fade > 0 ? (this.spans.at(-1) ?? null) : null;
    this.spans.push({ stretch, entry: id, begun: at, from, until, fade, rate, over });
  }

  private jump(at: number, stretch: number, frame: number): void {
    const before = this.spans.at(-1);
    if (!before) return;
    const from = Math.min(before.until - 1, Math.max(0, frame));
    this.spans.push({ ...before, stretch, begun: at, from, fade: 0, over: null });
  }

  /** The second of the night at which it begins to be seen, and the one at which the last of it has been. */
  get seconds(): [begin: number, end: number] {
    const last = this.spans.at(-1);
    if (!last) return [0, 0];
    const pace = this.paces.at(-1)!;
    const since = Math.max(last.begun, pace.at);
    const left = last.until - last.from - this.gone(last, since);
    // Where time stands still at the end, that is the end.
    const end = pace.speed > 0 ? since + Math.max(0, left) / (last.rate * pace.speed) : since;
    return [this.spans[0]!.begun, end];
  }

  /** Frames that a span has gone on at a second of the night, as a number between them. */
  private gone({ begun, rate }: Span, second: number): number {
    let sum = 0;
    this.paces.forEach(({ at, speed }, i) => {
      const [from, to] = [Math.max(begun, at), Math.min(second, this.paces[i + 1]?.at ?? Infinity)];
      if (to > from) sum += (to - from) * speed * rate;
    });
    return sum;
  }

  private frameOf(span: Span, second: number): number {
    return Math.min(span.until - 1, span.from + Math.floor(this.gone(span, second) + TINY));
  }

  /** How much of a span is seen over what was there before it: it comes in by its frames. */
  private partOf(span: Span, second: number): number {
    // What nothing was before is there at once.
    if (!span.over) return 1;
    return Math.min(1, (this.frameOf(span, second) - span.from + 1) / span.fade);
  }

  private brightnessAt(second: number): number {
    const last = latest(this.bright, (b) => b.at, second);
    return last ? Number(fadeAt({ ...last, ease: 'smooth' }, second)) : this.show.brightness;
  }

  at(second: number): NightMoment {
    const span = latest(this.spans, (s) => s.begun, second);
    const part = span ? this.partOf(span, second) : 0;
    const below = span?.over && part < 1 ? [{ span: span.over, part: 1 }] : [];
    const all = span ? [...below, { span, part }] : [];
    return {
      seen: all.map(({ span: one, part: seen }) => {
        const { stretch, entry } = one;
        return { stretch, entry, frame: this.frameOf(one, second), part: seen };
      }),
      brightness: this.brightnessAt(second),
      blackout: latest(this.dark, (d) => d.at, second)?.to ?? false,
    };
  }

  /** How loud a stretch is at a second of the night: as it is seen, and silent where time goes otherwise than it does. */
  loudness(stretch: number, second: number): number {
    const { speed } = latest(this.paces, (p) => p.at, second)!;
    const span = latest(this.spans, (s) => s.begun, second);
    if (speed !== 1 || !span) return 0;
    if (span.stretch === stretch) return this.partOf(span, second);
    return span.over?.stretch === stretch ? 1 - this.partOf(span, second) : 0;
  }
}
