import type { SignalKind } from '../kinds';
import { byHand } from './byHand';
import { formula } from './formula';
import { keyframes } from './keyframes';
import { noise } from './noise';
import { steps } from './steps';
import { wave } from './wave';

/** Numbers that change with time, in the order of the chooser. */
export const signals: SignalKind[] = [wave, noise, steps, keyframes, formula, byHand];
