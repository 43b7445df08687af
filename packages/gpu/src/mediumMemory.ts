import {
  GIVEN_TO_MEDIA,
  LEFT_IN_MEDIA,
  type MediumPass,
  type MediumPlan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import { mediumBuffer, type FrameInputs } from '@vast-swarm/core/kinds';
import { floatWord, listGroups } from './lists';
import { LEAVE } from './shaders';
import { blockLayout, blockName, type SwarmMemory } from './swarmMemory';
import type { Work } from './work';

type Layout = [name: string, words: number][];

/** Where planes of a medium are wanted beside it. */
export interface Reader {
  buffer: GPUBuffer;
  /** Word at which a buffer begins. */
  address: (name: string) => number;
}

/** Layout of a medium's memory: kept values come first. */
function layoutOf({ id, kept, buffers, tables, tracks, fields, blocks }: MediumPlan): Layout {
  const rest = [...buffers].filter(([name]) => !kept.includes(name));
  return [
    ...kept.map((name): [string, number] => [name, buffers.get(name)!]),
    ...rest,
    ...[...tracks].map(([name, { words }]): [string, number] => [mediumBuffer(id, name), words]),
    ...fields,
    [mediumBuffer(id, 'tables'), Math.max(4, tables.length)],
    ...blockLayout(blocks),
  ];
}

/** A medium's planes in one storage buffer. */
export class MediumMemory implements Reader {
  readonly buffer: GPUBuffer;
  private readonly layout: string;
  private readonly places = new Map<string, number>();
  private readonly written = new Map<string, Float32Array>();
  /** The plan whose passes of one time have been run. */
  private known: MediumPlan | null = null;

  constructor(
    private readonly device: GPUDevice,
    private plan: MediumPlan,
  ) {
    const layout = layoutOf(plan);
    this.layout = JSON.stringify(layout);
    let words = 0;
    for (const [name, size] of layout) {
      this.places.set(name, words);
      words += size;
    }
    const usage = GPUBufferUsage.STORAGE | GPUBufferUsage.COPY_SRC | GPUBufferUsage.COPY_DST;
    this.buffer = device.createBuffer({ size: 4 * words, usage });
    this.write();
  }

  /** Takes a plan of the medium, where it can go on in this memory. */
  takes(plan: MediumPlan): boolean {
    if (JSON.stringify(layoutOf(plan)) !== this.layout) return false;
    this.plan = plan;
    this.write();
    return true;
  }

  private write(): void {
    this.put(mediumBuffer(this.plan.id, 'tables'), this.plan.tables);
    [...this.plan.blocks].forEach(([name, values], i) => {
      this.places.set(name, this.address(blockName(i)));
      this.put(blockName(i), values);
    });
  }

  /** Once more, after the memory was cleared. */
  begin(): void {
    this.known = null;
    this.written.clear();
    this.write();
  }

  isNew(): boolean {
    const fresh = this.known !== this.plan;
    this.known = this.plan;
    return fresh;
  }

  readonly address = (name: string): number => {
    const at = this.places.get(name);
    if (at === undefined) throw new Error(`gpu: the medium has no '${name}'`);
    return at;
  };

  private put(name: string, values: Float32Array): void {
    if (values.length === 0 || this.written.get(name) === values) return;
    this.written.set(name, values);
    const at = 4 * this.address(name);
    this.device.queue.writeBuffer(this.buffer, at, values as Float32Array<ArrayBuffer>);
  }

  takeTrack(buffer: string, values: Float32Array): void {
    this.put(mediumBuffer(this.plan.id, buffer), values);
  }

  /** Copies planes to where others read them. */
  lend(work: Work, to: Reader, names: Iterable<string>): void {
    for (const name of names) {
      const words = this.plan.buffers.get(name);
      if (words === undefined) continue;
      work.copy(this.buffer, 4 * this.address(name), to.buffer, 4 * to.address(name), 4 * words);
    }
  }

  /** Names of what its kernels read of fields and of other media. */
  get reads(): Iterable<string> {
    return this.plan.fields.keys();
  }

  /** Adds up what a swarm's particles give; as whole numbers, whose order does not count. */
  leave(
    work: Work,
    swarm: SwarmPlan,
    memory: SwarmMemory,
    slots: number,
    fresh: boolean,
    inputs: FrameInputs,
  ): void {
    const { id, space, leaving } = this.plan;
    work.kernel(swarm.gives.get(id)!, memory.buffer, 0, slots, memory.address, inputs);
    const { cells, gain } = leaving.radius(inputs.time);
    const { columns, lines, stride, words } = space;
    const left = LEFT_IN_MEDIA.map((name) => this.address(mediumBuffer(id, `left.${name}`)));
    const given = GIVEN_TO_MEDIA.map((name) => memory.address(`give.${name}`));
    const about = [slots, columns, lines, stride, space.edges === 'wrap' ? 1 : 0, words];
    const all = [...about, floatWord(cells), floatWord(gain), ...given, ...left];
    work.run(LEAVE, fresh ? 'clear' : 'whole', this.buffer, all, listGroups(words));
    work.run(LEAVE, 'leave', this.buffer, all, listGroups(slots), [{ buffer: memory.buffer }]);
    work.run(LEAVE, 'settle', this.buffer, all, listGroups(words));
  }

  leaveNothing(work: Work): void {
    for (const name of LEFT_IN_MEDIA) {
      const at = this.address(mediumBuffer(this.plan.id, `left.${name}`));
      work.clear(this.buffer, 4 * at, 4 * this.plan.space.words);
    }
  }

  run(work: Work, { kernel, begin, end, at, given }: MediumPass, inputs: FrameInputs): void {
    const address = (name: string): number => this.address(at.get(name)!);
    work.kernel(kernel, this.buffer, begin, end, address, inputs, given);
  }

  /** Bytes of what is kept. */
  get keptBytes(): number {
    return 4 * this.plan.kept.reduce((sum, name) => sum + this.plan.buffers.get(name)!, 0);
  }
}
