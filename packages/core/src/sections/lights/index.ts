import type { LightKind } from '../kinds';
import { ambient } from './ambient';
import { fill } from './fill';
import { key } from './key';
import { rim } from './rim';

/** Lights, in the order of the chooser. */
export const lights: LightKind[] = [key, fill, rim, ambient];
