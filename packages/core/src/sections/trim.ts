import { choice, number } from '../language/dials';

const seconds = { varies: 'never', unit: 's', group: 'Trim' } as const;

/** Which stretch of a clip or a motion is played, and what comes then. */
export const trimDials = {
  from: number('From', 0, [0, 36_000], 'What is left out at its beginning.', seconds),
  to: number('To', 0, [0, 36_000], 'Where it ends; 0 is its own end.', seconds),
  ends: choice(
    'At its end',
    'loop',
    { loop: 'Begins again', bounce: 'Goes back', hold: 'Stands still' },
    'What it does when it is over.',
    { group: 'Trim' },
  ),
};
