/** Seconds of four stages, and the part of the height that is sustained. */
export interface Stages {
  attack: number;
  hold: number;
  decay: number;
  sustain: number;
  release: number;
}

/** The shape is drawn so wide and so high. */
export const W = 400;
export const H = 72;
/** The part of the width that what is sustained has, however long it lasts. */
const PLATEAU = 0.14;
const MARGIN = [6, 4] as const;

const lengthOf = ({ attack, hold, decay, release }: Stages): number =>
  attack + hold + decay + release;

/** Seconds that the width shows, beside what is sustained: a round number that leaves room for more. */
export function widthFor(stages: Stages): number {
  return 2 ** Math.max(-3, Math.ceil(Math.log2(Math.max(1e-3, lengthOf(stages) * 1.15))));
}

const scaleOf = (seconds: number): number => (W * (1 - PLATEAU)) / seconds;
const heightOf = (v: number): number => H - MARGIN[1] - v * (H - MARGIN[0] - MARGIN[1]);

export type Corner = readonly [x: number, y: number];

/** Where the four corners stand that can be dragged: ends of attack, hold, decay and release. */
export function cornersOf(stages: Stages, seconds: number): [Corner, Corner, Corner, Corner] {
  const scale = scaleOf(seconds);
  const { attack, hold, decay, sustain, release } = stages;
  const decayed = (attack + hold + decay) * scale;
  return [
    [attack * scale, heightOf(1)],
    [(attack + hold) * scale, heightOf(1)],
    [decayed, heightOf(sustain)],
    [decayed + W * PLATEAU + release * scale, heightOf(0)],
  ];
}

/** The d of the whole shape. */
export function shapeOf(stages: Stages, seconds: number): string {
  const [a, b, c, end] = cornersOf(stages, seconds);
  const corners = [a, b, c].map((p) => p.join(' ')).join('L');
  return `M0 ${String(heightOf(0))}L${corners}H${String(c[0] + W * PLATEAU)}L${end.join(' ')}`;
}

/** Dials of the envelope with a corner at another place. */
export function movedTo(
  corner: number,
  [x, y]: Corner,
  stages: Stages,
  seconds: number,
): Partial<Stages> {
  const time = x / scaleOf(seconds);
  const length = (v: number): number => Math.max(0, Number(v.toPrecision(3)));
  const { attack, hold, decay } = stages;
  switch (corner) {
    case 0:
      return { attack: length(time) };
    case 1:
      return { hold: length(time - attack) };
    case 2: {
      const height = (H - MARGIN[1] - y) / (H - MARGIN[0] - MARGIN[1]);
      const sustain = Number(Math.min(1, Math.max(0, height)).toFixed(3));
      return { decay: length(time - attack - hold), sustain };
    }
    default: {
      const begin = attack + hold + decay + (W * PLATEAU) / scaleOf(seconds);
      return { release: length(time - begin) };
    }
  }
}
