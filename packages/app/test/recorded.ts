import type { LiveEngine } from '@vast-swarm/core/play';
import type { CpuEngine } from '@vast-swarm/cpu';

/** What tests of recording share: an engine that draws nothing, and the comparison with what was seen. */

export function undrawn(engine: CpuEngine): LiveEngine {
  return Object.assign(engine, {
    kind: 'cpu' as const,
    threads: 1,
    show: () => Promise.resolve(),
    aliveBy: () => ({}),
    crash: () => undefined,
  });
}

/** Plays the engine's plan from the beginning: each frame that was seen, from one on, is as it was; gives how many were. */
export async function playedAgain(
  engine: CpuEngine,
  stateOf: (engine: CpuEngine) => string,
  seen: ReadonlyMap<number, string>,
  [from, to]: [number, number],
): Promise<number> {
  engine.reset();
  let compared = 0;
  for (let frame = 0; frame <= to; frame++) {
    await engine.ready();
    engine.step();
    const state = seen.get(frame);
    if (state === undefined || frame < from) continue;
    expect([frame, stateOf(engine)]).toEqual([frame, state]);
    compared += 1;
  }
  return compared;
}
