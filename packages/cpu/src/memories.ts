import {
  GRID_BUFFERS,
  placesOf,
  remap,
  ringName,
  ringOf,
  type FinishPlan,
  type MediumPlan,
  type Plan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import { storedAt, type Past } from '@vast-swarm/core/play';
import { mediumBuffer } from '@vast-swarm/core/kinds';
import type { Arena } from './arena';
import type { Pool } from './pool';

/** A swarm's buffer: apart from all that belongs to no swarm, whatever its id. */
export function bufferOf(swarm: string, name: string): string {
  return `swarm/${swarm}/${name}`;
}

/** Whether a buffer holds a track that the swarm reads. */
function isTrackOf({ id, tracks }: SwarmPlan, name: string): boolean {
  return [...tracks.keys()].some((buffer) => name === bufferOf(id, buffer));
}

function isMediumTrack({ id, tracks }: MediumPlan, name: string): boolean {
  return [...tracks.keys()].some((buffer) => name === mediumBuffer(id, buffer));
}

/** Memory of a plan: states of swarms, grids, tables, and larger blocks of data. */
export class Memories {
  /** Slots of each swarm. */
  private readonly capacities = new Map<string, number>();
  /** Names of the states that each swarm has, all with as many slots. */
  private readonly states = new Map<string, readonly string[]>();
  /** Blocks of data in memory, by the name of their buffer. */
  private readonly blocks = new Map<string, Float32Array>();
  /** Numbers in each buffer of a field. */
  private readonly fields = new Map<string, number>();

  constructor(
    private readonly pool: Pool,
    readonly arena: Arena,
  ) {}

  floats(address: number, length: number): Float32Array {
    return new Float32Array(this.pool.memory.buffer, address, length);
  }

  /** Where a kernel of the swarm finds its buffers. */
  address(swarm: SwarmPlan): (buffer: string) => number {
    return (buffer) => {
      if (/^(data|field|medium)\//.test(buffer)) return this.arena.address(buffer);
      if (!buffer.startsWith('parent.')) return this.arena.address(bufferOf(swarm.id, buffer));
      return this.arena.address(bufferOf(swarm.parent!, buffer.slice('parent.'.length)));
    };
  }

  /**
   * Readies memory for a plan. States that are there already go on, in their new slots.
   *
   * @param born ids of a swarm below this have been born
   */
  setPlan(plan: Plan, past: Past, born: (swarm: SwarmPlan) => number): void {
    const ids = new Set(plan.swarms.map((s) => s.id));
    for (const id of this.capacities.keys()) if (!ids.has(id)) this.drop(id);
    this.dropBlocks(plan);
    for (const swarm of plan.swarms) this.prepare(swarm, past, born);
    this.prepareFields(plan);
    this.prepareFinish(plan.finish);
  }

  /** Fields of the same cells go on as they are; others begin empty. */
  private prepareFields({ swarms, fields }: Plan): void {
    const wanted = new Map(
      fields.flatMap(({ kept, left, cells }) => [...kept, ...left].map((name) => [name, cells])),
    );
    for (const name of this.fields.keys()) {
      if (this.fields.get(name) === wanted.get(name)) continue;
      this.arena.release(name);
      this.fields.delete(name);
    }
    for (const [name, cells] of wanted) {
      if (this.fields.has(name)) continue;
      this.floats(this.arena.buffer(name, 4 * cells + 16), cells).fill(0);
      this.fields.set(name, cells);
    }
    for (const { swarm: id, sort } of fields.flatMap((f) => f.gathers)) {
      this.readySort(
        swarms.find((s) => s.id === id)!,
        sort.cells,
      );
    }
  }

  private readySort({ id, capacity }: SwarmPlan, cells: number): void {
    for (const [name, words] of Object.entries(GRID_BUFFERS(capacity, cells))) {
      this.arena.buffer(bufferOf(id, name), 4 * words);
    }
  }

  /** Kept values of a field, by the name of the buffer: a live view. */
  field(name: string): Float32Array {
    return this.floats(this.arena.address(name), this.fields.get(name)!);
  }

  private drop(id: string): void {
    this.capacities.delete(id);
    this.states.delete(id);
    for (const name of this.arena.names())
      if (name.startsWith(bufferOf(id, ''))) this.arena.release(name);
  }

  private dropBlocks(plan: Plan): void {
    for (const name of this.blocks.keys()) {
      const { blocks, tracks } = plan.finish;
      const finish = name.startsWith('finish/') ? name.slice('finish/'.length) : null;
      const own =
        finish === null
          ? plan.swarms.some((s) => s.blocks.has(name) || isTrackOf(s, name)) ||
            plan.media.some((m) => m.blocks.has(name) || isMediumTrack(m, name))
          : blocks.has(finish) || tracks.has(finish);
      if (own) continue;
      this.blocks.delete(name);
      this.arena.release(name);
    }
  }

  private prepare(swarm: SwarmPlan, past: Past, born: (swarm: SwarmPlan) => number): void {
    const { id, capacity, state, history } = swarm;
    const { arena } = this;
    const grids = [swarm.grid, ...swarm.draws.map((d) => (d.shape === 'links' ? d.grid : null))];
    const old = this.capacities.get(id);
    // A state that is not wanted any more would be of the wrong size, or of other frames, when it is wanted again.
    for (const name of this.states.get(id) ?? [])
      if (!state.includes(name)) arena.release(bufferOf(id, name));
    this.states.set(id, state);
    const there = new Set(arena.names());
    // What is not there yet cannot be drawn as if it were.
    if (history.rows > 0 && !there.has(bufferOf(id, ringName(history.rows - 1, 'px'))))
      past.begin(id);
    const moves = old === undefined || old === capacity ? [] : remap(born(swarm), old, capacity);
    for (const name of state) {
      const buffer = bufferOf(id, name);
      if (old === capacity && there.has(buffer)) continue;
      this.moveState(buffer, there.has(buffer) ? (old ?? 0) : 0, capacity, moves);
    }
    this.capacities.set(id, capacity);
    for (const grid of grids) if (grid) this.readySort(swarm, grid.cells);
    const tables = arena.buffer(bufferOf(id, 'tables'), Math.max(4, swarm.tables.byteLength));
    this.floats(tables, swarm.tables.length).set(swarm.tables);
    for (const [name, values] of swarm.blocks) this.keepBlock(name, values);
  }

  private prepareFinish({ tables, blocks }: FinishPlan): void {
    const at = this.arena.buffer('finish/tables', Math.max(16, tables.byteLength));
    this.floats(at, tables.length).set(tables);
    for (const [name, values] of blocks) this.keepBlock(`finish/${name}`, values);
  }

  keepBlock(name: string, values: Float32Array): void {
    if (this.blocks.get(name) === values) return;
    const address = this.arena.buffer(name, Math.max(16, values.byteLength));
    this.floats(address, values.length).set(values);
    this.blocks.set(name, values);
  }

  /** A track's block, where the swarm's kernels read it. */
  takeTrack({ id }: SwarmPlan, buffer: string, values: Float32Array): void {
    this.keepBlock(bufferOf(id, buffer), values);
  }

  /** The same of the finish. */
  takeFinishTrack(buffer: string, values: Float32Array): void {
    this.keepBlock(`finish/${buffer}`, values);
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

  /** Nothing is born. */
  clear({ swarms }: Plan): void {
    for (const name of this.fields.keys()) this.field(name).fill(0);
    for (const { id, state } of swarms) for (const name of state) this.state(id, name).fill(0);
  }

  slots(id: string): number {
    return this.capacities.get(id)!;
  }

  /** One quantity of all slots of a swarm: a live view, in metres, m/s or seconds. */
  state(id: string, name: string): Float32Array {
    return this.floats(this.arena.address(bufferOf(id, name)), this.slots(id));
  }

  /** Copies of what fields keep, by the name of the buffer. */
  copyOfFields({ fields }: Plan): Map<string, Float32Array> {
    return new Map(fields.flatMap((f) => f.kept).map((name) => [name, this.field(name).slice()]));
  }

  restoreFields({ fields }: Plan, states: ReadonlyMap<string, Float32Array>): void {
    for (const name of fields.flatMap((f) => f.kept)) this.field(name).set(states.get(name)!);
  }

  /** Copies of a swarm's states, by name. */
  copyOf({ id, state }: SwarmPlan): Map<string, Float32Array> {
    return new Map(state.map((name) => [name, this.state(id, name).slice()]));
  }

  restore({ id, state }: SwarmPlan, states: ReadonlyMap<string, Float32Array>): void {
    for (const name of state) this.state(id, name).set(states.get(name)!);
  }

  /** Keeps where the particles are, for their trails. */
  remember({ id, history }: SwarmPlan, frame: number): void {
    if (history.rows === 0) return;
    const ring = ringOf(frame, history.rows);
    for (const place of placesOf(history)) {
      this.state(id, ringName(ring, place)).set(this.state(id, place));
    }
  }

  /** State and history of a frame from the swarm's bake. */
  replay(swarm: SwarmPlan, frame: number): void {
    for (const [name, values] of storedAt(swarm, frame)) {
      const to = this.state(swarm.id, name);
      if (values) to.set(values);
      to.fill(0, values?.length ?? 0);
    }
    this.remember(swarm, frame);
  }
}
