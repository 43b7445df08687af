import { knowsPast, type FinishPlan, type FinishStep } from '@vast-swarm/core/plan';
import { PLANES, strideOf, type FrameInputs } from '@vast-swarm/core/kinds';
import type { FrameMemory } from './frameMemory';
import type { Work } from './work';

/** Which side of a memory holds which frame. */
interface Memory {
  frame: number;
  now: 'a' | 'b';
}

/** Runs the finish: treats the drawn frame step by step, up to its words. */
export class Finish {
  private memories = new Map<string, Memory>();

  run(work: Work, plan: FinishPlan, frame: FrameMemory, inputs: FrameInputs): void {
    let set = 'frame';
    for (const step of plan.steps) {
      switch (step.type) {
        case 'keep':
          frame.add(work, set, 'was', 0, 1);
          break;
        case 'bloom':
          frame.bloom(work, set, step.at(inputs.time));
          break;
        case 'blur':
          frame.blur(work, set, step.radius(inputs.time));
          break;
        case 'remember':
          this.remember(work, step.id, frame, set, inputs.frame);
          break;
        case 'pixels':
          this.kernel(work, step, frame, set, set, 0, inputs);
          break;
        case 'around':
          for (let pass = 0; pass < step.passes; pass++) {
            const to = set === 'frame' ? 'turn' : 'frame';
            this.kernel(work, step, frame, set, to, pass, inputs);
            set = to;
          }
      }
    }
  }

  private kernel(
    work: Work,
    step: FinishStep & { type: 'pixels' | 'around' },
    frame: FrameMemory,
    from: string,
    to: string,
    pass: number,
    inputs: FrameInputs,
  ): void {
    const { width, height } = frame;
    const past = step.past === undefined ? 'black' : this.pastOf(step.past, inputs.frame);
    const layer = step.layer === undefined || step.layer === '' ? 'black' : `layer/${step.layer}`;
    const sets: Record<string, string> = { was: 'was', past, layer, to };
    const address = (name: string): number => {
      const [set, plane] = name.split('.') as [string, string?];
      if (plane === undefined || /^(data|track|medium)\//.test(name))
        return frame.address(from)(name);
      return frame.planes(sets[set]!).at[PLANES.indexOf(plane as 'r')]!;
    };
    const stride = strideOf(width);
    work.kernel(step.kernel, frame.buffer, 0, stride * height, address, inputs, {
      pass,
      'past.width': width,
      'past.height': height,
      'past.stride': stride,
    });
  }

  private pastOf(id: string, frame: number): string {
    const memory = this.memories.get(id);
    const other = memory?.now === 'a' ? 'b' : 'a';
    if (memory?.frame === frame - 1) return `memory/${id}/${memory.now}`;
    return memory?.frame === frame ? `memory/${id}/${other}` : 'black';
  }

  /** Whether the frames before this one have been drawn, so that the finish is as it should be. */
  knows(plan: FinishPlan, frame: number): boolean {
    return knowsPast(plan, frame, (id) => this.memories.get(id)?.frame);
  }

  private remember(work: Work, id: string, frame: FrameMemory, set: string, at: number): void {
    const memory = this.memories.get(id) ?? { frame: -Infinity, now: 'b' as const };
    let { now } = memory;
    if (memory.frame !== at) {
      now = now === 'a' ? 'b' : 'a';
      if (memory.frame !== at - 1) {
        const before = `memory/${id}/${now === 'a' ? 'b' : 'a'}`;
        frame.add(work, before, before, 0, 0);
      }
    }
    frame.add(work, set, `memory/${id}/${now}`, 0, 1);
    this.memories.set(id, { frame: at, now });
  }

  forget(): void {
    this.memories = new Map();
  }
}
