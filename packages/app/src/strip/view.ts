/** The stretch of the piece that the strip shows, in frames. */
export interface View {
  from: number;
  to: number;
}

/** Fewest frames that are seen at once. */
const FEWEST = 8;

export function wholeOf(last: number): View {
  return { from: 0, to: Math.max(1, last) };
}

/** The view within the piece, as wide as it was where there is room. */
function within({ from, to }: View, last: number): View {
  const whole = wholeOf(last);
  const length = Math.min(whole.to, Math.max(Math.min(FEWEST, whole.to), to - from));
  const begin = Math.min(whole.to - length, Math.max(0, from));
  return { from: begin, to: begin + length };
}

/** The view nearer or further, a frame staying where it is. */
export function zoomed({ from, to }: View, factor: number, around: number, last: number): View {
  const length = Math.min(Math.max(1, last), Math.max(FEWEST, (to - from) / factor));
  const part = (around - from) / (to - from);
  return within({ from: around - part * length, to: around + (1 - part) * length }, last);
}

export function panned({ from, to }: View, frames: number, last: number): View {
  return within({ from: from + frames, to: to + frames }, last);
}

/** The view with a frame in it: turned over like a page where it is not. */
export function withFrame(view: View, frame: number, last: number): View {
  const { from, to } = view;
  if (frame >= from && frame <= to) return view;
  return within({ from: frame, to: frame + to - from }, last);
}

/** Distance of ruler marks: the shortest round number of frames that leaves room for a label. */
export function spacing(length: number): number {
  const least = length / 12;
  const size = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  return [1, 2, 5, 10].map((k) => k * size).find((s) => s >= least) ?? size * 10;
}

/** The nearest of some places, where it is no further off than `reach`; else the place itself. */
export function snapped(place: number, places: Iterable<number>, reach: number): number {
  let [best, off] = [place, reach];
  for (const other of places) {
    const away = Math.abs(other - place);
    if (away <= off) [best, off] = [other, away];
  }
  return best;
}
