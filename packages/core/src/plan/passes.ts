/** What a frame can be given as beside its picture, each on layers of its own. */
export const FRAME_PASSES = ['depth', 'motion', 'swarm', 'alone', 'unfinished'] as const;
export type FramePass = (typeof FRAME_PASSES)[number];
