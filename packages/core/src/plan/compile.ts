import { rangeOf, type NumberFeed } from '../feeds/feeds';
import { kindOf } from '../catalogue';
import type { Piece, Swarm } from '../piece/schema';
import { BirthSchedule, mostAlive } from './births';
import { PlanCache } from './cache';
import { Tables, type PlanKernel } from './kernelBuilder';
import { backdropKernel, finishSteps, type FinishStep } from './pixelKernels';
import { birthKernel, lookKernel, motionKernel, readingsKernel } from './swarmKernels';

/** How a particle meets what is behind it. */
export type DrawMode = 'add' | 'screen' | 'normal';

export interface SwarmPlan {
  id: string;
  name: string;
  /** Slots, a multiple of 4. A particle's slot is its id modulo the capacity. */
  capacity: number;
  births: BirthSchedule;
  birth: PlanKernel;
  motion: PlanKernel;
  look: PlanKernel;
  /** For files: see READINGS. Made when asked for. */
  readings: () => PlanKernel;
  /** Samples of shapes and gradients, for the buffer `tables`. */
  tables: Float32Array;
  mode: DrawMode;
  /** Edge factor of the disc, see BodyKind.edge. */
  edge: number;
}

/** What the artist should know, in numbers. */
export interface Notice {
  part: string;
  message: string;
}

/** A piece made ready for an engine. */
export interface Plan {
  frame: Piece['frame'];
  swarms: SwarmPlan[];
  /** The empty picture. */
  backdrop: PlanKernel;
  finish: FinishStep[];
  notices: Notice[];
  /** Equal plans of motion have equal keys: the state of one is the state of the other. */
  motionKey: string;
}

/** Most particles alive at once, over all swarms; what a browser tab can hold with room to spare. */
export const MOST_PARTICLES = 4_000_000;

/** Seconds of the start of a frame; frame 0 is at 0. */
export function timeOf(frame: number, rate: number): number {
  return frame / rate;
}

/** @param cache of the compiles before, when the same piece is compiled again and again */
export function compilePiece(piece: Piece, cache = new PlanCache()): Plan {
  const notices: Notice[] = [];
  let left = MOST_PARTICLES;
  const swarms = piece.swarms
    .filter((s) => s.on)
    .map((swarm) => {
      const { seed, frame, forces, influence, camera } = piece;
      const key = JSON.stringify([swarm, seed, frame, forces, influence, camera, left]);
      const compiled = cache.keep(key, () => compileSwarm(piece, swarm, left));
      left -= compiled.plan.capacity;
      if (compiled.notice) notices.push(compiled.notice);
      return compiled.plan;
    });
  const { seed } = piece;
  const backdropKey = JSON.stringify(['backdrop', seed, piece.backdrop]);
  const backdrop = cache.keep(backdropKey, () => backdropKernel(piece));
  const finishKey = JSON.stringify(['finish', seed, piece.finish]);
  const finish = cache.keep(finishKey, () => finishSteps(piece));
  cache.turn();
  return { frame: piece.frame, swarms, backdrop, finish, notices, motionKey: motionKey(piece) };
}

interface Compiled {
  plan: SwarmPlan;
  notice: Notice | null;
}

function compileSwarm(piece: Piece, swarm: Swarm, left: number): Compiled {
  const { rate, preroll, length } = piece.frame;
  const begin = timeOf(-preroll, rate);
  const births = new BirthSchedule(swarm.dials, begin);
  const lifetime = swarm.dials.lifetime as NumberFeed;
  const needed = mostAlive(births, lifetime, begin, timeOf(length, rate), 1 / rate);
  const limit = (swarm.dials.limit as number) || Infinity;
  const most = Math.max(4, Math.min(needed, limit, left));
  const notice =
    most < needed
      ? { part: swarm.id, message: cappedText(swarm, needed, most, limit <= left) }
      : null;
  const capacity = (most + 3) & ~3;
  const tables = new Tables();
  const birth = birthKernel(piece, swarm, tables);
  const motion = motionKernel(piece, swarm, capacity, tables);
  const look = lookKernel(piece, swarm, capacity, tables);
  const body = kindOf('bodies', swarm.body.kind);
  const plan: SwarmPlan = {
    id: swarm.id,
    name: swarm.name,
    capacity,
    births,
    birth,
    motion,
    look,
    readings: () => readingsKernel(piece, swarm, capacity, tables),
    tables: Float32Array.from(tables.samples),
    mode: swarm.body.dials.mode as DrawMode,
    edge: body.edge(swarm.body.dials),
  };
  return { plan, notice };
}

function cappedText(swarm: Swarm, needed: number, most: number, byLimit: boolean): string {
  const count = (n: number): string => n.toLocaleString('en-GB');
  const longest = rangeOf(swarm.dials.lifetime as NumberFeed)[1];
  const what = byLimit ? 'its limit' : `the machine's limit of ${count(MOST_PARTICLES)} in all`;
  const remedy = byLimit
    ? `A limit of ${count(needed)} would be enough.`
    : `Lower the rate, the burst or the lifetime (up to ${String(longest)} s).`;
  return `${swarm.name} would have ${count(needed)} particles alive at once; ${what} holds it at ${count(most)}, so the oldest go early. ${remedy}`;
}

/** Numbers only of motion: two pieces that agree here have the same states. */
function motionKey(piece: Piece): string {
  const { rate, preroll, length } = piece.frame;
  const lookOnly = new Set(['size', 'opacity', 'colour', 'light']);
  const swarms = piece.swarms
    .filter((s) => s.on)
    .map(({ id, emitter, launch, dials }) => ({
      id,
      emitter,
      launch,
      dials: Object.entries(dials).filter(([key]) => !lookOnly.has(key)),
    }));
  const forces = piece.forces
    .filter((f) => f.on)
    .map(({ id, kind, dials }) => ({ id, kind, dials }));
  const key = {
    rate,
    preroll,
    length,
    seed: piece.seed,
    swarms,
    forces,
    influence: piece.influence,
  };
  return JSON.stringify(key);
}
