export { MemoryFull } from './arena';
export { CpuEngine, type CpuOptions, type Frame, type StageTimes } from './engine';
export { PoolFailure } from './pool';
export { encodePng } from './png';
