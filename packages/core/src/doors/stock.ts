/** The stock: types of its things, readers of files, sounds, pictures and motions, and how they travel to workers. */

export { LivePictures } from '../stock/clip/livePictures';
export { movingClip } from '../stock/clip/movingClip';
export { arrived, arrivedFiles, sentFiles, travelling } from '../stock/clip/travel';
export {
  fileNamed,
  stockData,
  type StockEntry,
  type StockFiles,
  withFile,
  wordsKey,
} from '../stock/entry';
export { made, madeTitle, madeType, offerMade } from '../stock/makers';
export { crc32 } from '../stock/crc32';
export { memo } from '../stock/memo';
export { Arrivals } from '../stock/motion/arrivals';
export { castMember, type CastMember, jointNames } from '../stock/motion/cast';
export { LiveMotion } from '../stock/motion/liveMotion';
export { isThere, type Performing, placesAt, posesAt } from '../stock/motion/performing';
export { lengthOf } from '../stock/places/along';
export { simplifierReady } from '../stock/places/coarser';
export { buildField, keepField } from '../stock/places/distanceField';
export { numberAt } from '../stock/played';
export { boundsOf, pointsOf } from '../stock/points';
export type { DecodeFrom } from '../stock/read/clip/inOrder';
export { type Coding, codingOf, type Planes } from '../stock/read/clip/planes';
export { decodeVideoBy, type VideoFile } from '../stock/read/clip/video';
export { tableOfCube } from '../stock/read/cube';
export { StockError } from '../stock/read/error';
export { readStock } from '../stock/read';
export { addReader, stockEndings, type StockReader } from '../stock/read/readers';
export { checkStockSize } from '../stock/read/size';
export { unzip, type Zipped } from '../stock/read/zip';
export { type Heard, heardPeaks, placeIn, startedAt } from '../stock/sound/heard';
export { LiveSound } from '../stock/sound/liveSound';
export { HEARD_AHEAD } from '../stock/sound/loudness';
export { mixOf } from '../stock/sound/mix';
export { type Peaks, peaksOf, secondsOf } from '../stock/sound/peaks';
export { SILENCE, spectrumOf } from '../stock/sound/spectrum';
export { type Tempo, tempoOf } from '../stock/sound/tempo';
export { stretchOf } from '../stock/stretch';
export {
  type Clip,
  type Cloud,
  type FontStock,
  FULL_SCALE,
  type InSpace,
  type Joint,
  type Look,
  type LookupTable,
  type Mesh,
  type Motion,
  type MovingPicture,
  type Outline,
  type Performer,
  type Picture,
  type Sound,
  standsInSpace,
  type StockData,
  type StockType,
} from '../stock/types';
export { wordsOf } from '../stock/words';
export { FONTS, MOST_LETTERS, WORDS_DEFAULTS, type WordsSource } from '../stock/words/source';
export { type LayOut, withWords } from '../stock/words/withWords';
