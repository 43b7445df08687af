import type { FramePass } from '@vast-swarm/core/plan';
import type { Drawer, Frame } from '@vast-swarm/core/formats';
import { whenInterrupted } from '../interrupted';

/** Where finished frames go. */
export interface Delivery {
  /** Whether a frame is there already, as of a render before. */
  has: (frame: number) => boolean;
  /** Takes the frame that an engine has drawn last. */
  add: (engine: Drawer, drawn: Frame) => Promise<void>;
  /** All frames have been given; what they make is whole now. */
  finish: () => Promise<void>;
  /** Nothing half-written stays. */
  cancel: () => Promise<void>;
}

/** Gives frames to a delivery; what they make is whole behind it, or nothing half-written stays, interrupted too. */
export async function deliver(delivery: Delivery, give: () => Promise<void>): Promise<void> {
  const stop = whenInterrupted(delivery.cancel);
  try {
    await give();
    await delivery.finish();
  } catch (error) {
    await delivery.cancel();
    throw error;
  } finally {
    stop();
  }
}

/** How frames are made, and of what. */
export interface Making {
  width: number;
  height: number;
  oversample: number;
  /** Without a backdrop, and with what bodies cover. */
  alpha: boolean;
  /** Layers beside the picture. */
  passes: readonly FramePass[];
}
