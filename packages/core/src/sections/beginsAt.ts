import { number } from '../language/dials';

/** The frame at which something on the timing strip begins. */
export const beginsAt = (help: string) =>
  number('Begins at', 0, [-100_000, 200_000], help, { unit: 'frames', whole: true });
