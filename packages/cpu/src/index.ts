export { MemoryFull } from './arena';
export { CpuEngine, type CpuOptions, type Frame, type Light, type StageTimes } from './engine';
export { PoolFailure } from './pool';
export { encodeLight, samplesOf, encodePng } from './png';
