import type { Graph } from '@vast-swarm/kernel';
import type { Rgb } from '../feeds/colour';
import type { Vector } from '../feeds/feeds';

/** How the lens blurs what is not at its focus. */
export interface Lens {
  /** Width of the opening and distance of what is sharp, in metres. */
  aperture: number;
  focus: number;
  /** Sides of the opening; below 3 it is round. */
  blades: number;
  /** How it is turned, in radians. */
  turn: number;
  /** Width against height. */
  ratio: number;
}

/** Where the camera stands at a time: world frame, right-handed, y up; unit vectors. */
export interface CameraPose {
  eye: Vector;
  right: Vector;
  up: Vector;
  forward: Vector;
  perspective: boolean;
  /**
   * Pixels per metre, for a frame one pixel high: at a distance of one metre in perspective, at any
   * without.
   */
  focal: number;
  /** Metres to what it looks at. */
  distance: number;
  /** Metres within which things fade. */
  near: number;
  lens: Lens;
}

/** A light from far away. */
export interface Lamp {
  /** Unit vector towards it, from the eye: right, up, forward. */
  direction: Vector;
  /** Linear light. */
  colour: Rgb;
  /** Lights only where surfaces turn away. */
  rim: boolean;
}

export interface Lamps {
  ambient: Rgb;
  lamps: Lamp[];
}

/** Values that change from frame to frame, for uniforms. */
export interface FrameInputs {
  /** Frame number; negative in the pre-roll. */
  frame: number;
  /**
   * Seconds. A frame lasts from frame / rate to (frame + 1) / rate: motion and fields take its middle,
   * the picture its end, and each birth the moment at which it happens.
   */
  time: number;
  /** Size of the drawn frame in pixels. */
  width: number;
  height: number;
  /** Particles born before the end of this frame: ids run below it. */
  born: number;
  /** The camera now; only while drawing. */
  camera?: CameraPose;
  /** The camera of the frame before; only where it is measured how things move on the screen. */
  earlier?: CameraPose;
  /** The lights as the camera sees them now; only while drawing. */
  lamps?: Lamps;
  /** Seconds before the state that are drawn, while the shutter is open. */
  before?: number;
}

/** A number that is fixed, or worked out anew for each run. */
export type UniformSource = number | ((frame: FrameInputs) => number);

/** A kernel of the plan: its graph, and where its uniforms come from, by their names. */
export interface PlanKernel {
  readonly graph: Graph;
  readonly uniforms: Readonly<Record<string, UniformSource>>;
}
