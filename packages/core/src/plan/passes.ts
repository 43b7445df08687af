import type { PlanKernel } from '../language/frame';
import type { Drawing } from './plan';

/** What a frame can be given as beside its picture, each on layers of its own. */
export const FRAME_PASSES = ['depth', 'motion', 'swarm', 'alone', 'unfinished'] as const;
export type FramePass = (typeof FRAME_PASSES)[number];

/** What engines draw for passes. */
export interface PassPlan {
  wanted: readonly FramePass[];
  /** All bodies as what is measured of them, see measuredDraws. */
  measured: Drawing;
  /** Swarms by their number in the line-up, from 1: each drawn by itself. */
  alone: ReadonlyMap<number, { name: string; drawing: Drawing }>;
  /** No backdrop, and the same lit evenly. */
  dark: PlanKernel;
  lit: PlanKernel;
}
