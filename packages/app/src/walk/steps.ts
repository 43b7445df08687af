import type { Piece } from '@vast-swarm/core/piece';

/** Facts by which the walk knows whether a step is done. */
export interface Walked {
  piece: Piece;
  /** The piece as it was when the step began. */
  before: Piece;
  /** Whether something was undone since then. */
  undone: boolean;
}

export interface Step {
  /** The task, and its place. */
  text: string;
  /** Whether it has been; the last one is done by going where it leads. */
  done: (walked: Walked) => boolean;
}

const dialsOfSwarms = (piece: Piece): string =>
  JSON.stringify(piece.swarms.map(({ dials, emitter, launch }) => [dials, emitter, launch]));

/** The way through a first piece. */
export const STEPS: readonly Step[] = [
  {
    text: 'Make something be born: choose Sphere in the picture, or the + beside Swarms.',
    done: ({ piece }) => piece.swarms.length > 0,
  },
  {
    text: 'Move it: add Curl noise with the + beside Forces.',
    done: ({ piece }) => piece.forces.length > 0,
  },
  {
    text: 'Shape it: select the swarm in the line-up and turn a dial of its sheet; drag its number sideways.',
    done: ({ piece, before }) =>
      piece.swarms.length > 0 && dialsOfSwarms(piece) !== dialsOfSwarms(before),
  },
  {
    text: 'Look round: drag the picture to orbit, and roll the wheel to move in.',
    done: ({ piece, before }) => JSON.stringify(piece.camera) !== JSON.stringify(before.camera),
  },
  {
    text: 'Take it back: press Ctrl+Z. All that you do can be undone.',
    done: ({ undone }) => undone,
  },
  {
    text: 'Take it out: press Render, above on the right, for a video or for frames.',
    done: () => false,
  },
];

const KEY = 'vast-swarm.walk';
const OVER = 'over';

/** The step that is to be done next; null where the walk is over, or nobody is on it. */
export function storedStep(): number | null {
  const text = localStorage.getItem(KEY);
  const step = text === null || text === OVER ? NaN : Number(text);
  return Number.isInteger(step) && step >= 0 && step < STEPS.length ? step : null;
}

/** Whether nobody has walked in this browser, nor said that they do not want to. */
export function isNewcomer(): boolean {
  return localStorage.getItem(KEY) === null;
}

export function storeStep(step: number | null): void {
  localStorage.setItem(KEY, step === null || step >= STEPS.length ? OVER : String(step));
}
