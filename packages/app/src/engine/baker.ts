import type { Plan } from '@vast-swarm/core/plan';
import type { Playback } from '@vast-swarm/core/play';
import { BakeWriter, OpenBake, removeBakeFile } from './bakes';
import type { LiveEngine } from '@vast-swarm/core/play';
import type { BakeFile, EngineEvent } from './messages';

interface Baking {
  swarm: string;
  file: string;
  writer: BakeWriter | null;
  /** The bake that goes when the new one is whole. */
  before: string | null;
}

/** Swarms that a control switches on the way, or gives other room, cannot be played from one store. */
function checkStored(plan: Plan, frame: number, swarm: string): void {
  const of = ({ swarms }: Plan): number | undefined => swarms.find((s) => s.id === swarm)?.capacity;
  if (of(plan.at(frame)) === of(plan)) return;
  throw new Error(`A control switches it at frame ${String(frame)}; take that back to store it`);
}

/** Stores the motion of swarms, and holds what is stored open. */
export class Baker {
  /** Stored motion, by swarm. */
  readonly bakes = new Map<string, OpenBake>();
  private baking: Baking | null = null;

  constructor(
    private readonly engine: LiveEngine,
    private readonly playback: Playback,
    private readonly send: (message: EngineEvent) => void,
    /** A bake is whole, or was given up. */
    private readonly ended: () => void,
  ) {}

  get busy(): boolean {
    return this.baking !== null;
  }

  /** Opens the bakes that are wanted; removes the others. */
  async open(files: readonly BakeFile[]): Promise<void> {
    const wanted = new Set(files.map((f) => f.file));
    for (const [swarm, bake] of this.bakes) {
      if (wanted.has(bake.name)) continue;
      bake.close();
      this.bakes.delete(swarm);
      await removeBakeFile(bake.name);
    }
    for (const file of files) {
      if (this.bakes.get(file.swarm)?.name === file.file) continue;
      const bake = await OpenBake.open(file);
      if (bake) this.bakes.set(file.swarm, bake);
    }
  }

  begin(swarm: string, file: string): void {
    if (this.baking) return;
    const before = this.bakes.get(swarm)?.name ?? null;
    this.baking = { swarm, file, writer: null, before };
  }

  /**
   * A slice of a bake: from before the first frame to the last, whatever is shown meanwhile.
   *
   * @param simulate makes the swarm move by itself again
   */
  async slice(
    milliseconds: number,
    planned: () => Plan,
    simulate: () => Promise<void>,
  ): Promise<void> {
    const baking = this.baking!;
    const { swarm, file } = baking;
    try {
      if (!baking.writer) {
        this.bakes.get(swarm)?.close();
        this.bakes.delete(swarm);
        baking.writer = await BakeWriter.create(file);
        await simulate();
        this.playback.restart();
      }
      const { length } = planned().frame;
      const start = performance.now();
      while (this.baking === baking && performance.now() - start < milliseconds) {
        await this.playback.ready();
        this.playback.advance();
        const { frame } = this.playback;
        if (frame < 0) continue;
        checkStored(planned(), frame, swarm);
        baking.writer.add(this.engine.born(swarm), await this.engine.stateOf(swarm));
        if (frame >= length - 1) {
          await this.finish(planned(), baking, baking.writer);
          break;
        }
      }
      if (this.baking !== baking) return;
      const done = Math.max(0, this.playback.frame + 1);
      this.send({ type: 'baking', swarm, done, total: length });
    } catch (error) {
      await this.stop(error instanceof Error ? error.message : String(error));
    }
  }

  private async finish(plan: Plan, baking: Baking, writer: BakeWriter): Promise<void> {
    const { swarm, file, before } = baking;
    const { capacity, state, motionKey } = plan.swarms.find((s) => s.id === swarm)!;
    const { bytes, born } = writer;
    writer.end();
    writer.close();
    this.baking = null;
    const last = plan.frame.length - 1;
    const bake: BakeFile = { swarm, file, first: 0, last, capacity, state, born };
    const opened = await OpenBake.open(bake);
    if (opened) this.bakes.set(swarm, opened);
    if (before !== null) await removeBakeFile(before);
    this.send({ type: 'baked', swarm, bake, bytes, key: motionKey });
    this.ended();
  }

  /** Gives up a bake; what was written goes. */
  async stop(message: string | null): Promise<void> {
    const { baking } = this;
    if (!baking) return;
    this.baking = null;
    baking.writer?.close();
    await removeBakeFile(baking.file);
    this.send({ type: 'bakeStopped', swarm: baking.swarm, message });
    this.ended();
  }
}
