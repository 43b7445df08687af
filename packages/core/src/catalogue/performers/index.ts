import type { PerformerKind } from '../kinds';
import { played } from './played';

/** Somebody whose joints drive the piece. */
export const performers: PerformerKind[] = [played];
