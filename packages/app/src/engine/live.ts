import type { LiveEngine } from '@vast-swarm/core/play';
import { CpuEngine } from '@vast-swarm/cpu';
import type { EngineChoice } from './messages';

async function cpu(canvas: OffscreenCanvas): Promise<LiveEngine> {
  // Without isolation from other pages memory cannot be shared, and one thread has to do.
  const threads = crossOriginIsolated ? Math.min(16, navigator.hardwareConcurrency) : 1;
  const engine = await CpuEngine.create({ threads, patience: 2500 });
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  return Object.assign(engine, {
    kind: 'cpu' as const,
    threads,
    show(width: number, height: number, moments: number) {
      const { pixels } = engine.draw(width, height, 1, moments);
      if (canvas.width !== width || canvas.height !== height) {
        canvas.width = width;
        canvas.height = height;
      }
      context.putImageData(new ImageData(pixels, width, height), 0, 0);
      return Promise.resolve();
    },
    aliveBy: () => Object.fromEntries(engine.alive()),
    crash: () => {
      engine.crashHelper();
    },
  });
}

/** The GPU engine where there is a usable adapter, unless the artist says otherwise. */
export async function chooseEngine(
  choice: EngineChoice,
  canvas: OffscreenCanvas,
): Promise<LiveEngine> {
  if (choice !== 'cpu') {
    const { openGpu } = await import('./liveGpu');
    const opened = await openGpu(canvas, choice === 'gpu');
    if (typeof opened !== 'string') return opened;
  }
  return cpu(canvas);
}
