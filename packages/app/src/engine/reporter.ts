import {
  census,
  mediumCensus,
  type Census,
  type LiveEngine,
  type MediumCensus,
} from '@vast-swarm/core/play';
import { KEPT_BY_MEDIA, type CameraPose } from '@vast-swarm/core/kinds';
import type { Piece } from '@vast-swarm/core/piece';
import type { Plan } from '@vast-swarm/core/plan';
import type { EngineEvent, FrameReport } from './messages';

/** Seconds ahead that sounds are told of, which cues start: they have to be made ready. */
const SOUNDS_AHEAD = 0.3;
/** Milliseconds over which frames a second are counted, and the least of them. */
const [COUNTED, ENOUGH] = [2000, 200];

/** How a session stands when a frame is shown. */
type Standing = Pick<
  FrameReport,
  'frame' | 'playing' | 'width' | 'height' | 'settling' | 'exact' | 'late' | 'lateFrames'
>;

/** Tells the page how the engine stands after each frame, and counts for it. */
export class Reporter {
  /** When the latest frames were shown, in milliseconds. */
  private shown: number[] = [];

  constructor(
    private readonly engine: LiveEngine,
    private readonly send: (message: EngineEvent) => void,
  ) {}

  /** Counts frames a second from here on. */
  restart(): void {
    this.shown = [];
  }

  frame(standing: Standing, piece: Piece, plan: Plan): void {
    const { kind, threads, times, memoryBytes } = this.engine;
    const fps = this.counted(standing.playing);
    const aliveBy = this.engine.aliveBy();
    const alive = Object.values(aliveBy).reduce((a, b) => a + b, 0);
    const about = { alive, aliveBy, fps, threads, engine: kind, times: { ...times }, memoryBytes };
    const report = { ...standing, ...about, ...controlsAt(standing.frame, piece, plan) };
    this.send({ type: 'frame', report });
  }

  /** Frames a second of late. */
  private counted(playing: boolean): number {
    const now = performance.now();
    if (playing) this.shown = [...this.shown.filter((t) => now - t < COUNTED), now];
    const [first] = this.shown;
    const span = first === undefined ? 0 : now - first;
    return span > ENOUGH ? ((this.shown.length - 1) * 1000) / span : 0;
  }

  /** How many particles of a swarm are seen now; 0 of one that is not running. */
  async census(
    swarm: string,
    piece: Piece | null,
    plan: Plan | undefined,
    camera: () => CameraPose,
  ): Promise<Census> {
    if (!piece || !plan?.swarms.some((s) => s.id === swarm)) {
      return { born: 0, alive: 0, inFrame: 0, largeEnough: 0, brightEnough: 0 };
    }
    const particles = await this.engine.particles(swarm);
    return census(this.engine.born(swarm), particles, camera(), piece.frame);
  }

  /** Counts of a medium's cells; null where it is not running. */
  async mediumCensus(id: string, plan: Plan | undefined): Promise<MediumCensus | null> {
    const medium = plan?.media.find((m) => m.id === id);
    if (!medium) return null;
    const planes = {} as Record<(typeof KEPT_BY_MEDIA)[number], Float32Array>;
    for (const name of KEPT_BY_MEDIA) planes[name] = await this.engine.mediumPlane(id, name);
    return mediumCensus(medium.space, planes);
  }
}

/** Controls at the frame that is shown, the cue that began last, and the sounds that cues start up to a little later. */
function controlsAt(
  shown: number,
  { controls, cues }: Piece,
  { score, frame }: Plan,
): Pick<FrameReport, 'controls' | 'cue' | 'started'> {
  if (!score) return { controls: {}, cue: null, started: [] };
  const time = (shown + 1) / frame.rate;
  const cue = score.until(time).begun.findLast((b) => b.at < time) ?? null;
  const now = controls.map(({ id }) => [id, score.at(id, time)] as const);
  const known = now.filter(([, value]) => value !== undefined);
  const sounding = cues.some((c) => c.on && c.dials.sound);
  const soon = time + SOUNDS_AHEAD;
  return {
    controls: Object.fromEntries(known) as FrameReport['controls'],
    cue,
    started: sounding ? score.until(soon).sounds.filter((s) => s.at < soon) : [],
  };
}
