/** A piece compiled for engines: kernels, births, drawing, finish, tracks, and what a state hangs on. */

export { type Bake, bakeOffsets } from '../plan/bake';
export { PlanCache } from '../plan/cache';
export { compilePiece, type Sources } from '../plan/compile';
export type { FieldPlan } from '../plan/fields/fieldPlan';
export { type BloomLevel, bloomLevels, blurLevels } from '../plan/finish/bloomLevels';
export { maskBorders } from '../plan/finish/maskCoverage';
export { type Bloom, type FinishPlan, type FinishStep, knowsPast } from '../plan/finish/steps';
export { heardBetween } from '../plan/heardBetween';
export { cameraAt, flatsOf } from '../plan/look/cameraAt';
export { copyCount } from '../plan/look/copies';
export type { Draw } from '../plan/look/draws/draw';
export { FACE_SIZE, FACES, OFF_PIXELS, POINT_PIXELS, putLevels } from '../plan/look/draws/forms';
export {
  DRAW_TABLES,
  isDrawnTogether,
  itemsOf,
  lampNumbers,
  MODES,
  outputsOf,
  rowsOf,
  sortsByMean,
} from '../plan/look/draws/tables';
export { constantName, layout, type Layout, wgslConstants, Words } from '../plan/look/draws/words';
export { READINGS } from '../plan/look/fileReadings';
export { INSTANCE } from '../plan/look/instances';
export { EVEN_LIGHT, MOST_LAMPS } from '../plan/look/lamps';
export { rotationRows } from '../plan/look/rotation';
export { giversOf as mediumGivers } from '../plan/media/givers';
export { GIVEN as GIVEN_TO_MEDIA } from '../plan/media/giving';
export type { MediumPass, MediumPlan } from '../plan/media/mediumPlan';
export { LEFT as LEFT_IN_MEDIA } from '../plan/media/stirring';
export { emitterPlaces } from '../plan/motion/allPlaces';
export { fieldsWanted } from '../plan/motion/distanceFields';
export { placesOf, ringName, ringOf } from '../plan/motion/history';
export { motionKeys } from '../plan/motion/motionKey';
export { type CellSort, GRID_BUFFERS } from '../plan/motion/neighbourGrid';
export { remap } from '../plan/motion/slots';
export { paramBlock } from '../plan/params';
export { FRAME_PASSES, type FramePass } from '../plan/passes';
export {
  blocksAround,
  bornAt,
  type Drawing,
  isDrawn,
  type Notice,
  type PassPlan,
  type Plan,
  secondIn,
  type ShadowPlan,
  type SwarmPlan,
  timeOf,
} from '../plan/plan';
export { Scene } from '../plan/scene';
export { Score } from '../plan/score/score';
export { hasScore } from '../plan/score/scoreText';
export { finderIn, type Looker, type ShownPicture } from '../plan/shownPicture';
export { heardIn, type LiveInput, takeKey } from '../plan/signals';
