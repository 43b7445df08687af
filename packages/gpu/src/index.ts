import type { Engine, Plan, Snapshot } from '@vast-swarm/core';

export class GpuEngine implements Engine {
  frame = -1;
  alive: Record<string, number> = {};
  times: Record<string, number> = {};
  memoryBytes = 0;
  static async open(_: { allowSoftware: boolean }): Promise<GpuEngine | string> {
    return 'not yet';
  }
  attach(_: OffscreenCanvas): void {}
  async present(_w: number, _h: number): Promise<void> {}
  async recover(): Promise<void> {}
  loseDevice(): void {}
  setPlan(_: Plan): void {}
  reset(): void {}
  step(): void {}
  save(): Snapshot { return { frame: 0, bytes: 0, release() {} }; }
  restore(_: Snapshot): void {}
}
