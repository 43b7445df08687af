import { compilePiece } from '@vast-swarm/core/plan';
import { CpuEngine } from '@vast-swarm/cpu';
import type { Result } from '../inPage';
import { bestOf } from '../report';
import { CONTESTS, type Contest } from './contests';
import { rendered } from './render';

const RUNS = 12;

// Some of the library's passes ask the window for its size, and a worker has none.
Object.assign(self, { window: { innerWidth: 1, innerHeight: 1 } });

/** The least milliseconds of our CPU engine, on two threads. */
async function ours({ ours: piece, size, after, finish }: Contest): Promise<number> {
  const engine = await CpuEngine.create({ threads: 2 });
  engine.setPlan(compilePiece(piece));
  do engine.step();
  while (engine.frame < after);
  const least = bestOf(RUNS, () => {
    engine.draw(size.width, size.height);
    const { look, draw, finish: done } = engine.times;
    return finish ? done : look + draw;
  });
  engine.close();
  return least;
}

/** Gives the result of the contest of that number, or null where there is none. */
self.onmessage = async ({ data }: MessageEvent<number>) => {
  try {
    const contest = CONTESTS[data]?.();
    if (!contest) {
      postMessage(null);
      return;
    }
    const theirs = rendered(contest.scene(), contest.size, contest.passes?.());
    postMessage({ name: contest.name, ours: await ours(contest), theirs } satisfies Result);
  } catch (error) {
    postMessage({ error: String(error) } satisfies Result);
  }
};
