export { GpuLost } from './device';
export { GpuEngine } from './engine';
