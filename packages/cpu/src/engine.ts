import {
  bornAt,
  copyUniforms,
  EVEN_LIGHT,
  historyBuffer,
  isRing,
  GRID_BUFFERS,
  particlesOf,
  placesOf,
  ringName,
  ringOf,
  PLANES,
  READINGS,
  remap,
  slotRanges,
  timeOf,
  type Draw,
  type Drawing,
  type Drawn,
  type Engine,
  type FinishPlan,
  type FrameInputs,
  type GridPlan,
  type Particles,
  type Plan,
  type PlanKernel,
  type ShadowPlan,
  type Snapshot,
  type SwarmPlan,
} from '@vast-swarm/core';
import { Arena } from './arena';
import { Finish, type KeptMemory } from './finish';
import { Kernels } from './kernels';
import { Painter, type Canvas } from './painter';
import { Pool } from './pool';
import { Rasteriser, type Planes } from './rasteriser';

/** What one frame cost, in milliseconds by stage. */
export type StageTimes = Record<'motion' | 'look' | 'draw' | 'finish', number>;

export interface Frame {
  width: number;
  height: number;
  /** sRGB with full opacity, rows from the top. Its own memory. */
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

/** Metres to where nothing is. */
const FAR = 1e9;

export interface CpuOptions {
  threads: number;
  /** Milliseconds without an answer after which a thread counts as dead. */
  patience?: number;
}

class CpuSnapshot implements Snapshot {
  readonly bytes: number;

  constructor(
    readonly frame: number,
    readonly remembers: boolean,
    /** By swarm, by the name of the state. */
    readonly states: ReadonlyMap<string, ReadonlyMap<string, Float32Array>>,
    readonly memory: KeptMemory,
  ) {
    const arrays = [...states.values()].flatMap((s) => [...s.values()]);
    const planes = [...memory.values()].flatMap((m) => m.planes);
    this.bytes = [...arrays, ...planes].reduce((sum, a) => sum + a.byteLength, 0);
  }

  release(): void {
    // Ordinary memory: nothing to do.
  }
}

/** Runs plans on the processor: WebAssembly SIMD on several threads, the same bits everywhere. */
export class CpuEngine implements Engine {
  frame = -1;
  readonly times: StageTimes = { motion: 0, look: 0, draw: 0, finish: 0 };
  private plan: Plan | null = null;
  private readonly capacities = new Map<string, number>();
  /** Blocks of data in memory, by the name of their buffer. */
  private readonly blocks = new Map<string, Float32Array>();
  private readonly arena: Arena;
  private readonly kernels: Kernels;
  private readonly rasteriser: Rasteriser;
  private readonly painter: Painter;
  private readonly finish: Finish;
  /** By swarm, for how many frames back its history is there. */
  private readonly known = new Map<string, number>();

  private constructor(private readonly pool: Pool) {
    this.arena = new Arena(pool.memory);
    this.kernels = new Kernels(pool, this.arena);
    this.rasteriser = new Rasteriser(pool, this.arena);
    this.painter = new Painter(this.rasteriser);
    this.finish = new Finish(this.rasteriser, this.kernels);
  }

  static async create({ threads, patience }: CpuOptions): Promise<CpuEngine> {
    return new CpuEngine(await Pool.create(threads, patience));
  }

  /** New threads after a PoolFailure; the state has to be made again from a snapshot or the start. */
  async recover(): Promise<void> {
    await this.pool.restart();
  }

  crashHelper(): void {
    this.pool.crashHelper();
  }

  close(): void {
    this.pool.close();
  }

  get memoryBytes(): number {
    return this.arena.bytes;
  }

  private floats(address: number, length: number): Float32Array {
    return new Float32Array(this.pool.memory.buffer, address, length);
  }

  /** Where a kernel of the swarm finds its buffers. */
  private address(swarm: SwarmPlan): (buffer: string) => number {
    return (buffer) => {
      if (buffer.startsWith('data/')) return this.arena.address(buffer);
      if (!buffer.startsWith('parent.')) return this.arena.address(`${swarm.id}/${buffer}`);
      return this.arena.address(`${swarm.parent!}/${buffer.slice('parent.'.length)}`);
    };
  }

  setPlan(plan: Plan): void {
    const first = this.plan === null;
    this.plan = plan;
    const ids = new Set(plan.swarms.map((s) => s.id));
    for (const id of this.capacities.keys()) if (!ids.has(id)) this.drop(id);
    this.dropBlocks(plan);
    for (const swarm of plan.swarms) this.prepare(swarm);
    this.prepareFinish(plan.finish);
    if (first) this.reset();
  }

  private drop(id: string): void {
    this.capacities.delete(id);
    for (const name of this.arena.names()) if (name.startsWith(`${id}/`)) this.arena.release(name);
  }

  private dropBlocks(plan: Plan): void {
    for (const name of this.blocks.keys()) {
      const own = name.startsWith('finish/')
        ? plan.finish.blocks.has(name.slice('finish/'.length))
        : plan.swarms.some((s) => s.blocks.has(name));
      if (own) continue;
      this.blocks.delete(name);
      this.arena.release(name);
    }
  }

  /** Buffers for a swarm; a state that is there already moves to its new slots. */
  private prepare(swarm: SwarmPlan): void {
    const { id, capacity, state, history } = swarm;
    const { arena } = this;
    const grids = [swarm.grid, ...swarm.draws.map((d) => (d.shape === 'links' ? d.grid : null))];
    const old = this.capacities.get(id);
    const there = new Set(arena.names());
    // What is not there yet cannot be drawn as if it were.
    if (history.rows > 0 && !there.has(`${id}/${ringName(history.rows - 1, 'px')}`)) {
      this.known.set(id, 0);
    }
    const moves =
      old === undefined || old === capacity
        ? []
        : remap(this.bornAt(swarm, this.frame), old, capacity);
    for (const name of state) {
      const buffer = `${id}/${name}`;
      if (old === capacity && there.has(buffer)) continue;
      this.moveState(buffer, there.has(buffer) ? (old ?? 0) : 0, capacity, moves);
    }
    this.capacities.set(id, capacity);
    for (const grid of grids) {
      if (!grid) continue;
      const sizes = Object.entries(GRID_BUFFERS(capacity, grid.cells));
      for (const [name, words] of sizes) arena.buffer(`${id}/${name}`, 4 * words);
    }
    const tables = arena.buffer(`${id}/tables`, Math.max(4, swarm.tables.byteLength));
    this.floats(tables, swarm.tables.length).set(swarm.tables);
    for (const [name, values] of swarm.blocks) this.keepBlock(name, values);
  }

  private prepareFinish({ tables, blocks }: FinishPlan): void {
    const at = this.arena.buffer('finish/tables', Math.max(16, tables.byteLength));
    this.floats(at, tables.length).set(tables);
    for (const [name, values] of blocks) this.keepBlock(`finish/${name}`, values);
  }

  private keepBlock(name: string, values: Float32Array): void {
    if (this.blocks.get(name) === values) return;
    const address = this.arena.buffer(name, Math.max(16, values.byteLength));
    this.floats(address, values.length).set(values);
    this.blocks.set(name, values);
  }

  private moveState(
    name: string,
    old: number,
    capacity: number,
    moves: readonly { from: number; to: number; count: number }[],
  ): void {
    const fresh = this.arena.buffer(`${name}+`, 4 * capacity);
    const to = this.floats(fresh, capacity);
    to.fill(0);
    if (moves.length > 0 && old > 0) {
      const from = this.floats(this.arena.address(name), old);
      for (const m of moves) to.set(from.subarray(m.from, m.from + m.count), m.to);
    }
    this.arena.rename(`${name}+`, name);
  }

  private bornAt(swarm: SwarmPlan, frame: number): number {
    return bornAt(swarm, frame, this.plan!.frame.rate);
  }

  reset(): void {
    const plan = this.plan!;
    this.frame = -plan.frame.preroll - 1;
    this.known.clear();
    this.finish.forget();
    for (const { id, capacity, state } of plan.swarms) {
      for (const name of state) this.floats(this.arena.address(`${id}/${name}`), capacity).fill(0);
    }
  }

  step(): void {
    const plan = this.plan!;
    const started = performance.now();
    const frame = this.frame + 1;
    const { rate } = plan.frame;
    const [from, to] = [timeOf(frame, rate), timeOf(frame + 1, rate)];
    for (const swarm of plan.swarms) {
      if (swarm.bake) {
        this.replay(swarm, frame);
        continue;
      }
      const born = this.bornAt(swarm, frame);
      const inputs: FrameInputs = { frame, time: from, width: 0, height: 0, born };
      const address = this.address(swarm);
      for (const event of swarm.births.between(from, to)) {
        for (const { begin, end, idOffset } of slotRanges(event, swarm.capacity)) {
          this.kernels.run(swarm.birth, begin, end, address, inputs, {
            idOffset,
            first: event.first,
            count: event.count,
            ageFirst: from - event.time,
            ageStep: event.every,
          });
        }
      }
      const slots = Math.min(born, swarm.capacity);
      if (swarm.grid) {
        this.sortCells(swarm, swarm.grid, slots, inputs);
        this.kernels.run(swarm.grid.gather, 0, slots, address, inputs);
      }
      this.kernels.run(swarm.motion, 0, slots, address, inputs);
      this.remember(swarm, frame);
    }
    this.frame = frame;
    this.times.motion = performance.now() - started;
  }

  /** Keeps where the particles are, for their trails. */
  private remember({ id, history }: SwarmPlan, frame: number): void {
    const { rows } = history;
    if (rows === 0) return;
    const ring = ringOf(frame, rows);
    for (const place of placesOf(history)) {
      this.state(id, ringName(ring, place)).set(this.state(id, place));
    }
    const known = this.known.get(id);
    if (known !== undefined) this.known.set(id, known + 1);
  }

  jump(frame: number): boolean {
    const { swarms } = this.plan!;
    if (swarms.length === 0 || !swarms.every((s) => s.bake)) return false;
    for (const swarm of swarms) this.replayTo(swarm, frame);
    this.known.clear();
    this.frame = frame;
    return true;
  }

  /** Brings back a swarm's state with the frames before it, where its trails come from. */
  private replayTo(swarm: SwarmPlan, frame: number): void {
    for (let back = Math.max(0, swarm.history.rows - 1); back >= 0; back--) {
      this.replay(swarm, frame - back);
    }
  }

  /** Takes a swarm's state from its bake; before and behind what is stored there is nothing. */
  private replay(swarm: SwarmPlan, frame: number): void {
    const { id, bake, state } = swarm;
    const stored = frame >= bake!.first && frame <= bake!.last ? bake!.read(frame) : [];
    for (const name of state) {
      if (isRing(name)) continue;
      const values = stored[bake!.state.indexOf(name)];
      const to = this.state(id, name);
      if (values) to.set(values);
      to.fill(0, values?.length ?? 0);
    }
    this.remember(swarm, frame);
  }

  /** Readies the grid that a swarm's particles find their neighbours by. */
  private sortCells(swarm: SwarmPlan, grid: GridPlan, slots: number, inputs: FrameInputs): void {
    const address = this.address(swarm);
    this.kernels.run(grid.cellsOf, 0, slots, address, inputs);
    this.rasteriser.sortCells(address, slots, grid.cells);
  }

  /** Particles alive now, by swarm. */
  alive(): Map<string, number> {
    const counts = this.plan!.swarms.map(({ id, capacity }): [string, number] => {
      const [age, life] = [this.arena.address(`${id}/age`), this.arena.address(`${id}/life`)];
      return [id, this.rasteriser.countAlive(age, life, capacity)];
    });
    return new Map(counts);
  }

  /**
   * Draws the state. Particles and backdrop are drawn at `oversample` times the size and averaged
   * in linear light before the finish.
   *
   * @param moments most moments that are drawn while the shutter is open
   */
  draw(width: number, height: number, oversample = 1, moments = Infinity): Frame {
    const plan = this.plan!;
    const time = timeOf(this.frame + 1, plan.frame.rate);
    const { rasteriser, times } = this;
    times.look = 0;
    let mark = performance.now();
    const exposed = (name: string, drawn: Drawing, backdrop: boolean): Planes =>
      this.exposed(name, { width, height, oversample, moments }, drawn, backdrop);
    const planes = exposed('frame', plan.drawing, true);
    const layers = new Map(
      [...plan.layers].map(([id, drawn]) => [id, exposed(`layer/${id}`, drawn, false)]),
    );
    times.draw = performance.now() - mark - times.look;
    mark = performance.now();
    const camera = plan.camera(time);
    const inputs = { frame: this.frame, time, width, height, born: 0, camera };
    const tables = this.arena.address('finish/tables');
    this.finish.run(plan.finish, planes, inputs, layers, tables);
    times.finish = performance.now() - mark;
    return { width, height, pixels: this.output(rasteriser.planes('frame', width, height)) };
  }

  /** Whether the frames before have been drawn, where the finish depends on them. */
  get remembers(): boolean {
    return this.finish.knows(this.plan!.finish, this.frame);
  }

  /** Bodies as the shutter sees them, at the frame's own size. */
  private exposed(
    name: string,
    size: { width: number; height: number; oversample: number; moments: number },
    drawn: Drawing,
    backdrop: boolean,
  ): Planes {
    const { rasteriser } = this;
    const plan = this.plan!;
    const { width, height, oversample } = size;
    const shutter = plan.shutter(timeOf(this.frame + 1, plan.frame.rate));
    const samples = Math.min(shutter.samples, size.moments);
    const own = rasteriser.planes(name, width, height);
    const large =
      oversample > 1 ? rasteriser.planes('large', width * oversample, height * oversample) : own;
    if (samples > 1) {
      const sum = rasteriser.planes('sum', large.width, large.height);
      for (let i = 0; i < samples; i++) {
        const before = (shutter.frames * (i + 0.5)) / samples / plan.frame.rate;
        this.scene(large, before, drawn, backdrop);
        rasteriser.add(large, sum, i === 0 ? 0 : 1, 1 / samples);
      }
      rasteriser.add(sum, large, 0, 1);
    } else this.scene(large, 0, drawn, backdrop);
    if (oversample > 1) rasteriser.shrink(large, own, oversample);
    return own;
  }

  /** Backdrop and bodies into planes, as they were `before` seconds ago. */
  private scene(planes: Planes, before: number, drawn: Drawing, backdrop: boolean): void {
    const plan = this.plan!;
    const { width, height, stride } = planes;
    const end = timeOf(this.frame + 1, plan.frame.rate);
    const time = end - before;
    const camera = plan.camera(time);
    const lamps = plan.lamps(time, camera);
    const now = { frame: this.frame, time, width, height, born: 0, before };
    const base: FrameInputs = { ...now, camera, lamps };
    if (backdrop) {
      this.pixels(plan.backdrop, planes, base);
      if (plan.shadows) this.shadows(plan.shadows, planes, base);
    } else for (const at of planes.at) this.floats(at, stride * height).fill(0);
    let nearest = 0;
    if (drawn.opaque.length > 0) {
      nearest = this.arena.buffer('nearest', 4 * stride * height);
      this.floats(nearest, stride * height).fill(FAR);
    }
    const canvas: Canvas = { planes, nearest, camera, lamps, time };
    this.bodies(drawn.opaque, base, canvas);
    if (nearest && plan.solidLens) this.defocus(plan.solidLens, planes, nearest, base);
    this.bodies(drawn.blended, base, canvas);
  }

  private bodies(drawn: readonly Drawn[], base: FrameInputs, canvas: Canvas): void {
    for (const { swarm, draw } of drawn) {
      this.body(swarm, draw, { ...base, born: this.bornAt(swarm, this.frame) }, canvas);
    }
  }

  /** Opaque things out of focus; what comes later is blurred as it is drawn. */
  private defocus(kernel: PlanKernel, planes: Planes, nearest: number, base: FrameInputs): void {
    const to = this.rasteriser.planes('lens', planes.width, planes.height);
    const address = (name: string): number => {
      if (name === 'near') return nearest;
      const set = name.startsWith('to.') ? to : planes;
      return set.at[PLANES.indexOf(name.at(-1) as 'r')]!;
    };
    this.kernels.run(kernel, 0, planes.stride * planes.height, address, base);
    this.rasteriser.add(to, planes, 0, 1);
  }

  /** Darkens the backdrop where shadows fall. */
  private shadows({ drawing, blur, shade }: ShadowPlan, to: Planes, base: FrameInputs): void {
    const { rasteriser } = this;
    const { camera, time } = base;
    const planes = rasteriser.planes('shadow', to.width, to.height);
    for (const at of planes.at) this.floats(at, planes.stride * planes.height).fill(0);
    const canvas: Canvas = { planes, nearest: 0, camera: camera!, lamps: EVEN_LIGHT, time };
    this.bodies(drawing, base, canvas);
    rasteriser.blur(planes, blur(time));
    const address = (name: string): number => {
      const [set, plane] = name.includes('.') ? [planes, name.split('.')[1]!] : [to, name];
      return set.at[PLANES.indexOf(plane as 'r')]!;
    };
    this.kernels.run(shade, 0, to.stride * to.height, address, base);
  }

  /** Works out what is drawn of one body, and draws it. */
  private body(swarm: SwarmPlan, draw: Draw, inputs: FrameInputs, canvas: Canvas): void {
    const count = Math.min(inputs.born, swarm.capacity);
    if (count === 0) return;
    const { painter } = this;
    const rows = draw.shape === 'trails' ? draw.rows : 1;
    const stride = (count + 3) & ~3;
    // Trails and links are drawn repeat by repeat, the others all at once.
    const single = draw.shape === 'trails' || draw.shape === 'links';
    const lists = single ? 1 : swarm.copies.length;
    for (const name of draw.outputs) {
      this.arena.buffer(`${swarm.id}/${name}`, 4 * stride * lists * rows);
    }
    if (draw.shape === 'links') {
      this.sortCells(swarm, draw.grid, count, inputs);
      painter.findLinks(draw, this.address(swarm), count);
    }
    const address = this.address(swarm);
    const look = (place: number, row: number, extra: Record<string, number>): void => {
      const started = performance.now();
      const shifted = (buffer: string): number => {
        const own = draw.outputs.includes(buffer) ? 4 * stride * place : 0;
        return address(historyBuffer(buffer, this.frame, row, rows)) + own;
      };
      this.kernels.run(draw.kernel, 0, count, shifted, inputs, extra);
      this.times.look += performance.now() - started;
    };
    const known = this.known.get(swarm.id) ?? Infinity;
    swarm.copies.forEach((matrix, i) => {
      const copy = copyUniforms(matrix);
      if (single) {
        for (let row = 0; row < rows; row++) look(row, row, { ...copy, row, known });
        painter.paint(draw, address, count, canvas);
      } else look(i, 0, copy);
    });
    if (!single) painter.paint(draw, address, lists === 1 ? count : stride * lists, canvas);
  }

  private pixels(kernel: Plan['backdrop'], planes: Planes, inputs: FrameInputs): void {
    const address = (name: string): number => planes.at[PLANES.indexOf(name as 'r')]!;
    this.kernels.run(kernel, 0, planes.stride * planes.height, address, inputs);
  }

  private output({ width, height, stride }: Planes): Uint8ClampedArray<ArrayBuffer> {
    const from = new Int32Array(
      this.pool.memory.buffer,
      this.arena.address('out'),
      stride * height,
    );
    const out = new Int32Array(width * height);
    if (stride === width) out.set(from);
    else {
      for (let y = 0; y < height; y++) {
        out.set(from.subarray(y * stride, y * stride + width), y * width);
      }
    }
    return new Uint8ClampedArray(out.buffer);
  }

  /**
   * One channel of the last drawn frame's linear light, as the finish left it before the transfer
   * curve, rows from the top.
   */
  lightOf(width: number, height: number, channel = 0): Float32Array {
    const { at, stride } = this.finish.last ?? this.rasteriser.planes('frame', width, height);
    const plane = this.floats(at[channel]!, stride * height);
    const out = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      out.set(plane.subarray(y * stride, y * stride + width), y * width);
    }
    return out;
  }

  /** Pairs of slots that are linked in the last drawn frame, lower first, for a limit per particle. */
  linksOf(id: string, most: number): string[] {
    const words = (name: string, length: number): Int32Array =>
      new Int32Array(this.pool.memory.buffer, this.arena.address(`links.${name}`), length);
    const count = Math.min(this.born(id), this.capacities.get(id)!);
    const [kept, ends] = [words('kept', count), words('ends', count * most)];
    return Array.from({ length: count }, (_, i) =>
      Array.from(ends.subarray(i * most, i * most + kept[i]!), (j) => `${String(i)} ${String(j)}`),
    ).flat();
  }

  save(): Snapshot {
    const simulated = this.plan!.swarms.filter((s) => !s.bake);
    const states = simulated.map(({ id, state }) => {
      const copies = state.map((name): [string, Float32Array] => [
        name,
        this.state(id, name).slice(),
      ]);
      return [id, new Map(copies)] as const;
    });
    const memory = this.finish.save(this.frame);
    return new CpuSnapshot(this.frame, this.remembers, new Map(states), memory);
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof CpuSnapshot)) throw new Error('cpu: a snapshot of another engine');
    const { frame, states } = snapshot;
    this.frame = frame;
    this.finish.restore(snapshot.memory);
    for (const swarm of this.plan!.swarms) {
      const { id, state } = swarm;
      if (swarm.bake) this.replayTo(swarm, frame);
      else for (const name of state) this.state(id, name).set(states.get(id)!.get(name)!);
    }
    this.known.clear();
  }

  /** One quantity of all slots of a swarm: a live view, in metres, m/s or seconds. */
  state(swarm: string, name: string): Float32Array {
    return this.floats(this.arena.address(`${swarm}/${name}`), this.capacities.get(swarm)!);
  }

  /** What the particles of a swarm look like now, one array of all slots for each of READINGS. */
  readings(id: string): Record<(typeof READINGS)[number], Float32Array> {
    const swarm = this.plan!.swarms.find((s) => s.id === id)!;
    const born = this.bornAt(swarm, this.frame);
    for (const name of READINGS) this.arena.buffer(`${id}/${name}`, 4 * swarm.capacity);
    const time = timeOf(this.frame + 1, this.plan!.frame.rate);
    const inputs: FrameInputs = { frame: this.frame, time, width: 0, height: 0, born };
    this.kernels.run(swarm.readings(), 0, swarm.capacity, this.address(swarm), inputs);
    const view = (name: string): Float32Array =>
      this.floats(this.arena.address(`${id}/${name}`), swarm.capacity).slice();
    return Object.fromEntries(READINGS.map((n) => [n, view(n)])) as ReturnType<
      CpuEngine['readings']
    >;
  }

  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  stateOf(id: string): Promise<Float32Array[]> {
    const { state } = this.plan!.swarms.find((s) => s.id === id)!;
    const count = Math.min(this.born(id), this.capacities.get(id)!);
    return Promise.resolve(state.map((name) => this.state(id, name).slice(0, count)));
  }

  /** All that is to be known of a swarm's particles now, by slot. */
  particles(id: string): Promise<Particles> {
    const look = this.readings(id) as Record<string, Float32Array | undefined>;
    return Promise.resolve(particlesOf((name) => look[name] ?? this.state(id, name)));
  }

  /** Ids below this have been born. */
  born(id: string): number {
    return this.bornAt(
      this.plan!.swarms.find((s) => s.id === id)!,
      this.frame,
    );
  }
}
