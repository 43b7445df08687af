/** The piece as a document: schema, reading and writing, references, controls, edits, variations, parts that travel. */

export {
  begunWhole,
  fadesIn,
  firstSwarm,
  livingForEver,
  lookOfPlaces,
  swarmFrom,
} from '../piece/begin';
export { chainOf, fedBy, namesOf, signalId, signalNames, sourcesOf } from '../piece/chains';
export {
  calledName,
  controlKind,
  cueBehind,
  freeName,
  heldPlace,
  holderOf,
  movesOf,
  nameProblem,
  restOf,
  tidyControls,
} from '../piece/controls';
export {
  freshIdIn,
  freshName,
  isCalled,
  makeChoice,
  makePart,
  makePiece,
  makeSwarm,
  newPart,
} from '../piece/create';
export { checkSize, describe as describeProblem, PieceError } from '../piece/document';
export { inEffect, ownSection } from '../piece/follow';
export { influenceOf, partsThat } from '../piece/influence';
export { inquiryOf } from '../piece/inquiry';
export { parsePiece, pieceText, validatePiece } from '../piece/parse';
export { addressOf, canHold, kindFor, NoPlace, type Place, placeNamed } from '../piece/places';
export { planeZone } from '../piece/planeZone';
export { allPlayed, LivePlay, type Played, PLAYED } from '../piece/played';
export { exactRate, rateAsFraction } from '../piece/rate';
export { pieceJsonSchema } from '../piece/schema';
export { setDial } from '../piece/setDial';
export type { PartRef } from '../piece/travel/closure';
export { gathered, parseParts, type Parts, PARTS_FORMAT, partsText } from '../piece/travel/parts';
export { pasted } from '../piece/travel/paste';
export {
  type Choice,
  type Copies,
  FORMAT,
  type Part,
  PART_LISTS,
  type PartList,
  type Piece,
  type Swarm,
} from '../piece/types';
export {
  crossed,
  NINE,
  type Turning,
  variationOf,
  type Varied,
  VARIED,
} from '../piece/variation/variation';
export { type DialPlace, dialsOf, mapsIn, partsIn, signalsIn } from '../piece/walk';
