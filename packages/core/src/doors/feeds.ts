/**
 * Feeds, the values that fill dials: spreads, shapes over life, gradients, maps, takes, masks and formulas, as data and
 * as schemas.
 */

export { LAYER_MODES } from '../feeds/blend';
export { fromLinear, hexOf, LIGHT, linearRgb, type Rgb, toLinear } from '../feeds/colour';
export {
  type ColourLayer,
  LAYER_READINGS,
  LAYER_SOURCES,
  type LayersFeed,
} from '../feeds/colourLayers';
export {
  type Bursts,
  type ControlValue,
  fadeAt,
  type Move,
  type Moves,
  type Sets,
} from '../feeds/control';
export {
  BONE_RADIUS,
  type BoneRadii,
  type ChannelsFeed,
  type ColourFeed,
  type DialValue,
  type FormulaFeed,
  type FrameFeed,
  isChannels,
  isColourMap,
  isFixed,
  isFormula,
  isGradient,
  isLayers,
  isMap,
  isPlaceColour,
  isSignal,
  isSpread,
  type Key,
  type Keys,
  mapOf,
  type NumberFeed,
  overOf,
  rangeOf,
  type SignalFeed,
  type Strokes,
  type Vector,
  type VectorFeed,
} from '../feeds/feeds';
export { gradientAt, type Stop } from '../feeds/gradient';
export { GRADIENT_SET } from '../feeds/gradientSet';
export { luminanceOf } from '../feeds/luminance';
export {
  type ColourMapFeed,
  MAP_CHANNELS,
  MAP_PLANE,
  type MapChannel,
  type MapFeed,
  type MapPlane,
} from '../feeds/map';
export { type Mask, type MaskShape, MOST_SHAPES } from '../feeds/mask';
export { type Ease, EASES, type Shape, shapeAt } from '../feeds/shape';
export { LiveTake, takeAt, type Take } from '../feeds/take';
export { FormulaError } from '../formula/formulaError';
export {
  formulaMaps,
  formulaSignals,
  withNamedAs as formulaWith,
  FUNCTIONS,
  NAMES,
  parseFormula,
} from '../formula/parse';
