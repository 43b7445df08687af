import type { Size } from '../library/render';

/** What the hand-written shaders draw into, as the engine's target. */
export const LIGHT = 'rgba16float';

/** The engine's own device, caught when it is asked for, so that both sides work on the same one. */
export function catchDevice(): () => GPUDevice {
  let caught: GPUDevice | null = null;
  const ask: (this: GPUAdapter, about?: GPUDeviceDescriptor) => Promise<GPUDevice> = Reflect.get(
    GPUAdapter.prototype,
    'requestDevice',
  );
  GPUAdapter.prototype.requestDevice = async function (about) {
    caught = await ask.call(this, about);
    return caught;
  };
  return () => caught!;
}

/** A few lines that every program on the card needs: what somebody writes who draws one thing only. */
export class BareDevice {
  constructor(readonly device: GPUDevice) {}

  buffer(content: Float32Array | Uint32Array | number, usage: GPUBufferUsageFlags): GPUBuffer {
    const size = typeof content === 'number' ? content : content.byteLength;
    const made = this.device.createBuffer({ size, usage: usage | GPUBufferUsage.COPY_DST });
    if (typeof content !== 'number') this.write(made, content);
    return made;
  }

  storage(content: Float32Array | Uint32Array | number, more = 0): GPUBuffer {
    return this.buffer(content, GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | more);
  }

  uniform(content: Float32Array | Uint32Array): GPUBuffer {
    return this.buffer(content, GPUBufferUsage.UNIFORM);
  }

  write(buffer: GPUBuffer, content: Float32Array | Uint32Array): void {
    this.device.queue.writeBuffer(buffer, 0, content as Float32Array<ArrayBuffer>);
  }

  compute(code: string, entryPoint: string): GPUComputePipeline {
    const module = this.device.createShaderModule({ code });
    return this.device.createComputePipeline({ layout: 'auto', compute: { module, entryPoint } });
  }

  render(code: string, format: GPUTextureFormat, blend?: GPUBlendState): GPURenderPipeline {
    const module = this.device.createShaderModule({ code });
    return this.device.createRenderPipeline({
      layout: 'auto',
      vertex: { module, entryPoint: 'corner' },
      fragment: { module, entryPoint: 'light', targets: [{ format, ...(blend ? { blend } : {}) }] },
    });
  }

  /** What a pipeline is bound to, by the numbers of its bindings. */
  bind(
    pipeline: GPUComputePipeline | GPURenderPipeline,
    bound: Record<number, GPUBuffer | GPUTextureView>,
  ): GPUBindGroup {
    const entries = Object.entries(bound).map(([binding, one]) => ({
      binding: Number(binding),
      resource: one instanceof GPUBuffer ? { buffer: one } : one,
    }));
    return this.device.createBindGroup({ layout: pipeline.getBindGroupLayout(0), entries });
  }

  /** What begins a draw: the pipeline, and what it is bound to. */
  ready(
    pipeline: GPURenderPipeline,
    bound: Record<number, GPUBuffer>,
  ): (pass: GPURenderPassEncoder) => void {
    const group = this.bind(pipeline, bound);
    return (pass) => {
      pass.setPipeline(pipeline);
      pass.setBindGroup(0, group);
    };
  }

  texture({ width, height }: Size, format: GPUTextureFormat): GPUTexture {
    const { RENDER_ATTACHMENT, TEXTURE_BINDING, COPY_SRC } = GPUTextureUsage;
    const usage = RENDER_ATTACHMENT | TEXTURE_BINDING | COPY_SRC;
    return this.device.createTexture({ size: [width, height], format, usage });
  }

  /** All commands of a frame in one go. */
  submit(commands: (encoder: GPUCommandEncoder) => void): void {
    const encoder = this.device.createCommandEncoder();
    commands(encoder);
    this.device.queue.submit([encoder.finish()]);
  }

  async read(buffer: GPUBuffer): Promise<ArrayBuffer> {
    const { size } = buffer;
    const copy = this.device.createBuffer({
      size,
      usage: GPUBufferUsage.MAP_READ | GPUBufferUsage.COPY_DST,
    });
    this.submit((encoder) => {
      encoder.copyBufferToBuffer(buffer, 0, copy, 0, size);
    });
    await copy.mapAsync(GPUMapMode.READ);
    const content = copy.getMappedRange().slice(0);
    copy.destroy();
    return content;
  }
}
