import { GpuEngine } from '@vast-swarm/gpu';
import type { LiveEngine } from '@vast-swarm/core/play';

/** The GPU engine on the canvas, or in words why not. Software adapters only when `insisted`. */
export async function openGpu(
  canvas: OffscreenCanvas,
  insisted: boolean,
): Promise<LiveEngine | string> {
  const engine = await GpuEngine.open({ allowSoftware: insisted });
  if (typeof engine === 'string') return engine;
  engine.attach(canvas);
  return Object.assign(engine, {
    kind: 'gpu' as const,
    threads: 0,
    show: (width: number, height: number, moments: number) =>
      engine.present(width, height, moments),
    aliveBy: () => engine.alive,
    crash: () => {
      engine.loseDevice();
    },
  });
}
