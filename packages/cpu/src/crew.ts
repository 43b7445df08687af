import {
  ARG,
  JOB,
  KERNEL,
  LOAD,
  NEXT,
  RASTER_FUNCTIONS,
  TARGET,
  TASKS,
  type RasterFunction,
} from './control';

type Run = (begin: number, end: number, params: number) => void;
type Raster = (task: number, args: number, thread: number) => void;

/**
 * One thread's own instances of the modules, and how it does its share of a job. The thread that
 * gives the orders has one too.
 */
export class Crew {
  private readonly kernels: Run[] = [];
  private readonly raster: Raster[];
  private readonly words: Int32Array;

  constructor(
    private readonly memory: WebAssembly.Memory,
    rasteriser: BufferSource,
    private readonly thread: number,
    /** Is called again and again by what takes long. */
    private readonly beat: () => void,
  ) {
    this.words = new Int32Array(memory.buffer);
    const { exports } = this.instance(rasteriser);
    this.raster = RASTER_FUNCTIONS.map((name: RasterFunction) => exports[name] as Raster);
  }

  private instance(bytes: BufferSource): WebAssembly.Instance {
    const abort = (): never => {
      throw new Error('the rasteriser stopped');
    };
    const module = new WebAssembly.Module(bytes);
    const env = { memory: this.memory, abort };
    return new WebAssembly.Instance(module, { env, beat: { beat: this.beat } });
  }

  /** Takes tasks until none is left. */
  work(): void {
    const { words } = this;
    const target = words[TARGET]!;
    const [a, b, c, d] = [words[ARG]!, words[ARG + 1]!, words[ARG + 2]!, words[ARG + 3]!];
    if (words[JOB] === LOAD) {
      // A module is not compiled from shared memory: copy first.
      // Words have a sign, and addresses none.
      const bytes = new Uint8Array(this.memory.buffer, a >>> 0, b).slice();
      this.kernels[target] = this.instance(bytes).exports.run as Run;
      return;
    }
    const tasks = words[TASKS]!;
    const isKernel = words[JOB] === KERNEL;
    for (let i = Atomics.add(words, NEXT, 1); i < tasks; i = Atomics.add(words, NEXT, 1)) {
      this.beat();
      if (isKernel) this.kernels[target]!(a + i * d, Math.min(b, a + (i + 1) * d), c);
      else this.raster[target]!(i, a, this.thread);
    }
  }
}
