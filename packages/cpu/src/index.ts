export { MemoryFull } from './arena';
export { CpuEngine, type CpuOptions, type Frame, type Light, type StageTimes } from './engine';
export { crc32 } from './crc32';
export { PoolFailure } from './pool';
export { NO_LAYERS } from './passes';
export { packSnapshot, unpackSnapshot } from './snapshot';
export { checkRoom, planesBytes } from './room';
export { encodeLight, encodePng, pngChunk, samplesOf } from './png';
export {
  needsLight,
  stillBytes,
  STILLS,
  type Drawer,
  type StillAsked,
  type StillFormat,
} from './stills';
