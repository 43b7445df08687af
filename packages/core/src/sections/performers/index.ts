import type { PerformerKind } from '../kinds';
import { live } from './live';
import { played } from './played';

/** Somebody whose joints drive the piece. */
export const performers: PerformerKind[] = [played, live];
