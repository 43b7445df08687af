export { catalogue, kindOf, type Shelf } from './catalogue';
export * from './catalogue/dials';
export type * from './catalogue/kinds';
export { swarmDials } from './catalogue/swarmDials';
export * from './feeds/colour';
export * from './feeds/feeds';
export { gradientAt, type Stop } from './feeds/gradient';
export { EASES, eased, shapeAt, type Ease, type Shape } from './feeds/shape';
export * from './piece/create';
export {
  checkSize,
  describe as describeProblem,
  MAX_BYTES,
  parsePiece,
  PieceError,
  pieceText,
  validatePiece,
  type Problem,
} from './piece/parse';
export * from './piece/schema';
export { BirthSchedule, mostAlive, type BirthEvent } from './plan/births';
export { PlanCache } from './plan/cache';
export { cameraAt, type CameraPose } from './plan/cameraAt';
export * from './plan/compile';
export type { FrameInputs, PlanKernel, UniformSource } from './plan/kernelBuilder';
export { PLANES, strideOf, type FinishStep } from './plan/pixelKernels';
export { DRAWN, influenceOf, READINGS, STATE } from './plan/swarmKernels';
export { bloomLevels, type BloomLevel } from './plan/bloomLevels';
export { paramBlock } from './plan/params';
export { remap, slotRanges } from './plan/slots';
export type { Engine, Snapshot } from './play/engine';
export { Playback } from './play/playback';
export { DEMO_SHOW, type DemoPiece } from './demo/saltglassQuay';
export { particleTable, type ParticleTable } from './formats/particleTable';
export { toCsv, toPly } from './formats/particles';
export { setDial } from './piece/setDial';
