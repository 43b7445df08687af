import type { SoundKind } from '../kinds';
import { live } from './live';
import { played } from './played';

/** What is heard, in the order of the chooser. */
export const sounds: SoundKind[] = [played, live];
