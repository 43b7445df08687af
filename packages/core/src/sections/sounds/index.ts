import type { SoundKind } from '../kinds';
import { live } from './live';
import { played } from './played';

/** Sounds, in the order of the chooser. */
export const sounds: SoundKind[] = [played, live];
