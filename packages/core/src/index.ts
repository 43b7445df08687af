export { catalogue, kindOf, type Shelf } from './catalogue';
export * from './catalogue/dials';
export type * from './catalogue/kinds';
export { swarmDials } from './catalogue/swarmDials';
export * from './feeds/colour';
export * from './feeds/feeds';
export * from './feeds/colourLayers';
export { GRADIENT_SET } from './feeds/gradientSet';
export * from './formats/gradients';
export { gradientAt, stopsSchema, type Stop } from './feeds/gradient';
export { EASES, eased, shapeAt, type Ease, type Shape } from './feeds/shape';
export * from './formula/parse';
export * from './piece/create';
export { inEffect, ownSection } from './piece/follow';
export { dialsOf, signalsIn } from './piece/walk';
export { keysAt } from './catalogue/signals/keyframes';
export * from './stock/stock';
export { MADE, made, type Made } from './stock/made';
export { outlineOfPath, PathError } from './stock/outlinePath';
export { pointAlong, lengthOf } from './stock/along';
export { tableOfCube } from './stock/read/cube';
export { readStock, STOCK_FILES, StockError } from './stock/read';
export type { Fit } from './stock/fit';
export { buildField, keepField, type Field } from './stock/field';
export { fieldsWanted } from './plan/fields';
export { particlesOf, type Particles } from './play/particles';
export { census, project, type Census } from './play/census';
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
export { cameraAt, flatsOf, type CameraPose, type Lens } from './plan/cameraAt';
export * from './plan/compile';
export * from './plan/plan';
export type { FrameInputs, PlanKernel, UniformSource } from './plan/kernelBuilder';
export { PLANES, strideOf } from './plan/finish/planes';
export { knowsPast, type Bloom, type FinishPlan, type FinishStep } from './plan/finish/steps';
export { MOST_SHAPES, type Mask, type MaskShape } from './feeds/mask';
export { areaDistance, maskBorders } from './plan/finish/mask';
export { LAYER_MODES, type LayerMode } from './feeds/blend';
export { READINGS } from './plan/readings';
export * from './plan/draws/draw';
export { placesOf, ringName, ringOf } from './plan/history';
export type { ShadowPlan } from './plan/shadows';
export { EVEN_LIGHT, type Lamps } from './plan/lamps';
export { PATTERNS, patternAt, patternArea, PUFF_MEAN } from './catalogue/bodies/patterns';
export { influenceOf } from './plan/influence';
export { motionKeys, parentOf } from './plan/motionKey';
export { GRID_BUFFERS, type GridPlan } from './plan/neighbours';
export { STATE } from './plan/state';
export { Scene } from './plan/scene';
export { rotationRows } from './plan/rotation';
export { bloomLevels, blurLevels, type BloomLevel } from './plan/finish/bloomLevels';
export { paramBlock } from './plan/params';
export { remap, slotRanges } from './plan/slots';
export type { Engine, Snapshot } from './play/engine';
export { bakeOffsets, type Bake } from './play/bake';
export { drawBodies, type BodyDevice } from './play/bodies';
export { drawInputs, momentsOf, sceneInputs, type SceneInputs } from './play/moments';
export { jumpTo, replayTo, stepMotion, storedAt, type MotionDevice } from './play/motion';
export { Past } from './play/past';
export { Playback } from './play/playback';
export { DEMO_SHOW, type DemoPiece } from './demo/saltglassQuay';
export { particleTable, type ParticleTable } from './formats/particleTable';
export { toCsv, toPly } from './formats/particles';
export { setDial } from './piece/setDial';
