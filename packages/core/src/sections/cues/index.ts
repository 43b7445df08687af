import type { CueKind } from '../kinds';
import { cue } from './cue';

/** Changes that are fired while a piece runs. */
export const cues: CueKind[] = [cue];
