import type { SignalKind } from '../kinds';
import { formula } from './formula';
import { keyframes } from './keyframes';
import { noise } from './noise';
import { steps } from './steps';
import { wave } from './wave';

/** Numbers that change with time, in the order of the chooser. */
export const signals: SignalKind[] = [wave, noise, steps, keyframes, formula];
