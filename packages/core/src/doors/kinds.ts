/** The catalogue: kinds of parts and their dials, how kinds are added from outside, and what their arithmetic is written with. */

export type { DrawMode } from '../catalogue/bodies/common';
export {
  patternArea,
  patternAt,
  PATTERNS,
  PUFF_MEAN,
  shapeFunctions,
} from '../catalogue/bodies/patterns';
export { cueDials } from '../catalogue/cues/cue';
export { body, emitter, force, launch, signal, treatment } from '../catalogue/define';
export { addKind, catalogue, kindOf, type Shelf } from '../catalogue';
export type { Follow, Kind, Strip } from '../catalogue/kinds';
export { keysAt } from '../catalogue/signals/keyframes';
export { birthsIn, longestLife, swarmDials, takesEachPlace } from '../catalogue/swarmDials';
export {
  type ColourDial,
  type Dials,
  type DialSpec,
  type DialValues,
  isWanted,
  type JointsDial,
  number,
  type NumberDial,
  type PartDial,
  type StockDial,
  type StocksDial,
  valuesOf,
  vector,
  type VectorDial,
} from '../language/dials';
export { type FlowOptions, flowSize, flowTrack } from '../language/flowTrack';
export type { CameraPose, FrameInputs, Lamps, PlanKernel } from '../language/frame';
export { KEPT as KEPT_BY_MEDIA, mediumBuffer, type MediumSpace } from '../language/mediumSpace';
export type { GivenValues } from '../language/names';
export { type Chance, CHANCES, STATE } from '../language/particle';
export { PLANES, strideOf } from '../language/planes';
export { type BlockTrack, trackBuffer } from '../language/track';
