import { paramBlock } from '@vast-swarm/core/plan';
import type { FrameInputs, GivenValues, PlanKernel } from '@vast-swarm/core/kinds';
import { QUADS } from './words';
import { ROW, toWgsl, WORKGROUP } from '@vast-swarm/kernel';

const ALIGN = 256;
const BLOCK = 1 << 18;
/** Bytes of parameters that our own shaders may ask for. */
const LEAST = 16 * QUADS;

export interface Binding {
  buffer: GPUBuffer;
}

interface DrawOptions {
  more?: readonly GPUBindingResource[];
  depth?: GPUTextureView | undefined;
  indirect?: { buffer: GPUBuffer; offset: number };
}

/**
 * One stretch of commands: compute and render passes with their parameters, which are gathered and
 * written in one go before the commands are sent.
 */
export class Work {
  private encoder: GPUCommandEncoder;
  private words = new Int32Array(BLOCK / 4);
  private used = 0;
  private compute: GPUComputePassEncoder | null = null;

  constructor(private readonly pipelines: Pipelines) {
    this.encoder = pipelines.device.createCommandEncoder();
  }

  private params(block: Int32Array | readonly number[], least = 0): GPUBindingResource {
    const { paramsBuffer } = this.pipelines;
    const bytes = Math.max(least, Math.ceil(block.length / 4) * 16);
    // Full: what there is goes on its way, and the block is used again.
    if (this.used + bytes > BLOCK) {
      this.submit();
      this.encoder = this.pipelines.device.createCommandEncoder();
      this.words = new Int32Array(BLOCK / 4);
      this.used = 0;
    }
    const offset = this.used;
    this.words.set(block, offset / 4);
    this.used = Math.ceil((offset + bytes) / ALIGN) * ALIGN;
    return { buffer: paramsBuffer, offset, size: bytes };
  }

  private pass(): GPUComputePassEncoder {
    this.compute ??= this.encoder.beginComputePass();
    return this.compute;
  }

  private endCompute(): void {
    this.compute?.end();
    this.compute = null;
  }

  /** A kernel of the plan over lanes `begin` to `end`. */
  kernel(
    kernel: PlanKernel,
    memory: GPUBuffer,
    begin: number,
    end: number,
    address: (buffer: string) => number,
    inputs: FrameInputs,
    extra: GivenValues = {},
  ): void {
    if (end <= begin) return;
    const block = paramBlock(kernel, address, inputs, extra);
    block[0] = begin;
    block[1] = end;
    const groups = Math.ceil((end - begin) / WORKGROUP);
    const shape: [number, number] = [Math.min(groups, ROW), Math.ceil(groups / ROW)];
    this.dispatch(this.pipelines.kernel(kernel), memory, block, shape);
  }

  /** A shader of our own, with further bindings from 2 on. */
  run(
    shader: string,
    entry: string,
    memory: GPUBuffer,
    words: Int32Array | readonly number[],
    groups: [number, number],
    more: readonly GPUBindingResource[] = [],
  ): void {
    this.dispatch(this.pipelines.compute(shader, entry), memory, words, groups, more, LEAST);
  }

  private dispatch(
    pipeline: GPUComputePipeline,
    memory: GPUBuffer,
    words: Int32Array | readonly number[],
    groups: [number, number],
    more: readonly GPUBindingResource[] = [],
    least = 0,
  ): void {
    const group = this.bind(pipeline, memory, this.params(words, least), more);
    const pass = this.pass();
    pass.setPipeline(pipeline);
    pass.setBindGroup(0, group);
    pass.dispatchWorkgroups(...groups);
  }

  private bind(
    pipeline: GPUComputePipeline | GPURenderPipeline,
    memory: GPUBuffer,
    params: GPUBindingResource,
    more: readonly GPUBindingResource[],
  ): GPUBindGroup {
    const resources = [{ buffer: memory }, params, ...more];
    return this.pipelines.device.createBindGroup({
      layout: pipeline.getBindGroupLayout(0),
      entries: resources.map((resource, binding) => ({ binding, resource })),
    });
  }

  /**
   * Draws `vertices` into a view, over what is there unless `clear`.
   *
   * @param depth the depths that it is tested against and leaves behind
   * @param indirect where the card finds how many vertices and instances there are, instead
   */
  draw(
    pipeline: GPURenderPipeline,
    view: GPUTextureView | null,
    clear: boolean,
    memory: GPUBuffer,
    words: Int32Array | readonly number[],
    vertices: number,
    { more = [], depth, indirect }: DrawOptions = {},
  ): void {
    const group = this.bind(pipeline, memory, this.params(words, LEAST), more);
    this.endCompute();
    const pass = this.encoder.beginRenderPass({
      colorAttachments: view
        ? [{ view, loadOp: clear ? 'clear' : 'load', storeOp: 'store', clearValue: [0, 0, 0, 1] }]
        : [],
      ...(depth
        ? { depthStencilAttachment: { view: depth, depthLoadOp: 'load', depthStoreOp: 'store' } }
        : {}),
    });
    pass.setPipeline(pipeline);
    pass.setBindGroup(0, group);
    if (indirect) pass.drawIndirect(indirect.buffer, indirect.offset);
    else pass.draw(vertices);
    pass.end();
  }

  /** Clears depths to the farthest. */
  clearDepth(view: GPUTextureView): void {
    this.endCompute();
    const attachment = {
      view,
      depthLoadOp: 'clear',
      depthStoreOp: 'store',
      depthClearValue: 0,
    } as const;
    this.encoder
      .beginRenderPass({ colorAttachments: [], depthStencilAttachment: attachment })
      .end();
  }

  /** The means of a view's samples into a view of single ones. */
  resolve(view: GPUTextureView, resolveTarget: GPUTextureView): void {
    this.endCompute();
    const attachment = { view, resolveTarget, loadOp: 'load', storeOp: 'discard' } as const;
    this.encoder.beginRenderPass({ colorAttachments: [attachment] }).end();
  }

  copy(from: GPUBuffer, fromAt: number, to: GPUBuffer, toAt: number, bytes: number): void {
    this.endCompute();
    this.encoder.copyBufferToBuffer(from, fromAt, to, toAt, bytes);
  }

  clear(buffer: GPUBuffer, at = 0, bytes = buffer.size): void {
    this.endCompute();
    this.encoder.clearBuffer(buffer, at, bytes);
  }

  submit(): void {
    this.endCompute();
    const { device, paramsBuffer } = this.pipelines;
    device.queue.writeBuffer(paramsBuffer, 0, this.words, 0, Math.ceil(this.used / 4));
    device.queue.submit([this.encoder.finish()]);
  }
}

interface RenderState {
  blend?: GPUBlendState | undefined;
  depth?: GPUTextureFormat | undefined;
  samples?: number;
  /** Overrides of the shader. */
  constants?: Record<string, number>;
}

/** Pipelines of one device; equal shader texts are compiled once. */
export class Pipelines {
  readonly paramsBuffer: GPUBuffer;
  private readonly computes = new Map<string, GPUComputePipeline>();
  private readonly renders = new Map<string, GPURenderPipeline>();
  private readonly kernels = new WeakMap<PlanKernel, GPUComputePipeline>();
  /** Shader texts by the signatures of their graphs. */
  private readonly texts = new Map<string, string>();

  constructor(readonly device: GPUDevice) {
    const usage = GPUBufferUsage.UNIFORM | GPUBufferUsage.COPY_DST;
    this.paramsBuffer = device.createBuffer({ size: BLOCK, usage });
  }

  kernel(kernel: PlanKernel): GPUComputePipeline {
    let pipeline = this.kernels.get(kernel);
    if (!pipeline) {
      // Turning a dial changes parameters and not the code: then the text is there already.
      const signature = kernel.graph.signature();
      const text = this.texts.get(signature) ?? toWgsl(kernel.graph);
      this.texts.set(signature, text);
      pipeline = this.compute(text, 'main');
      this.kernels.set(kernel, pipeline);
    }
    return pipeline;
  }

  compute(code: string, entryPoint: string): GPUComputePipeline {
    const key = `${entryPoint}\n${code}`;
    let pipeline = this.computes.get(key);
    if (!pipeline) {
      const module = this.device.createShaderModule({ code });
      const stage = { module, entryPoint };
      pipeline = this.device.createComputePipeline({ layout: 'auto', compute: stage });
      this.computes.set(key, pipeline);
    }
    return pipeline;
  }

  /**
   * @param depth format of the depths that it is tested against: nearer ones are greater
   * @param samples of each pixel of what it draws into
   */
  render(
    code: string,
    entryPoint: string,
    format: GPUTextureFormat | null,
    { blend, depth, samples = 1, constants = {} }: RenderState = {},
  ): GPURenderPipeline {
    const key = `${entryPoint} ${String(format)} ${JSON.stringify([blend, depth, samples, constants])}\n${code}`;
    let pipeline = this.renders.get(key);
    if (!pipeline) {
      const module = this.device.createShaderModule({ code });
      pipeline = this.device.createRenderPipeline({
        layout: 'auto',
        vertex: { module, entryPoint: 'corner', constants },
        fragment: { module, entryPoint, constants, targets: format ? [{ format, blend }] : [] },
        primitive: { topology: 'triangle-list' },
        multisample: { count: samples },
        ...(depth
          ? { depthStencil: { format: depth, depthWriteEnabled: true, depthCompare: 'greater' } }
          : {}),
      });
      this.renders.set(key, pipeline);
    }
    return pipeline;
  }
}
