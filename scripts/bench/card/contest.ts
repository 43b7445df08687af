import type { Plan } from '@vast-swarm/core/plan';
import type { GpuEngine } from '@vast-swarm/gpu';
import type { BareDevice } from './bareDevice';

/** The same work by our engine and by hand-written shaders, on one device. */
export interface Contest {
  name: string;
  plan: Plan;
  /** Readies both from the engine's state after `after` steps. */
  ready: (engine: GpuEngine, bare: BareDevice) => Promise<Sides>;
  after: number;
}

/** One run of each: over when the device is done, and with its promise. */
export interface Sides {
  ours: () => unknown;
  byHand: () => unknown;
  /** Throws where the two have not done the same, after a run of each. */
  agree: () => Promise<void>;
}
