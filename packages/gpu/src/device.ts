import { simplifierReady } from '@vast-swarm/core/stock';

/** The device was lost, by the machine or by a driver; the state has to be made again. */
export class GpuLost extends Error {
  override readonly name = 'GpuLost';
}

export interface OpenOptions {
  /** Take an adapter that only emulates a graphics card; the CPU engine is faster then. */
  allowSoftware: boolean;
}

/** A device of the best adapter with its largest buffers, or in words why there is none. */
export async function openDevice({ allowSoftware }: OpenOptions): Promise<GPUDevice | string> {
  await simplifierReady;
  if (!('gpu' in navigator)) return 'this browser has no WebGPU';
  const adapter = await navigator.gpu.requestAdapter({ powerPreference: 'high-performance' });
  if (!adapter) return 'WebGPU finds no adapter';
  const { info, limits } = adapter;
  const software =
    info.isFallbackAdapter ||
    /swiftshader|llvmpipe|basic render/i.test(
      `${info.architecture} ${info.device} ${info.description}`,
    );
  if (software && !allowSoftware) return 'the adapter is emulated in software';
  const { maxBufferSize, maxStorageBufferBindingSize } = limits;
  try {
    return await adapter.requestDevice({
      requiredLimits: { maxBufferSize, maxStorageBufferBindingSize },
    });
  } catch (error) {
    return `WebGPU gives no device (${error instanceof Error ? error.message : String(error)})`;
  }
}
