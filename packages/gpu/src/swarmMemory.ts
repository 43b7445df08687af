import {
  GIVEN_TO_MEDIA,
  GRID_BUFFERS,
  isDrawnTogether,
  itemsOf,
  outputsOf,
  placesOf,
  READINGS,
  ringName,
  ringOf,
  rowsOf,
  sortsByMean,
  type Draw,
  type FieldPlan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import { STATE } from '@vast-swarm/core/kinds';
import { storedAt } from '@vast-swarm/core/play';
import { listGroups } from './lists';
import { COPY } from './shaders';
import type { Work } from './work';

const STORAGE = (): number =>
  GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;

type Layout = [name: string, words: number][];

/** Lanes that a body's outputs take: all repeats at once, or row after row. */
function lanesOf(draw: Draw, capacity: number, copies: number): number {
  return capacity * (isDrawnTogether(draw) ? copies : rowsOf(draw));
}

/** Things to be sorted that a body is made of, where they are not its particles. */
function meansOf(draw: Draw, capacity: number, copies: number): number {
  if (!sortsByMean(draw)) return 0;
  return capacity * itemsOf(draw) * (isDrawnTogether(draw) ? copies : 1);
}

/** Layout of the bodies while they are drawn, one after the other. */
function drawingLayout({ capacity, copies, draws }: SwarmPlan): Layout {
  const sizes = new Map<string, number>();
  const want = (name: string, words: number): void => {
    sizes.set(name, Math.max(sizes.get(name) ?? 0, words));
  };
  for (const draw of draws) {
    for (const name of outputsOf(draw)) want(name, lanesOf(draw, capacity, copies.length));
    const items = meansOf(draw, capacity, copies.length);
    if (items > 0) want('means', items);
    if (draw.shape !== 'links') continue;
    want('links.ranks', capacity);
    want('links.kept', capacity);
    want('links.ends', capacity * draw.most);
    want('links.pairs', capacity * draw.most);
    want('links.limit', 4);
  }
  // Readings for files stand here too.
  for (const name of READINGS) want(name, capacity);
  return [...sizes];
}

/** Blocks go by their place: another array of the same size takes the room of the one before. */
export function blockLayout(blocks: ReadonlyMap<string, Float32Array>): Layout {
  return [...blocks.values()].map((values, i) => [blockName(i), Math.max(4, values.length)]);
}

export function blockName(place: number): string {
  return `block ${String(place)}`;
}

function gridLayout({ id, capacity, grid, draws }: SwarmPlan, { fields }: Around): Layout {
  const grids = [grid, ...draws.map((d) => (d.shape === 'links' ? d.grid : null))];
  const gathers = fields.flatMap((f) => f.gathers).filter((g) => g.swarm === id);
  const cells = [...grids, ...gathers.map((g) => g.sort)].map((sort) => sort?.cells ?? 0);
  const most = Math.max(...cells);
  return most > 0 ? Object.entries(GRID_BUFFERS(capacity, most)) : [];
}

/** Where the swarm's kernels read fields and media, and leave something in them. */
function fieldLayout({ id, capacity, gives, fields: read }: SwarmPlan, { fields }: Around): Layout {
  const given = fields.filter((f) => f.gathers.some((g) => g.swarm === id));
  return [
    ...read,
    ...(gives.size > 0 ? GIVEN_TO_MEDIA : []).map((name): [string, number] => [
      `give.${name}`,
      capacity,
    ]),
    ...given.flatMap((f) => f.left.map((name): [string, number] => [name, f.cells])),
  ];
}

/** Inputs of a swarm's memory beside the swarm. */
export interface Around {
  /** Slots of the swarm it is born from. */
  parentCapacity: number;
  fields: readonly FieldPlan[];
}

/** Layout of a swarm's memory; the state comes first. */
function layoutOf(swarm: SwarmPlan, around: Around): Layout {
  const { capacity, state, tables, blocks } = swarm;
  return [
    ...state.map((name): [string, number] => [name, capacity]),
    ...drawingLayout(swarm),
    ...(swarm.parent === null ? [] : STATE).map((name): [string, number] => [
      `parent.${name}`,
      around.parentCapacity,
    ]),
    ...gridLayout(swarm, around),
    ...fieldLayout(swarm, around),
    ...[...swarm.tracks].map(([name, { words }]): [string, number] => [name, words]),
    ['tables', Math.max(4, tables.length)],
    ...blockLayout(blocks),
  ];
}

/**
 * One swarm's buffers in one storage buffer: state, what is drawn, a copy of the state of the swarm
 * it is born from, grid, tables, data. Offsets are in words.
 */
export class SwarmMemory {
  readonly id: string;
  readonly buffer: GPUBuffer;
  readonly capacity: number;
  readonly state: readonly string[];
  private readonly places = new Map<string, number>();
  private readonly written = new Map<string, Float32Array>();
  private readonly layout: string;

  constructor(
    readonly device: GPUDevice,
    swarm: SwarmPlan,
    around: Around,
  ) {
    this.id = swarm.id;
    this.capacity = swarm.capacity;
    this.state = swarm.state;
    const layout = layoutOf(swarm, around);
    this.layout = JSON.stringify(layout);
    let words = 0;
    for (const [name, size] of layout) {
      this.places.set(name, words);
      words += size;
    }
    this.buffer = device.createBuffer({ size: 4 * words, usage: STORAGE() });
  }

  /** Whether a plan of the swarm can go on in this memory. */
  fits(swarm: SwarmPlan, around: Around): boolean {
    return JSON.stringify(layoutOf(swarm, around)) === this.layout;
  }

  address = (name: string): number => {
    const at = this.places.get(name);
    if (at === undefined) throw new Error(`gpu: there is no buffer '${name}'`);
    return at;
  };

  /** Brings over tables, and data that is not there yet. */
  write(plan: SwarmPlan): void {
    this.put('tables', plan.tables);
    [...plan.blocks].forEach(([name, values], i) => {
      const room = blockName(i);
      this.places.set(name, this.address(room));
      if (this.written.get(room) === values) return;
      this.put(room, values);
      this.written.set(room, values);
    });
  }

  /** A track's block of the frame that is stepped to. */
  takeTrack(name: string, values: Float32Array): void {
    if (this.written.get(name) === values) return;
    this.put(name, values);
    this.written.set(name, values);
  }

  put(name: string, values: Float32Array): void {
    if (values.length === 0) return;
    const at = 4 * this.address(name);
    this.device.queue.writeBuffer(this.buffer, at, values as Float32Array<ArrayBuffer>);
  }

  /** The state of the swarm that this one is born from, where its births can read it. */
  copyParent(work: Work, parent: SwarmMemory): void {
    for (const name of STATE) {
      const [from, to] = [4 * parent.address(name), 4 * this.address(`parent.${name}`)];
      work.copy(parent.buffer, from, this.buffer, to, 4 * parent.capacity);
    }
  }

  /** Keeps where the particles are, for their trails. */
  remember(work: Work, { history }: SwarmPlan, frame: number): void {
    for (const place of placesOf(history)) {
      const to = this.address(ringName(ringOf(frame, history.rows), place));
      const words = [this.address(place), to, this.capacity];
      work.run(COPY, 'main', this.buffer, words, listGroups(this.capacity));
    }
  }

  /** State and history of a frame from the swarm's bake. */
  replay(swarm: SwarmPlan, frame: number): void {
    const kept: readonly string[] = placesOf(swarm.history);
    for (const [name, stored] of storedAt(swarm, frame)) {
      const values = new Float32Array(this.capacity);
      if (stored) values.set(stored);
      this.put(name, values);
      if (kept.includes(name)) this.put(ringName(ringOf(frame, swarm.history.rows), name), values);
    }
  }

  /** After the memory was cleared. */
  forget(): void {
    this.written.clear();
  }

  /** Bytes of the state, which stands first. */
  get stateBytes(): number {
    return 4 * this.state.length * this.capacity;
  }
}
