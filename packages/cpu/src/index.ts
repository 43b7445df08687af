export { MemoryFull } from './arena';
export { CpuEngine, type CpuOptions, type StageTimes } from './engine';
export { PoolFailure } from './pool';
export { NO_LAYERS } from './passes';
export { packSnapshot, unpackSnapshot } from './snapshot';
export { checkRoom, planesBytes } from './room';
