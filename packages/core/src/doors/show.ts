/** Shows: entries, their conductor, nights, walls of LED panels. */

export { Conductor, type Pass, type Stage } from '../show/conductor';
export {
  type Done,
  doneIn,
  type NightRow,
  nightTable,
  playedIn,
  readNight,
  readStretch,
} from '../show/night';
export { NightFilm, type NightMoment } from '../show/nightFilm';
export {
  type Entry,
  framesOf,
  makeEntry,
  makeShow,
  parseShow,
  type Show,
  SHOW_FORMAT,
  showText,
  type Starter,
  validateShow,
} from '../show/show';
export {
  addressed,
  makePanel,
  makeWall,
  type Panel,
  parseWall,
  pixelsOf,
  universesOf,
  validateWall,
  type Wall,
  wallText,
} from '../show/wall';
export { levelsOf, WallSampler, wattsOf } from '../show/wallSampler';
