import type { LightKind } from '../kinds';
import { ambient } from './ambient';
import { fill } from './fill';
import { key } from './key';
import { rim } from './rim';

/** What lights solid things, in the order of the chooser. */
export const lights: LightKind[] = [key, fill, rim, ambient];
