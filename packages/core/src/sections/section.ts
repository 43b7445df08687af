/**
 * The description of a section: a section is a sort of part that a piece has a list of, as its forces or its signals.
 * All that goes over the lists of a piece (schema, references, copy and paste, variations, influence, what motion hangs
 * on) asks the section, and none by its name.
 */
export interface Section {
  /** The key of its list in a piece, and of its shelf of kinds. */
  list: string;
  /** The word for one of its parts in messages, as 'force'. */
  one: string;
  /** Parts that a piece has at the most. */
  most: number;
  /** Where its list stands in the file: with the camera, with what moves, or behind the influence grid. */
  place: 'scene' | 'world' | 'end';
  /** Name spaces of its parts: within one the ids of all sections differ. */
  names?: readonly NameSpace[];
  /** Dials of other parts name its parts; with `last`, a new part names the last one there is. */
  dialled?: true | 'last';
  /** The side of the influence grid on which its parts stand; none where it is not in the grid. */
  influence?: 'felt' | 'feels';
  /** Its kinds are forces: what feels its parts is pushed by them, and cells that they keep are worked out by the frame. */
  pushes?: true;
  /** Its parts are called by their names from outside, and are never taken elsewhere. */
  called?: true;
  /** Its parts are what a piece is seen with: taken elsewhere, they go along with any other part. */
  scenery?: true;
  /** The motion of particles hangs on none of its parts. */
  seenOnly?: true;
  /** Its parts can be live input, which is recorded as a take. */
  records?: true;
  /** Which dials of its parts variations turn: how things look, how they move, or the finish. None if nothing is said. */
  varies?: 'look' | 'motion' | 'finish';
}

/** Name spaces of ids: acting on swarms, feeling forces, shown as pictures, numbers that change. */
export const NAME_SPACES = ['acting', 'feeling', 'shown', 'numbers'] as const;
export type NameSpace = (typeof NAME_SPACES)[number];
