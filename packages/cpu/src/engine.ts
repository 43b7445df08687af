import {
  blocksAround,
  bornAt,
  INSTANCE,
  READINGS,
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
  sceneInputs,
  stepMotion,
  TrackReader,
  type Engine,
  type MotionDevice,
  type Particles,
  type Snapshot,
} from '@vast-swarm/core/play';
import type { Frame, Light } from '@vast-swarm/core/formats';
import { mediumBuffer, type PlanKernel } from '@vast-swarm/core/kinds';
import { simplifierReady } from '@vast-swarm/core/stock';
import { Arena } from './arena';
import { channelAt, channelsOf, coverOf } from './channels';
import { Finish } from './finish';
import { Kernels } from './kernels';
import { Media } from './media';
import { bufferOf, Memories } from './memories';
import { NO_LAYERS, Passes } from './passes';
import { MAX_PAGES } from './generated/rasteriser';
import { Pool, USUAL_PAGES } from './pool';
import { Rasteriser, type Planes } from './rasteriser';
import { CpuSnapshot } from './snapshot';
import { Stage } from './stage';
import { DRAWING_ROOM, type DrawSize } from './strips';

/** Cost of one frame, in milliseconds by stage. */
export type StageTimes = Record<'motion' | 'media' | 'look' | 'draw' | 'finish', number>;

export interface CpuOptions {
  threads: number;
  /** Milliseconds without an answer after which a thread counts as dead. */
  patience?: number;
  /** Whether it may take twice the memory that is usual, for frames of any size. */
  large?: boolean;
  /** Bytes that drawing may take beside the frame, see strips.ts. */
  drawingRoom?: number;
}

/** Runs plans on the processor: WebAssembly SIMD on several threads, the same bits everywhere. */
export class CpuEngine implements Engine {
  frame = -1;
  private cover: Float32Array | null = null;
  /** Layers beside the last picture, see FRAME_PASSES. */
  layers = NO_LAYERS;
  readonly times: StageTimes = { motion: 0, media: 0, look: 0, draw: 0, finish: 0 };
  private current: Plan | null = null;
  private readonly past = new Past();
  private readonly tracks = new TrackReader();
  private readonly arena: Arena;
  private readonly memories: Memories;
  private readonly kernels: Kernels;
  private readonly rasteriser: Rasteriser;
  private readonly stage: Stage;
  private readonly passes: Passes;
  private readonly finish: Finish;
  private readonly media: Media;
  private readonly motion: MotionDevice;

  private constructor(
    private readonly pool: Pool,
    drawingRoom = DRAWING_ROOM,
  ) {
    this.arena = new Arena(pool.memory, pool.pages);
    this.memories = new Memories(pool, this.arena);
    this.kernels = new Kernels(pool, this.arena);
    this.rasteriser = new Rasteriser(pool, this.arena);
    this.stage = new Stage(this.memories, this.kernels, this.rasteriser, drawingRoom);
    this.passes = new Passes(this.stage, this.memories);
    this.finish = new Finish(this.rasteriser, this.kernels);
    this.media = new Media(this.memories, this.kernels, this.rasteriser);
    const { memories, stage, kernels, media } = this;
    this.motion = {
      run: (swarm, kernel, begin, end, inputs, extra) => {
        kernels.run(kernel, begin, end, memories.address(swarm), inputs, extra);
      },
      takeTrack: (swarm, buffer, track, frame) => {
        memories.takeTrack(swarm, buffer, this.tracks.take(track, frame));
      },
      readyParent: () => {
        // All stand in one memory.
      },
      readyFields: () => {
        // As above.
      },
      sortCells: (...about) => {
        stage.sortCells(...about);
      },
      gather: ({ cells }, swarm, kernel, inputs) => {
        kernels.run(kernel, 0, cells, memories.address(swarm), inputs);
      },
      stepField: ({ cells, step }, inputs) => {
        kernels.run(step, 0, cells, (name) => this.arena.address(name), inputs);
      },
      takeMediumTrack: ({ id }, buffer, track, frame) => {
        memories.keepBlock(mediumBuffer(id, buffer), this.tracks.take(track, frame));
      },
      leave: (...about) => {
        media.leave(...about);
      },
      leaveNothing: (medium) => {
        media.leaveNothing(medium);
      },
      runPass: (_, pass, inputs) => {
        media.runPass(pass, inputs);
      },
      isNew: (medium) => media.isNew(medium),
      remember: (swarm, frame) => {
        memories.remember(swarm, frame);
      },
      replay: (swarm, frame) => {
        memories.replay(swarm, frame);
      },
    };
  }

  static async create(options: CpuOptions): Promise<CpuEngine> {
    const { threads, patience, large, drawingRoom } = options;
    await simplifierReady;
    const pool = (pages: number): Promise<Pool> => Pool.create(threads, pages, patience);
    // Some devices give no more than what is usual.
    const given = large ? await pool(MAX_PAGES).catch(() => pool(USUAL_PAGES)) : null;
    return new CpuEngine(given ?? (await pool(USUAL_PAGES)), drawingRoom);
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

  /** Bytes of shared memory that the engine has taken from the machine, in use or not. */
  get takenBytes(): number {
    return this.pool.memory.buffer.byteLength;
  }

  get memoryBytes(): number {
    return this.arena.bytes;
  }

  private get plan(): Plan {
    if (!this.current) throw new Error('cpu: there is no plan yet');
    return this.current;
  }

  private swarm(id: string): SwarmPlan {
    return this.plan.swarms.find((s) => s.id === id)!;
  }

  setPlan(plan: Plan): void {
    const first = this.current === null;
    this.take(plan.at(this.frame));
    if (first) this.reset();
  }

  private take(plan: Plan): void {
    this.current = plan;
    this.tracks.frames = plan.frame;
    this.memories.setPlan(plan, this.past, (swarm) => this.bornAt(swarm));
    this.media.setPlan(plan);
  }

  /** Takes the plan of a frame, where it is another one. */
  private turnTo(frame: number): void {
    const plan = this.plan.at(frame);
    if (plan !== this.current) this.take(plan);
  }

  private bornAt(swarm: SwarmPlan): number {
    return bornAt(swarm, this.frame);
  }

  reset(): void {
    this.frame = -this.plan.frame.preroll - 1;
    this.turnTo(this.frame);
    this.past.complete();
    this.finish.forget();
    this.memories.clear(this.plan);
    this.media.clear();
  }

  ready(): Promise<void> {
    return this.tracks.readyAround(blocksAround(this.plan, this.frame), this.frame);
  }

  step(): void {
    const started = performance.now();
    this.turnTo(this.frame + 1);
    stepMotion(this.plan, this.frame + 1, this.past, this.motion);
    this.frame += 1;
    this.times.media = this.media.takeTime();
    this.times.motion = performance.now() - started - this.times.media;
  }

  jump(frame: number): boolean {
    if (!isStored(this.plan.at(frame))) return false;
    this.turnTo(frame);
    jumpTo(this.plan, frame, this.past, this.motion);
    this.frame = frame;
    return true;
  }

  /** Particles alive now, by swarm. */
  alive(): Map<string, number> {
    const counts = this.plan.swarms.map(({ id, capacity }): [string, number] => {
      const [age, life] = [
        this.arena.address(bufferOf(id, 'age')),
        this.arena.address(bufferOf(id, 'life')),
      ];
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
    const { plan, frame, past, stage, times } = this;
    this.takeTracks();
    const size = { width, height, oversample, moments };
    stage.lookTime = 0;
    let mark = performance.now();
    const planes = stage.draw('frame', size, { plan, frame, past }, plan.drawing, true);
    this.cover = plan.lit && this.coverOf(planes, size, { ...plan, backdrop: plan.lit });
    this.layers = plan.passes
      ? this.passes.of(plan.passes, { plan, frame, past }, size, planes)
      : NO_LAYERS;
    const layers = new Map(
      [...plan.layers].map(([id, drawn]) => [
        id,
        stage.draw(`layer/${id}`, size, { plan, frame, past }, drawn, false),
      ]),
    );
    times.look = stage.lookTime;
    times.draw = performance.now() - mark - times.look;
    mark = performance.now();
    const tables = this.arena.address('finish/tables');
    if (plan.anew(frame)) this.finish.forget();
    this.finish.run(plan.finish, planes, drawInputs(plan, frame, size), layers, tables);
    times.finish = performance.now() - mark;
    return { width, height, pixels: this.output(this.rasteriser.planes('frame', width, height)) };
  }

  private coverOf(planes: Planes, size: DrawSize, lit: Plan): Float32Array {
    const { frame, past, memories } = this;
    const dark = channelsOf(memories, planes);
    const shown = this.stage.draw('lit', size, { plan: lit, frame, past }, lit.drawing, true);
    return coverOf(dark, channelsOf(memories, shown));
  }

  /** Brings what the picture reads of tracks to the frame that is drawn. */
  private takeTracks(): void {
    const { plan, frame, memories, tracks } = this;
    for (const swarm of plan.swarms) {
      for (const [buffer, track] of swarm.tracks) {
        memories.takeTrack(swarm, buffer, tracks.take(track, frame));
      }
    }
    for (const [buffer, track] of plan.finish.tracks) {
      memories.takeFinishTrack(buffer, tracks.take(track, frame));
    }
  }

  /** Whether the frames before have been drawn, where the finish depends on them. */
  get remembers(): boolean {
    return this.plan.anew(this.frame) || this.finish.knows(this.plan.finish, this.frame);
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
   * One channel of the last drawn frame's linear light, before the treatments that are one with the transfer
   * curve (see Sources), rows from the top.
   */
  lightOf(width: number, height: number, channel = 0): Float32Array {
    const planes = this.finish.last ?? this.rasteriser.planes('frame', width, height);
    return channelAt(this.memories, planes.at[channel]!, planes);
  }

  /** The light of the last drawn frame, which had this size; the plan has to be one that leaves it (see Sources). */
  light(width: number, height: number): Light {
    const planes = [0, 1, 2].map((c) => this.lightOf(width, height, c)) as Light['planes'];
    return { width, height, planes, cover: this.cover };
  }

  /** Pairs of slots that are linked in the last drawn frame, lower first, for a limit per particle. */
  linksOf(id: string, most: number): string[] {
    const words = (name: string, length: number): Int32Array =>
      new Int32Array(this.pool.memory.buffer, this.arena.address(`links.${name}`), length);
    const count = Math.min(this.born(id), this.memories.slots(id));
    const [kept, ends] = [words('kept', count), words('ends', count * most)];
    return Array.from({ length: count }, (_, i) =>
      Array.from(ends.subarray(i * most, i * most + kept[i]!), (j) => `${String(i)} ${String(j)}`),
    ).flat();
  }

  save(): Snapshot {
    const simulated = this.plan.swarms.filter((s) => !s.bake);
    const states = new Map(simulated.map((s) => [s.id, this.memories.copyOf(s)]));
    const fields = new Map([...this.memories.copyOfFields(this.plan), ...this.media.copy()]);
    return new CpuSnapshot(
      this.frame,
      this.remembers,
      states,
      fields,
      this.finish.save(this.frame),
    );
  }

  restore(snapshot: Snapshot): void {
    if (!(snapshot instanceof CpuSnapshot)) throw new Error('cpu: a snapshot of another engine');
    const { frame, states } = snapshot;
    this.frame = frame;
    this.turnTo(frame);
    this.finish.restore(snapshot.memory);
    this.memories.restoreFields(this.plan, snapshot.fields);
    this.media.restore(snapshot.fields);
    for (const swarm of this.plan.swarms) {
      if (swarm.bake) replayTo(swarm, frame, this.motion);
      else this.memories.restore(swarm, states.get(swarm.id)!);
    }
    this.past.complete();
  }

  /** One quantity of all slots of a swarm: a live view, in metres, m/s or seconds. */
  state(swarm: string, name: string): Float32Array {
    return this.memories.state(swarm, name);
  }

  /** Values of a field under the name of a buffer, cell by cell: a live view. */
  field(buffer: string): Float32Array {
    return this.memories.field(buffer);
  }

  /** A plane of a medium by the name of the buffer, with its rim: a live view. */
  medium(id: string, name: string): Float32Array {
    return this.media.plane(mediumBuffer(id, name));
  }

  mediumPlane(id: string, name: string): Promise<Float32Array> {
    return Promise.resolve(this.medium(id, name).slice());
  }

  /** The look of a swarm's particles now, one array of all slots for each of READINGS. */
  readings(id: string): Record<(typeof READINGS)[number], Float32Array> {
    const swarm = this.swarm(id);
    return this.read(swarm, swarm.readings(), READINGS);
  }

  /** How a mesh body of a swarm shows its particles now: one array of all slots for each of INSTANCE. */
  instances(id: string, body: string): Record<(typeof INSTANCE)[number], Float32Array> {
    const swarm = this.swarm(id);
    const draw = swarm.draws.find((d) => d.id === body);
    if (draw?.shape !== 'meshes' || !draw.instances)
      throw new Error(`cpu: ${id} has no mesh body ${body}`);
    return this.read(swarm, draw.instances(), INSTANCE);
  }

  /** Outputs of a kernel for all slots of a swarm, by the names that it stores. */
  private read<T extends string>(
    swarm: SwarmPlan,
    kernel: PlanKernel,
    names: readonly T[],
  ): Record<T, Float32Array> {
    const { id, capacity } = swarm;
    for (const name of names) this.arena.buffer(bufferOf(id, name), 4 * capacity);
    const base = sceneInputs(this.plan, this.frame, { width: 0, height: 0 }, 0);
    const inputs = { ...base, born: this.bornAt(swarm) };
    this.kernels.run(kernel, 0, capacity, this.memories.address(swarm), inputs);
    const found = names.map((name) => [name, this.memories.state(id, name).slice()]);
    return Object.fromEntries(found) as Record<T, Float32Array>;
  }

  /** The whole state of a swarm: the slots in use, in the order of SwarmPlan.state. */
  stateOf(id: string): Promise<Float32Array[]> {
    const count = Math.min(this.born(id), this.memories.slots(id));
    const { state } = this.swarm(id);
    return Promise.resolve(state.map((name) => this.state(id, name).slice(0, count)));
  }

  /** All that is to be known of a swarm's particles now, by slot. */
  particles(id: string): Promise<Particles> {
    const look = this.readings(id) as Record<string, Float32Array | undefined>;
    return Promise.resolve(particlesOf((name) => look[name] ?? this.state(id, name)));
  }

  /** Ids below this have been born. */
  born(id: string): number {
    return this.bornAt(this.swarm(id));
  }
}
