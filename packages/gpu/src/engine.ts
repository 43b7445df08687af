import {
  bornAt,
  copyUniforms,
  EVEN_LIGHT,
  historyBuffer,
  isRing,
  particlesOf,
  placesOf,
  READINGS,
  remap,
  ringName,
  ringOf,
  slotRanges,
  STATE,
  timeOf,
  type Draw,
  type Drawing,
  type Drawn,
  type Engine,
  type FrameInputs,
  type GridPlan,
  type Particles,
  type Plan,
  type ShadowPlan,
  type Snapshot,
  type SwarmPlan,
} from '@vast-swarm/core';
import { GpuLost, openDevice, type OpenOptions } from './device';
import { Finish } from './finish';
import { FrameMemory, TARGET_FORMAT } from './frameMemory';
import { bitonic, listGroups } from './lists';
import { Painter, type Canvas } from './painter';
import { CELLS, COPY, COUNT_ALIVE, PLANES_TO_TARGET } from './shaders';
import { SwarmMemory } from './swarmMemory';
import { Pipelines, Work } from './work';

/** Takes a swarm's state from its bake; before and behind what is stored there is nothing. */
function replay(memory: SwarmMemory, swarm: SwarmPlan, frame: number): void {
  const { bake, state, history } = swarm;
  const stored = frame >= bake!.first && frame <= bake!.last ? bake!.read(frame) : [];
  const ring = history.rows > 0 ? ringOf(frame, history.rows) : 0;
  for (const name of state) {
    if (isRing(name)) continue;
    const values = new Float32Array(memory.capacity);
    const known = stored[bake!.state.indexOf(name)];
    if (known) values.set(known);
    memory.put(name, values);
    if (placesOf(swarm.history).includes(name)) memory.put(ringName(ring, name), values);
  }
}

/** Brings back a swarm's state with the frames before it, where its trails come from. */
function replayTo(memory: SwarmMemory, swarm: SwarmPlan, frame: number): void {
  for (let back = Math.max(0, swarm.history.rows - 1); back >= 0; back--) {
    replay(memory, swarm, frame - back);
  }
}

class GpuSnapshot implements Snapshot {
  readonly bytes: number;
  /** What the finish remembers stays with the frame's memory. */
  readonly remembers = false;

  constructor(
    readonly frame: number,
    readonly states: ReadonlyMap<string, GPUBuffer>,
  ) {
    this.bytes = [...states.values()].reduce((sum, b) => sum + b.size, 0);
  }

  release(): void {
    for (const buffer of this.states.values()) buffer.destroy();
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
  private painter: Painter;
  private readonly finish = new Finish();
  /** By swarm, for how many frames back its history is there. */
  private readonly known = new Map<string, number>();
  private target: FrameMemory | null = null;
  private canvas: GPUCanvasContext | null = null;
  private lost = false;
  private counting = false;

  private constructor(
    private device: GPUDevice,
    private readonly options: OpenOptions,
  ) {
    this.pipelines = new Pipelines(device);
    this.painter = new Painter(this.pipelines);
    this.watch();
  }

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
    this.painter = new Painter(this.pipelines);
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
    const swarms = [...this.swarms.values()].reduce((sum, s) => sum + s.buffer.size, 0);
    return swarms + (this.target?.buffer.size ?? 0);
  }

  private check(): void {
    if (this.lost) throw new GpuLost('The graphics card was lost.');
  }

  setPlan(plan: Plan): void {
    const first = this.plan === null;
    this.plan = plan;
    const work = new Work(this.pipelines);
    const before = this.swarms;
    this.swarms = new Map(plan.swarms.map((s) => [s.id, this.prepare(s, before.get(s.id), work)]));
    work.submit();
    for (const [id, memory] of before) if (this.swarms.get(id) !== memory) memory.buffer.destroy();
    for (const swarm of plan.swarms) this.swarms.get(swarm.id)!.write(swarm);
    if (first) this.reset();
  }

  /** Keeps a swarm's memory, or moves its state to a new one of the right size. */
  private prepare(swarm: SwarmPlan, old: SwarmMemory | undefined, work: Work): SwarmMemory {
    const parent = this.plan!.swarms.find((s) => s.id === swarm.parent)?.capacity ?? 0;
    if (old?.fits(swarm, parent)) return old;
    const fresh = new SwarmMemory(this.device, swarm, parent);
    const { rows } = swarm.history;
    // What is not there yet cannot be drawn as if it were.
    if (rows > 0 && !old?.state.includes(ringName(rows - 1, 'px'))) this.known.set(swarm.id, 0);
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
    return bornAt(swarm, frame, this.plan!.frame.rate);
  }

  reset(): void {
    this.frame = -this.plan!.frame.preroll - 1;
    this.known.clear();
    this.finish.forget();
    const work = new Work(this.pipelines);
    for (const memory of this.swarms.values()) {
      work.clear(memory.buffer);
      memory.forget();
    }
    work.submit();
    for (const swarm of this.plan!.swarms) this.swarms.get(swarm.id)!.write(swarm);
  }

  step(): void {
    this.check();
    const plan = this.plan!;
    const frame = this.frame + 1;
    const { rate } = plan.frame;
    const [from, to] = [timeOf(frame, rate), timeOf(frame + 1, rate)];
    const work = new Work(this.pipelines);
    for (const swarm of plan.swarms) {
      const memory = this.swarms.get(swarm.id)!;
      if (swarm.bake) {
        replay(memory, swarm, frame);
        continue;
      }
      const born = this.bornAt(swarm, frame);
      const inputs: FrameInputs = { frame, time: from, width: 0, height: 0, born };
      if (swarm.parent !== null) this.copyParent(work, swarm.parent, memory);
      for (const event of swarm.births.between(from, to)) {
        for (const { begin, end, idOffset } of slotRanges(event, swarm.capacity)) {
          work.kernel(swarm.birth, memory.buffer, begin, end, memory.address, inputs, {
            idOffset,
            first: event.first,
            count: event.count,
            ageFirst: from - event.time,
            ageStep: event.every,
          });
        }
      }
      const slots = Math.min(born, swarm.capacity);
      if (swarm.grid && slots > 0) {
        this.sortCells(work, swarm, swarm.grid, slots, inputs);
        work.kernel(swarm.grid.gather, memory.buffer, 0, slots, memory.address, inputs);
      }
      work.kernel(swarm.motion, memory.buffer, 0, slots, memory.address, inputs);
      this.remember(work, swarm, memory, frame);
    }
    work.submit();
    this.frame = frame;
  }

  jump(frame: number): boolean {
    const { swarms } = this.plan!;
    if (swarms.length === 0 || !swarms.every((s) => s.bake)) return false;
    for (const swarm of swarms) replayTo(this.swarms.get(swarm.id)!, swarm, frame);
    this.known.clear();
    this.frame = frame;
    return true;
  }

  /** Keeps where the particles are, for their trails. */
  private remember(work: Work, swarm: SwarmPlan, memory: SwarmMemory, frame: number): void {
    const { id, capacity, history } = swarm;
    for (const place of placesOf(swarm.history)) {
      const to = memory.address(ringName(ringOf(frame, history.rows), place));
      const words = [memory.address(place), to, capacity];
      work.run(COPY, 'main', memory.buffer, words, listGroups(capacity));
    }
    const known = this.known.get(id);
    if (known !== undefined) this.known.set(id, known + 1);
  }

  /** The state of the swarm that this one is born from, where its births can read it. */
  private copyParent(work: Work, id: string, memory: SwarmMemory): void {
    const parent = this.swarms.get(id)!;
    for (const name of STATE) {
      const [from, to] = [4 * parent.address(name), 4 * memory.address(`parent.${name}`)];
      work.copy(parent.buffer, from, memory.buffer, to, 4 * parent.capacity);
    }
  }

  /** Readies the grid that a swarm's particles find their neighbours by. */
  private sortCells(
    work: Work,
    swarm: SwarmPlan,
    { cellsOf, cells }: GridPlan,
    slots: number,
    inputs: FrameInputs,
  ): void {
    const { address, buffer } = this.swarms.get(swarm.id)!;
    work.kernel(cellsOf, buffer, 0, slots, address, inputs);
    const order = this.painter.order(`${swarm.id}/cells`, slots);
    const places = ['near.cell', 'near.order', 'near.start'].map(address);
    const words = (k: number, j: number): number[] => [...places, k, j, slots, cells];
    const more = [{ buffer: order }];
    bitonic(order.size / 4, (k, j, groups) => {
      work.run(CELLS, 'exchange', buffer, words(k, j), groups, more);
    });
    work.run(CELLS, 'starts', buffer, words(0, 0), listGroups(slots), more);
  }

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
    frame.write(plan);
    const work = new Work(this.pipelines);
    this.exposed(work, frame, 'frame', plan.drawing, moments);
    for (const [id, drawn] of plan.layers) this.exposed(work, frame, `layer/${id}`, drawn, moments);
    const time = timeOf(this.frame + 1, plan.frame.rate);
    const camera = plan.camera(time);
    const inputs: FrameInputs = { frame: this.frame, time, width, height, born: 0, camera };
    this.finish.run(work, plan.finish, frame, inputs);
    work.submit();
    return frame;
  }

  /** Whether the frames before have been drawn, where the finish depends on them. */
  get remembers(): boolean {
    return this.finish.knows(this.plan!.finish, this.frame);
  }

  /** Bodies as the shutter sees them, into a set of planes. */
  private exposed(
    work: Work,
    frame: FrameMemory,
    set: string,
    drawn: Drawing,
    moments: number,
  ): void {
    const plan = this.plan!;
    const end = timeOf(this.frame + 1, plan.frame.rate);
    const shutter = plan.shutter(end);
    const samples = Math.min(shutter.samples, moments);
    for (let i = 0; i < samples; i++) {
      const before = samples > 1 ? (shutter.frames * (i + 0.5)) / samples / plan.frame.rate : 0;
      this.scene(work, frame, set, drawn, end - before, before);
      if (samples > 1) frame.add(work, set, 'sum', i === 0 ? 0 : 1, 1 / samples);
    }
    if (samples > 1) frame.add(work, 'sum', set, 0, 1);
  }

  /** Backdrop (for the frame itself) and bodies into a set of planes, as they were `before` seconds ago. */
  private scene(
    work: Work,
    frame: FrameMemory,
    set: string,
    drawn: Drawing,
    time: number,
    before: number,
  ): void {
    const plan = this.plan!;
    const { width, height } = frame;
    const camera = plan.camera(time);
    const lamps = plan.lamps(time, camera);
    const now = { frame: this.frame, time, width, height, born: 0, before };
    const base: FrameInputs = { ...now, camera, lamps };
    const pixels = frame.planes(set).stride * height;
    const view = frame.target.createView();
    if (set === 'frame') {
      if (plan.shadows) this.shadows(work, plan.shadows, frame, base);
      work.kernel(plan.backdrop, frame.buffer, 0, pixels, frame.address(set), base);
      if (plan.shadows) this.shade(work, plan.shadows, frame, base);
    } else frame.add(work, set, set, 0, 0);
    const fill = this.pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT);
    work.draw(fill, view, true, frame.buffer, frame.words(set), 3);
    const solid = drawn.opaque.length > 0;
    if (solid) frame.clearDepth(work);
    const canvas: Canvas = {
      ...{ width, height, view, solid, camera, lamps, time },
      depth: frame.depth.createView(),
    };
    this.bodies(work, drawn.opaque, base, canvas);
    if (solid && plan.solidLens) {
      frame.targetToPlanes(work, set);
      frame.depthToPlane(work, camera.perspective);
      work.kernel(plan.solidLens, frame.buffer, 0, pixels, this.lensAddress(frame, set), base);
      frame.add(work, 'turn', set, 0, 1);
      work.draw(fill, view, true, frame.buffer, frame.words(set), 3);
    }
    this.bodies(work, drawn.blended, base, canvas);
    frame.targetToPlanes(work, set);
  }

  private bodies(work: Work, drawn: readonly Drawn[], base: FrameInputs, canvas: Canvas): void {
    for (const { swarm, draw } of drawn) this.body(work, swarm, draw, base, canvas);
  }

  /** Where the kernel that blurs opaque things finds its buffers. */
  private lensAddress(frame: FrameMemory, set: string): (name: string) => number {
    const [own, to] = [frame.address(set), frame.address('turn')];
    return (name) => (name.startsWith('to.') ? to(name.slice('to.'.length)) : own(name));
  }

  /** Shadows of mesh copies, softened, into planes of their own. */
  private shadows(
    work: Work,
    { drawing, blur }: ShadowPlan,
    frame: FrameMemory,
    base: FrameInputs,
  ): void {
    const { width, height, target, depth } = frame;
    const view = target.createView();
    frame.add(work, 'shadow', 'shadow', 0, 0);
    const fill = this.pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT);
    work.draw(fill, view, true, frame.buffer, frame.words('shadow'), 3);
    const canvas: Canvas = {
      ...{ width, height, view, solid: false, camera: base.camera!, time: base.time },
      depth: depth.createView(),
      lamps: EVEN_LIGHT,
    };
    this.bodies(work, drawing, base, canvas);
    frame.targetToPlanes(work, 'shadow');
    frame.blur(work, 'shadow', blur(base.time));
  }

  /** Darkens the backdrop where shadows fall. */
  private shade(work: Work, { shade }: ShadowPlan, frame: FrameMemory, base: FrameInputs): void {
    const [own, shadow] = [frame.address('frame'), frame.address('shadow')];
    const address = (name: string): number =>
      name.startsWith('layer.') ? shadow(name.slice('layer.'.length)) : own(name);
    work.kernel(shade, frame.buffer, 0, frame.planes('frame').stride * frame.height, address, base);
  }

  /** Works out what is drawn of one body, and draws it. */
  private body(work: Work, swarm: SwarmPlan, draw: Draw, base: FrameInputs, canvas: Canvas): void {
    const memory = this.swarms.get(swarm.id)!;
    const born = this.bornAt(swarm, this.frame);
    const count = Math.min(born, swarm.capacity);
    if (count === 0) return;
    const inputs = { ...base, born };
    const { painter } = this;
    const rows = draw.shape === 'trails' ? draw.rows : 1;
    const stride = (count + 3) & ~3;
    // Trails and links are drawn repeat by repeat, the others all at once.
    const single = draw.shape === 'trails' || draw.shape === 'links';
    if (draw.shape === 'links') {
      this.sortCells(work, swarm, draw.grid, count, inputs);
      painter.findLinks(work, draw, memory, count);
    }
    const look = (place: number, row: number, extra: Record<string, number>): void => {
      const shifted = (name: string): number => {
        const own = draw.outputs.includes(name) ? stride * place : 0;
        return memory.address(historyBuffer(name, this.frame, row, rows)) + own;
      };
      // Widened to the stride, so that nothing of an earlier frame stands between two repeats.
      const end = Math.min(stride, swarm.capacity);
      work.kernel(draw.kernel, memory.buffer, 0, end, shifted, inputs, extra);
    };
    const known = this.known.get(swarm.id) ?? Infinity;
    const { copies } = swarm;
    copies.forEach((matrix, i) => {
      const copy = copyUniforms(matrix);
      if (single) {
        for (let row = 0; row < rows; row++) look(row, row, { ...copy, row, known });
        painter.paint(work, draw, memory, count, canvas);
      } else look(i, 0, copy);
    });
    const all = copies.length === 1 ? count : stride * copies.length;
    if (!single) painter.paint(work, draw, memory, all, canvas);
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
    if (!this.counting) void this.countAlive();
    await this.device.queue.onSubmittedWorkDone();
    this.check();
    this.times.frame = performance.now() - started;
  }

  /** Brings the counts of the living over, without waiting for them. */
  private async countAlive(): Promise<void> {
    this.counting = true;
    const { swarms } = this.plan!;
    const size = 4 * Math.max(4, swarms.length);
    const { STORAGE, COPY_SRC, COPY_DST, MAP_READ } = GPUBufferUsage;
    const counts = this.device.createBuffer({ size, usage: STORAGE | COPY_SRC });
    const back = this.device.createBuffer({ size, usage: COPY_DST | MAP_READ });
    const work = new Work(this.pipelines);
    swarms.forEach(({ id, capacity }, i) => {
      const { buffer, address } = this.swarms.get(id)!;
      const words = [address('age'), address('life'), capacity, i];
      work.run(COUNT_ALIVE, 'main', buffer, words, listGroups(capacity), [{ buffer: counts }]);
    });
    work.copy(counts, 0, back, 0, size);
    work.submit();
    try {
      await back.mapAsync(GPUMapMode.READ);
      const values = new Uint32Array(back.getMappedRange());
      this.alive = Object.fromEntries(swarms.map(({ id }, i) => [id, values[i]!]));
    } catch {
      // The device went away meanwhile; the next frame says so.
    }
    counts.destroy();
    back.destroy();
    this.counting = false;
  }

  save(): Snapshot {
    const work = new Work(this.pipelines);
    const usage = GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    const states = [...this.swarms].map(([id, memory]) => {
      const copy = this.device.createBuffer({ size: memory.stateBytes, usage });
      work.copy(memory.buffer, 0, copy, 0, memory.stateBytes);
      return [id, copy] as const;
    });
    work.submit();
    return new GpuSnapshot(this.frame, new Map(states));
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof GpuSnapshot)) throw new Error('gpu: a snapshot of another engine');
    const { frame, states } = snapshot;
    const work = new Work(this.pipelines);
    for (const [id, memory] of this.swarms) {
      work.copy(states.get(id)!, 0, memory.buffer, 0, memory.stateBytes);
    }
    work.submit();
    for (const swarm of this.plan!.swarms) {
      if (swarm.bake) replayTo(this.swarms.get(swarm.id)!, swarm, frame);
    }
    this.known.clear();
    this.frame = frame;
  }

  private async read(from: GPUBuffer, at: number, bytes: number): Promise<ArrayBuffer> {
    const usage = GPUBufferUsage.COPY_DST | GPUBufferUsage.MAP_READ;
    const back = this.device.createBuffer({ size: bytes, usage });
    const work = new Work(this.pipelines);
    work.copy(from, at, back, 0, bytes);
    work.submit();
    await back.mapAsync(GPUMapMode.READ);
    const data = back.getMappedRange().slice(0);
    back.destroy();
    return data;
  }

  /** One quantity of all slots of a swarm, brought over from the card. */
  async readState(id: string, name: string): Promise<Float32Array> {
    const memory = this.swarms.get(id)!;
    const at = 4 * memory.address(name);
    return new Float32Array(await this.read(memory.buffer, at, 4 * memory.capacity));
  }

  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  async stateOf(id: string): Promise<Float32Array[]> {
    const { capacity, state } = this.swarms.get(id)!;
    const count = Math.min(this.born(id), capacity);
    const all: Float32Array[] = [];
    for (const name of state) all.push((await this.readState(id, name)).subarray(0, count));
    return all;
  }

  /** All that is to be known of a swarm's particles now, by slot; brought over from the card. */
  async particles(id: string): Promise<Particles> {
    const swarm = this.plan!.swarms.find((s) => s.id === id)!;
    const memory = this.swarms.get(id)!;
    const time = timeOf(this.frame + 1, this.plan!.frame.rate);
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
