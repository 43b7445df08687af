/** Files and messages beside the piece: particles, motions, pictures, gradients, controls, renders. */

export { bvhOf } from '../formats/bvh';
export {
  type ActMessage,
  actOf,
  type ControlAnswer,
  controlMessage,
  type ControlMessage,
  type Moved,
  NotFollowed,
  type Offer,
  type OutsideAct,
  type RunnerNews,
  runnerSchema,
  type RunnerTold,
  type ShowAct,
  showActOf,
  toldOf,
} from '../formats/controlDoor';
export { documentIn } from '../formats/documentIn';
export { type ExrChannel, exrOf } from '../formats/exr';
export { fileNameOf } from '../formats/fileName';
export { gradientToCpt, gradientToSvg, readGradient } from '../formats/gradients';
export { DOOR, type DoorNews, posesOf, type Present, type SentPose } from '../formats/jointDoor';
export { kindList, withKindList } from '../formats/kindList';
export { motionTable } from '../formats/motionTable';
export { numbered } from '../formats/numbered';
export {
  FASTEST,
  learntActs,
  offerOf,
  optionsOf,
  picturesOf,
  showOffer,
  wholeAct,
} from '../formats/offer';
export { packBy, packed } from '../formats/packing';
export { aliveOf, type ParticlesBySlot, particleTables } from '../formats/particleTable';
export { csvOf, particleFile, plyOf } from '../formats/particles';
export { playedTable, readPlayed, TableError } from '../formats/playedTable';
export {
  byTurn,
  canAct,
  type FarmWorker,
  farmWorkerSchema,
  formatNames,
  frameCount,
  isOpenRender,
  JOB_ACTS,
  type JobAct,
  orderSchema,
  type RenderJob,
  renderJobSchema,
  type RenderOrder,
} from '../formats/renderOrder';
export { usdLayout } from '../formats/usd/layout';
export { UsdExport } from '../formats/usd/scene';
export { wavBytes } from '../formats/wav';
export {
  addStill,
  needsLight,
  stillBytes,
  STILLS,
  type Drawer,
  type StillAsked,
  type StillFormat,
  isStill,
} from '../formats/stills';
export { encodeLight, encodePng, samplesOf } from '../formats/stills/png';
export type { Drawn, Frame, Layers, Light, Still } from '../formats/stills/still';
export {
  CODECS,
  isVideo,
  QUALITIES,
  unfitIn,
  videoOf,
  VIDEOS,
  type CodecName,
  type Quality,
  type VideoFormat,
} from '../formats/videos';
