import './noEval';
export { goesOn, hearLongWork, type WorkHeard } from './longWork';
export { addKind, catalogue, kindOf, type Shelf } from './catalogue';
export * from './catalogue/define';
export * from './language/dials';
export { CHANCES, type Chance } from './language/particle';
export type * from './catalogue/kinds';
export { birthsIn, longestLife, swarmDials, takesEachPlace } from './catalogue/swarmDials';
export { simplifierReady } from './stock/places/coarser';
export { FACE_SIZE, FACES, OFF_PIXELS, POINT_PIXELS, putLevels } from './plan/look/draws/forms';
export { emitterPlaces } from './plan/motion/allPlaces';
export * from './feeds/colour';
export { flowSize, flowTrack, type FlowOptions } from './language/flowTrack';
export { luminanceOf } from './feeds/luminance';
export * from './feeds/feeds';
export {
  MAP_CHANNELS,
  MAP_PLANE,
  type ColourMapFeed,
  type MapChannel,
  type MapFeed,
  type MapPlane,
} from './feeds/map';
export * from './feeds/colourLayers';
export { KEPT as KEPT_BY_MEDIA, mediumBuffer, type MediumSpace } from './language/mediumSpace';
export { GIVEN as GIVEN_TO_MEDIA } from './plan/media/giving';
export { LEFT as LEFT_IN_MEDIA } from './plan/media/stirring';
export type { MediumPass, MediumPlan } from './plan/media/mediumPlan';
export { GRADIENT_SET } from './feeds/gradientSet';
export { bvhOf } from './formats/bvh';
export { exrOf, type ExrChannel, type ExrPicture } from './formats/exr';
export { usdLayout, type UsdScene } from './formats/usd/layout';
export { UsdExport } from './formats/usd/scene';
export { numbered } from './formats/numbered';
export { packBy, packed } from './formats/packing';
export { exactRate, rateAsFraction } from './piece/rate';
export * from './formats/controlDoor';
export * from './formats/gradients';
export * from './formats/offer';
export * from './formats/playedTable';
export * from './formats/jointDoor';
export { motionTable } from './formats/motionTable';
export * from './show/night';
export { NightFilm, type NightMoment } from './show/nightFilm';
export * from './show/show';
export * from './show/wall';
export * from './show/wallSampler';
export { Conductor, type Frames, type Pass, type Stage } from './show/conductor';
export { gradientAt, stopsSchema, type Stop } from './feeds/gradient';
export { LiveTake, takeAt, type Take } from './feeds/take';
export { EASES, eased, shapeAt, type Ease, type Shape } from './feeds/shape';
export * from './formula/parse';
export * from './piece/begin';
export * from './piece/controls';
export * from './piece/create';
export * from './piece/places';
export type { PartRef } from './piece/travel/closure';
export { pasted } from './piece/travel/paste';
export { gathered, parseParts, PARTS_FORMAT, partsText, type Parts } from './piece/travel/parts';
export { allPlayed, LivePlay, PLAYED, type Played } from './piece/played';
export * from './feeds/control';
export { Score, type Deeds } from './plan/score/score';
export { hasScore, scoreText } from './plan/score/scoreText';
export { cueDials } from './catalogue/cues/cue';
export { inquiryOf } from './piece/inquiry';
export { planeZone } from './piece/planeZone';
export { inEffect, ownSection } from './piece/follow';
export { dialsOf, mapsIn, signalsIn, type DialPlace } from './piece/walk';
export {
  crossed,
  NINE,
  variationOf,
  VARIED,
  type Turning,
  type Varied,
} from './piece/variation/variation';
export { keysAt } from './catalogue/signals/keyframes';
export * from './stock/types';
export { heardPeaks, placeIn, startedAt, type Heard } from './stock/sound/heard';
export { Arrivals } from './stock/motion/arrivals';
export { castMember, jointNames, type CastMember } from './stock/motion/cast';
export { LiveMotion } from './stock/motion/liveMotion';
export { isThere, placesAt, posesAt, type Performing } from './stock/motion/performing';
export { stretchOf } from './stock/stretch';
export { LivePictures } from './stock/clip/livePictures';
export { LiveSound } from './stock/sound/liveSound';
export { HEARD_AHEAD } from './stock/sound/loudness';
export { mixOf } from './stock/sound/mix';
export { SILENCE, spectrumOf } from './stock/sound/spectrum';
export { tempoOf, type Tempo } from './stock/sound/tempo';
export { wavBytes } from './formats/wav';
export { peaksOf, secondsOf, type Peaks } from './stock/sound/peaks';
export { arrived, arrivedFiles, sentFiles, travelling } from './stock/clip/travel';
export { codingOf, type Coding } from './stock/read/clip/planes';
export type { DecodeFrom } from './stock/read/clip/inOrder';
export { decodeVideoBy, type VideoFile } from './stock/read/clip/video';
export type { Planes } from './stock/read/clip/planes';
export { numberAt, secondAt } from './stock/played';
export { movingClip, type Playing } from './stock/clip/movingClip';
export {
  fileNamed,
  stockData,
  stockEntrySchema,
  withFile,
  wordsKey,
  type StockEntry,
  type StockFiles,
} from './stock/entry';
export {
  FONTS,
  MOST_LETTERS,
  WORDS_DEFAULTS,
  wordsOf,
  type ShippedFont,
  type WordsSource,
} from './stock/words';
export { withWords, type LayOut } from './stock/words/withWords';
export { boundsOf, pointsOf } from './stock/points';
export { memo, serialOf } from './stock/memo';
export { made, madeNames, madeTitle, madeType, offerMade } from './stock/makers';
export { MADE } from './demo/content';
export { outlineOfPath, PathError } from './stock/outlinePath';
export { pointAlong, lengthOf } from './stock/places/along';
export { tableOfCube } from './stock/read/cube';
export { checkStockSize, readStock, STOCK_FILES, StockError } from './stock/read';
export type { Fit } from './stock/fit';
export { buildField, keepField, type Field } from './stock/places/distanceField';
export { fieldsWanted } from './plan/motion/distanceFields';
export { particlesOf, type Particles } from './play/particles';
export { mediumCensus, type MediumCensus } from './play/mediumCensus';
export { giversOf as mediumGivers } from './plan/media/givers';
export { census, project, type Census } from './play/census';
export {
  checkSize,
  describe as describeProblem,
  MAX_BYTES,
  PieceError,
  type Problem,
} from './piece/document';
export { parsePiece, pieceText, validatePiece } from './piece/parse';
export * from './piece/types';
export { pieceJsonSchema, pieceSchema } from './piece/schema';
export { documentIn } from './formats/documentIn';
export { unzip, type Zipped } from './stock/read/zip';
export { copyCount } from './plan/look/copies';
export { BirthSchedule, mostAlive, type BirthEvent } from './plan/motion/births';
export { PlanCache } from './plan/cache';
export { cameraAt, flatsOf } from './plan/look/cameraAt';
export * from './plan/compile';
export { fileNameOf } from './formats/fileName';
export * from './formats/renderOrder';
export * from './plan/passes';
export * from './plan/plan';
export type {
  CameraPose,
  FrameInputs,
  Lamps,
  Lens,
  PlanKernel,
  UniformSource,
} from './language/frame';
export { PLANES, strideOf } from './language/planes';
export { knowsPast, type Bloom, type FinishPlan, type FinishStep } from './plan/finish/steps';
export { MOST_SHAPES, type Mask, type MaskShape } from './feeds/mask';
export { areaDistance, maskBorders } from './plan/finish/maskCoverage';
export { LAYER_MODES, type LayerMode } from './feeds/blend';
export { READINGS } from './plan/look/fileReadings';
export { INSTANCE } from './plan/look/instances';
export * from './plan/look/draws/draw';
export * from './plan/look/draws/tables';
export * from './plan/look/draws/words';
export { placesOf, ringName, ringOf } from './plan/motion/history';
export { EVEN_LIGHT, MOST_LAMPS } from './plan/look/lamps';
export {
  PATTERNS,
  patternAt,
  patternArea,
  PUFF_MEAN,
  shapeFunctions,
} from './catalogue/bodies/patterns';
export type { FieldPlan } from './plan/fields/fieldPlan';
export { influenceOf } from './piece/influence';
export { motionKeys, parentOf } from './plan/motion/motionKey';
export { GRID_BUFFERS, type CellSort } from './plan/motion/neighbourGrid';
export { STATE } from './language/particle';
export { Scene } from './plan/scene';
export { finderIn, type Looker, type ShownPicture } from './plan/shownPicture';
export { heardBetween } from './plan/heardBetween';
export { heardIn, takeKey, type LiveInput } from './plan/signals';
export { formulaMaps, formulaSignals, withNamedAs as formulaWith } from './formula/parse';
export {
  chainOf,
  fedBy,
  loopThrough,
  namesOf,
  signalId,
  signalNames,
  sourcesOf,
} from './piece/chains';
export { rotationRows } from './plan/look/rotation';
export { bloomLevels, blurLevels, type BloomLevel } from './plan/finish/bloomLevels';
export { paramBlock } from './plan/params';
export type { GivenValues } from './language/names';
export type { StateName } from './language/particle';
export { remap, slotRanges } from './plan/motion/slots';
export type { Engine, LiveEngine, Snapshot } from './play/engine';
export { bakeOffsets, type Bake } from './plan/bake';
export { drawBodies, type BodyDevice } from './play/bodies';
export { drawInputs, momentsOf, sceneInputs, type SceneInputs } from './play/moments';
export { isStored, jumpTo, replayTo, stepMotion, storedAt, type MotionDevice } from './play/motion';
export { Past } from './play/knownHistory';
export { Playback } from './play/playback';
export { kindPiece } from './demo/kinds';
export { RECIPES, type ShippedRecipe } from './demo/recipes';
export { DEMO_SHOW, type DemoPiece } from './demo/saltglassQuay';
export {
  aliveOf,
  particleTable,
  particleTables,
  type ParticlesBySlot,
  type ParticleTable,
} from './formats/particleTable';
export { csvOf, particleFile, plyOf, toCsv, toPly } from './formats/particles';
export { setDial } from './piece/setDial';
export { kindList, withKindList } from './formats/kindList';
export { trackBuffer, type BlockTrack } from './language/track';
export { TrackNotReady, TrackReader } from './play/trackReader';
