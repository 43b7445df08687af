/** Layers of a frame beside its picture. */
export const FRAME_PASSES = ['depth', 'motion', 'swarm', 'alone', 'unfinished'] as const;
export type FramePass = (typeof FRAME_PASSES)[number];
