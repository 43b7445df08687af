/** The catalogue: kinds of parts and their dials, how kinds are added from outside, and what their arithmetic is written with. */

export type { DrawMode } from '../sections/swarms/bodies/common';
export {
  patternArea,
  patternAt,
  PATTERNS,
  PUFF_MEAN,
  shapeFunctions,
} from '../sections/swarms/bodies/patterns';
export { cueDials } from '../sections/cues/cue';
// All that a kind from outside is declared with.
export * from '../sections/define';
export * from '../language/dials';
export type * from '../sections/kinds';
export { addKind, addSection, catalogue, kindOf, type Shelf } from '../sections';
export { listsWhere, namedWith, SECTIONS, sectionOf, type RecordedList } from '../sections/lists';
export type { Section } from '../sections/section';
export { keysAt } from '../sections/signals/keyframes';
export { birthsIn, longestLife, swarmDials, takesEachPlace } from '../sections/swarms/swarmDials';
export { type FlowOptions, flowSize, flowTrack } from '../language/flowTrack';
export type { CameraPose, FrameInputs, Lamps, PlanKernel } from '../language/frame';
export { KEPT as KEPT_BY_MEDIA, mediumBuffer, type MediumSpace } from '../language/mediumSpace';
export type { GivenValues } from '../language/names';
export { type Chance, CHANCES, STATE } from '../language/particle';
export { PLANES, strideOf } from '../language/planes';
export { type BlockTrack, trackBuffer } from '../language/track';
