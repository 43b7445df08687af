import type { LaunchKind } from '../../kinds';
import { allRound } from './allRound';
import { alongNormal } from './alongNormal';
import { byClip } from './byClip';
import { byColour } from './byColour';
import { cone } from './cone';
import { outward } from './outward';
import { tangent } from './tangent';

/** How particles start, in the order of the chooser. */
export const launches: LaunchKind[] = [
  outward,
  cone,
  alongNormal,
  tangent,
  allRound,
  byColour,
  byClip,
];
