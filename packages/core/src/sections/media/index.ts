import type { MediumKind } from '../kinds';
import { fluid } from './fluid';

/** Fluids that swarms stir and ride. */
export const media: MediumKind[] = [fluid];
