import {
  blocksAround,
  bornAt,
  READINGS,
  remap,
  ringName,
  secondIn,
  type FieldPlan,
  type MediumPlan,
  type Plan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import {
  drawInputs,
  isStored,
  jumpTo,
  particlesOf,
  Past,
  replayTo,
  stepMotion,
  TrackReader,
  type Engine,
  type MotionDevice,
  type Particles,
  type Snapshot,
} from '@vast-swarm/core/play';
import { mediumBuffer, STATE, type BlockTrack, type FrameInputs } from '@vast-swarm/core/kinds';
import { GpuLost, openDevice, type OpenOptions } from './device';
import { Finish } from './finish';
import { FieldMemory } from './fieldMemory';
import { FrameMemory } from './frameMemory';
import { countAlive, readBack } from './readback';
import { MediumMemory, type Reader } from './mediumMemory';
import { PLANES_TO_TARGET } from './shaders';
import { Stage } from './stage';
import { SwarmMemory } from './swarmMemory';
import { Pipelines, Work } from './work';

class GpuSnapshot implements Snapshot {
  readonly bytes: number;
  /** The memory of the finish stays with that of the frame. */
  readonly remembers = false;

  constructor(
    readonly frame: number,
    readonly states: ReadonlyMap<string, GPUBuffer>,
    readonly fields: ReadonlyMap<string, GPUBuffer>,
  ) {
    this.bytes = this.buffers.reduce((sum, b) => sum + b.size, 0);
  }

  private get buffers(): GPUBuffer[] {
    return [...this.states.values(), ...this.fields.values()];
  }

  release(): void {
    for (const buffer of this.buffers) buffer.destroy();
  }
}

/** Runs plans on the graphics card: the same kernels in WGSL, discs into a 16-bit float target. */
export class GpuEngine implements Engine {
  frame = -1;
  /** Particles alive by swarm; a frame or two late. */
  alive: Readonly<Record<string, number>> = {};
  readonly times: Record<string, number> = { frame: 0 };
  private pipelines: Pipelines;
  private plan: Plan | null = null;
  private swarms = new Map<string, SwarmMemory>();
  private fields = new Map<string, FieldMemory>();
  private media = new Map<string, MediumMemory>();
  private stage: Stage;
  private readonly finish = new Finish();
  private readonly past = new Past();
  private readonly tracks = new TrackReader();
  private target: FrameMemory | null = null;
  private canvas: GPUCanvasContext | null = null;
  private lost = false;
  private counting = false;

  private constructor(
    private device: GPUDevice,
    private readonly options: OpenOptions,
  ) {
    this.pipelines = new Pipelines(device);
    this.stage = new Stage(this.pipelines, this.memoryOf);
    this.watch();
  }

  private readonly memoryOf = (id: string): SwarmMemory => this.swarms.get(id)!;

  /** An engine, or in words why there can be none. */
  static async open(options: OpenOptions): Promise<GpuEngine | string> {
    const device = await openDevice(options);
    return typeof device === 'string' ? device : new GpuEngine(device, options);
  }

  private watch(): void {
    const { device } = this;
    void device.lost.then(() => {
      if (device === this.device) this.lost = true;
    });
  }

  attach(canvas: OffscreenCanvas): void {
    this.canvas = canvas.getContext('webgpu')!;
    this.configure();
  }

  private configure(): void {
    const format = navigator.gpu.getPreferredCanvasFormat();
    this.canvas?.configure({ device: this.device, format, alphaMode: 'opaque' });
  }

  /** A new device after a loss; the state has to be made again. */
  async recover(): Promise<void> {
    const device = await openDevice(this.options);
    if (typeof device === 'string') throw new GpuLost(`The graphics card is gone: ${device}.`);
    this.device = device;
    this.lost = false;
    this.counting = false;
    this.pipelines = new Pipelines(device);
    this.swarms = new Map();
    this.fields = new Map();
    this.media = new Map();
    this.stage = new Stage(this.pipelines, this.memoryOf);
    this.target = null;
    this.watch();
    this.configure();
    const { plan } = this;
    if (plan) {
      this.frame = -plan.frame.preroll - 1;
      this.setPlan(plan);
    }
  }

  /** As if the device had been lost; for tests of what happens then. */
  loseDevice(): void {
    this.device.destroy();
  }

  get memoryBytes(): number {
    const parts = [...this.swarms.values(), ...this.fields.values(), ...this.media.values()];
    return (
      parts.reduce((sum, { buffer }) => sum + buffer.size, 0) + (this.target?.buffer.size ?? 0)
    );
  }

  private check(): void {
    if (this.lost) throw new GpuLost('The graphics card was lost.');
  }

  setPlan(plan: Plan): void {
    const first = this.plan === null;
    this.take(plan.at(this.frame));
    if (first) this.reset();
  }

  /** Takes the plan of a frame, where it is another one. */
  private turnTo(frame: number): void {
    const plan = this.plan!.at(frame);
    if (plan !== this.plan) this.take(plan);
  }

  private take(plan: Plan): void {
    this.plan = plan;
    this.tracks.frames = plan.frame;
    const work = new Work(this.pipelines);
    const before = this.swarms;
    this.swarms = new Map(plan.swarms.map((s) => [s.id, this.prepare(s, before.get(s.id), work)]));
    work.submit();
    for (const [id, memory] of before) if (this.swarms.get(id) !== memory) memory.buffer.destroy();
    this.prepareFields(plan);
    this.prepareMedia(plan);
    for (const swarm of plan.swarms) this.memoryOf(swarm.id).write(swarm);
  }

  /** Fields of the same cells go on as they are; others begin empty. */
  private prepareFields({ fields }: Plan): void {
    const before = this.fields;
    const memory = (field: FieldPlan): FieldMemory => {
      const old = before.get(field.id);
      return old?.takes(field) ? old : new FieldMemory(this.device, field);
    };
    this.fields = new Map(fields.map((field) => [field.id, memory(field)]));
    for (const [id, old] of before) if (this.fields.get(id) !== old) old.buffer.destroy();
  }

  private prepareMedia({ media }: Plan): void {
    const before = this.media;
    const memory = (medium: MediumPlan): MediumMemory => {
      const old = before.get(medium.id);
      return old?.takes(medium) ? old : new MediumMemory(this.device, medium);
    };
    this.media = new Map(media.map((medium) => [medium.id, memory(medium)]));
    for (const [id, old] of before) if (this.media.get(id) !== old) old.buffer.destroy();
  }

  /** Brings planes of fields and media to where they are read. */
  private lend(work: Work, to: Reader, names: Iterable<string>): void {
    const wanted = [...names];
    if (wanted.length === 0) return;
    for (const field of this.fields.values()) field.lend(work, to, wanted);
    this.lendMedia(work, to, wanted);
  }

  /** The same of media alone: what draws reads no fields. */
  private lendMedia(work: Work, to: Reader, names: Iterable<string>): void {
    for (const medium of this.media.values()) if (medium !== to) medium.lend(work, to, names);
  }

  /** Keeps a swarm's memory, or moves its state to a new one of the right size. */
  private prepare(swarm: SwarmPlan, old: SwarmMemory | undefined, work: Work): SwarmMemory {
    const { swarms, fields } = this.plan!;
    const parentCapacity = swarms.find((s) => s.id === swarm.parent)?.capacity ?? 0;
    const around = { parentCapacity, fields };
    if (old?.fits(swarm, around)) return old;
    const fresh = new SwarmMemory(this.device, swarm, around);
    const { rows } = swarm.history;
    // What is not there yet cannot be drawn as if it were.
    if (rows > 0 && !old?.state.includes(ringName(rows - 1, 'px'))) this.past.begin(swarm.id);
    if (!old) return fresh;
    const born = this.bornAt(swarm, this.frame);
    for (const name of swarm.state.filter((n) => old.state.includes(n))) {
      for (const { from, to, count } of remap(born, old.capacity, swarm.capacity)) {
        const at = 4 * (old.address(name) + from);
        work.copy(old.buffer, at, fresh.buffer, 4 * (fresh.address(name) + to), 4 * count);
      }
    }
    return fresh;
  }

  private bornAt(swarm: SwarmPlan, frame: number): number {
    return bornAt(swarm, frame);
  }

  reset(): void {
    this.frame = -this.plan!.frame.preroll - 1;
    this.turnTo(this.frame);
    this.past.complete();
    this.finish.forget();
    const work = new Work(this.pipelines);
    for (const { buffer } of [...this.fields.values(), ...this.media.values()]) {
      work.clear(buffer);
    }
    for (const memory of this.swarms.values()) {
      work.clear(memory.buffer);
      memory.forget();
    }
    work.submit();
    for (const medium of this.media.values()) medium.begin();
    for (const swarm of this.plan!.swarms) this.memoryOf(swarm.id).write(swarm);
  }

  ready(): Promise<void> {
    return this.tracks.readyAround(blocksAround(this.plan!, this.frame), this.frame);
  }

  step(): void {
    this.check();
    this.turnTo(this.frame + 1);
    const work = new Work(this.pipelines);
    stepMotion(this.plan!, this.frame + 1, this.past, this.motion(work));
    work.submit();
    this.frame += 1;
  }

  private motion(work: Work): MotionDevice {
    const { memoryOf } = this;
    return {
      run: (swarm, kernel, begin, end, inputs, extra) => {
        const { buffer, address } = memoryOf(swarm.id);
        work.kernel(kernel, buffer, begin, end, address, inputs, extra);
      },
      takeTrack: (swarm, buffer, track, frame) => {
        memoryOf(swarm.id).takeTrack(buffer, this.tracks.take(track, frame));
      },
      readyParent: (swarm) => {
        memoryOf(swarm.id).copyParent(work, memoryOf(swarm.parent!));
      },
      readyFields: (swarm) => {
        this.lend(work, memoryOf(swarm.id), swarm.fields.keys());
      },
      gather: ({ id }, swarm, kernel, inputs) => {
        this.fields.get(id)!.gather(work, memoryOf(swarm.id), kernel, inputs);
      },
      stepField: ({ id }, inputs) => {
        this.fields.get(id)!.step(work, inputs);
      },
      takeMediumTrack: ({ id }, buffer, track, frame) => {
        this.media.get(id)!.takeTrack(buffer, this.tracks.take(track, frame));
      },
      leave: ({ id }, swarm, slots, fresh, inputs) => {
        this.media.get(id)!.leave(work, swarm, memoryOf(swarm.id), slots, fresh, inputs);
      },
      leaveNothing: ({ id }) => {
        this.media.get(id)!.leaveNothing(work);
      },
      isNew: ({ id }) => {
        const memory = this.media.get(id)!;
        this.lend(work, memory, memory.reads);
        return memory.isNew();
      },
      runPass: ({ id }, pass, inputs) => {
        this.media.get(id)!.run(work, pass, inputs);
      },
      sortCells: (...about) => {
        this.stage.sortCells(work, ...about);
      },
      remember: (swarm, frame) => {
        memoryOf(swarm.id).remember(work, swarm, frame);
      },
      replay: (swarm, frame) => {
        memoryOf(swarm.id).replay(swarm, frame);
      },
    };
  }

  jump(frame: number): boolean {
    if (!isStored(this.plan!.at(frame))) return false;
    this.turnTo(frame);
    jumpTo(this.plan!, frame, this.past, this.replaying);
    this.frame = frame;
    return true;
  }

  private readonly replaying: Pick<MotionDevice, 'replay'> = {
    replay: (swarm, frame) => {
      this.memoryOf(swarm.id).replay(swarm, frame);
    },
  };

  /** Draws the state into the frame's memory, up to the finished words. */
  private draw(width: number, height: number, moments = Infinity): FrameMemory {
    this.check();
    const plan = this.plan!;
    if (!this.target?.fits(plan, width, height)) {
      this.target?.destroy();
      this.target = new FrameMemory(this.device, plan, width, height);
      this.finish.forget();
    }
    const frame = this.target;
    const take = (track: BlockTrack): Float32Array => this.tracks.take(track, this.frame);
    frame.write(plan, take);
    for (const { id, tracks } of plan.swarms) {
      for (const [buffer, track] of tracks) this.memoryOf(id).takeTrack(buffer, take(track));
    }
    const work = new Work(this.pipelines);
    const shown = [...plan.finish.fields.keys(), ...plan.mediumLayers.fields.keys()];
    this.lendMedia(
      work,
      { buffer: frame.buffer, address: (name) => frame.place(name) },
      new Set(shown),
    );
    for (const { id, fields } of plan.swarms) {
      this.lendMedia(work, this.memoryOf(id), [...fields.keys()]);
    }
    const { past } = this;
    const at = { plan, frame: this.frame, past };
    this.stage.draw(work, frame, 'frame', at, plan.drawing, moments);
    for (const [id, drawn] of plan.layers) {
      this.stage.draw(work, frame, `layer/${id}`, at, drawn, moments);
    }
    if (plan.anew(this.frame)) this.finish.forget();
    this.finish.run(work, plan.finish, frame, drawInputs(plan, this.frame, frame));
    work.submit();
    return frame;
  }

  /** Whether the frames before have been drawn, where the finish depends on them. */
  get remembers(): boolean {
    return this.plan!.anew(this.frame) || this.finish.knows(this.plan!.finish, this.frame);
  }

  /** Draws, and shows the frame on the canvas. */
  async present(width: number, height: number, moments = Infinity): Promise<void> {
    const started = performance.now();
    const frame = this.draw(width, height, moments);
    const { canvas } = this.canvas!;
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width;
      canvas.height = height;
    }
    const format = navigator.gpu.getPreferredCanvasFormat();
    const work = new Work(this.pipelines);
    const pipeline = this.pipelines.render(PLANES_TO_TARGET, 'finished', format);
    const view = this.canvas!.getCurrentTexture().createView();
    work.draw(pipeline, view, true, frame.buffer, frame.words('frame'), 3);
    work.submit();
    if (!this.counting) void this.count();
    await this.device.queue.onSubmittedWorkDone();
    this.check();
    this.times.frame = performance.now() - started;
  }

  /** Brings the counts of the living over, without waiting for them. */
  private async count(): Promise<void> {
    this.counting = true;
    const { memoryOf } = this;
    const counts = await countAlive(this.device, this.pipelines, this.plan!.swarms, memoryOf);
    if (counts) this.alive = counts;
    this.counting = false;
  }

  save(): Snapshot {
    const work = new Work(this.pipelines);
    const usage = GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    const copyOf = (buffer: GPUBuffer, size: number): GPUBuffer => {
      const copy = this.device.createBuffer({ size, usage });
      work.copy(buffer, 0, copy, 0, size);
      return copy;
    };
    const states = [...this.swarms].map(
      ([id, { buffer, stateBytes }]) => [id, copyOf(buffer, stateBytes)] as const,
    );
    const fields = [...this.fields, ...this.media].map(
      ([id, { buffer, keptBytes }]) => [id, copyOf(buffer, keptBytes)] as const,
    );
    work.submit();
    return new GpuSnapshot(this.frame, new Map(states), new Map(fields));
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof GpuSnapshot)) throw new Error('gpu: a snapshot of another engine');
    const { frame, states, fields } = snapshot;
    this.turnTo(frame);
    const work = new Work(this.pipelines);
    for (const [id, memory] of [...this.fields, ...this.media]) {
      work.copy(fields.get(id)!, 0, memory.buffer, 0, memory.keptBytes);
    }
    for (const [id, memory] of this.swarms) {
      work.copy(states.get(id)!, 0, memory.buffer, 0, memory.stateBytes);
    }
    work.submit();
    for (const swarm of this.plan!.swarms) {
      if (swarm.bake) replayTo(swarm, frame, this.replaying);
    }
    this.past.complete();
    this.frame = frame;
  }

  private read(from: GPUBuffer, at: number, bytes: number): Promise<ArrayBuffer> {
    return readBack(this.device, this.pipelines, from, at, bytes);
  }

  /** One quantity of all slots of a swarm, brought over from the card. */
  async readState(id: string, name: string): Promise<Float32Array> {
    const memory = this.memoryOf(id);
    const at = 4 * memory.address(name);
    return new Float32Array(await this.read(memory.buffer, at, 4 * memory.capacity));
  }

  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  async stateOf(id: string): Promise<Float32Array[]> {
    const { capacity, state } = this.memoryOf(id);
    const count = Math.min(this.born(id), capacity);
    const all: Float32Array[] = [];
    for (const name of state) all.push((await this.readState(id, name)).subarray(0, count));
    return all;
  }

  /** A plane of a medium, copied from the card. */
  async mediumPlane(id: string, name: string): Promise<Float32Array> {
    const { buffer, address } = this.media.get(id)!;
    const { words } = this.plan!.media.find((m) => m.id === id)!.space;
    return new Float32Array(
      await this.read(buffer, 4 * address(mediumBuffer(id, name)), 4 * words),
    );
  }

  /** All that is to be known of a swarm's particles now, by slot; brought over from the card. */
  async particles(id: string): Promise<Particles> {
    const swarm = this.plan!.swarms.find((s) => s.id === id)!;
    const memory = this.memoryOf(id);
    const time = secondIn(this.plan!.frame, this.frame, 1);
    const born = this.bornAt(swarm, this.frame);
    const inputs: FrameInputs = { frame: this.frame, time, width: 0, height: 0, born };
    const { address } = memory;
    const work = new Work(this.pipelines);
    work.kernel(swarm.readings(), memory.buffer, 0, swarm.capacity, address, inputs);
    work.submit();
    const found = new Map<string, Float32Array>();
    for (const name of [...STATE, ...READINGS]) {
      const bytes = await this.read(memory.buffer, 4 * address(name), 4 * swarm.capacity);
      found.set(name, new Float32Array(bytes));
    }
    return particlesOf((name) => found.get(name)!);
  }

  /** Ids below this have been born. */
  born(id: string): number {
    return this.bornAt(
      this.plan!.swarms.find((s) => s.id === id)!,
      this.frame,
    );
  }

  /** Draws a frame and brings it over: sRGB words, rows of a multiple of four pixels. */
  async readFrame(width: number, height: number): Promise<Uint8ClampedArray> {
    const frame = this.draw(width, height);
    const bytes = 4 * frame.planes('frame').stride * height;
    return new Uint8ClampedArray(await this.read(frame.buffer, 4 * frame.place('out'), bytes));
  }
}
