import type { SignalKind } from '../kinds';
import { bands } from './bands';
import { beat } from './beat';
import { byHand } from './byHand';
import { pointer } from './pointer';
import { follow } from './follow';
import { formula } from './formula';
import { joint } from './joint';
import { keyframes } from './keyframes';
import { level } from './level';
import { noise } from './noise';
import { pitch } from './pitch';
import { steps } from './steps';
import { strike } from './strike';
import { tally } from './tally';
import { wave } from './wave';

/** Numbers that change with time, in the order of the chooser. */
export const signals: SignalKind[] = [
  wave,
  noise,
  steps,
  beat,
  keyframes,
  formula,
  byHand,
  pointer,
  level,
  bands,
  pitch,
  strike,
  follow,
  tally,
  joint,
];
