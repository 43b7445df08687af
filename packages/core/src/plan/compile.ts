import { layersOf, rangeOf, type NumberFeed } from '../feeds/feeds';
import { inEffect } from '../piece/follow';
import type { Bake } from '../play/bake';
import type { Piece, Swarm } from '../piece/schema';
import type { StockFiles } from '../stock/stock';
import { birthKernel } from './birthKernel';
import { BirthSchedule, mostAlive } from './births';
import { PlanCache } from './cache';
import { cameraAt, type CameraPose } from './cameraAt';
import { copyMatrices, type Matrix } from './copies';
import { SwarmData, type PlanKernel } from './kernelBuilder';
import { drawsOf, shadowsOf } from './draws';
import type { Draw } from './draws/draw';
import { historyRows, historyStates, wantsWay, type History } from './history';
import { lampsAt, type Lamps } from './lamps';
import { motionKernel } from './motionKernel';
import { motionKeys, parentOf } from './motionKey';
import { gridPlan, type GridPlan } from './neighbours';
import { backdropKernel } from './finish/backdrop';
import { solidLensKernel } from './finish/solidLens';
import { finishPlan, type FinishPlan } from './finish/steps';
import { readingsKernel } from './readings';
import { Scene } from './scene';
import { casterOf, shadeKernel, type ShadowPlan } from './shadows';
import { isCarried, SEEN } from './seen';
import { STATE } from './state';
import { missingStock } from './missing';

export interface SwarmPlan {
  id: string;
  name: string;
  /** Slots, a multiple of 4. A particle's slot is its id modulo the capacity. */
  capacity: number;
  births: BirthSchedule;
  birth: PlanKernel;
  motion: PlanKernel;
  /** Its bodies, in order. */
  draws: readonly Draw[];
  /** Its shadows on the floor. */
  shadows: readonly Draw[];
  /** For files: see READINGS. Made when asked for. */
  readings: () => PlanKernel;
  /** Samples of shapes and gradients, for the buffer `tables`. */
  tables: Float32Array;
  /** Larger things by the name of their buffer; equal arrays are the same object. */
  blocks: ReadonlyMap<string, Float32Array>;
  /** What each particle carries, see STATE; what it keeps from birth comes after. */
  state: readonly string[];
  /** The swarm whose particles it is born from: its states are the buffers `parent.*`. */
  parent: string | null;
  /** Its motion is played from here instead of being simulated. */
  bake: Bake | null;
  /** For those that look at their neighbours. */
  grid: GridPlan | null;
  /** Where the swarm is drawn, once at least. */
  copies: readonly Matrix[];
  /** Equal keys have equal motion. */
  motionKey: string;
  /** Frames that trails go back, see history.ts; 0 without. */
  history: History;
}

/** Ids below this have been born at the end of a frame. */
export function bornAt(swarm: SwarmPlan, frame: number, rate: number): number {
  if (swarm.bake) return swarm.bake.born(frame);
  return swarm.births.bornBefore(timeOf(frame + 1, rate));
}

/** Whether a render that keeps frames from `first` on has to draw this one: a finish may remember it. */
export function isDrawn({ finish }: Plan, frame: number, first: number): boolean {
  return frame >= first || (finish.remembers && frame >= 0);
}

/** What the artist should know, in numbers. */
export interface Notice {
  part: string;
  message: string;
  /** The limit that would be enough, where a limit bites. */
  enough?: number;
}

/** A body of a swarm. */
export interface Drawn {
  swarm: SwarmPlan;
  draw: Draw;
}

/** What is drawn into one set of planes, in the order of the line-up: opaque things come first. */
export interface Drawing {
  opaque: readonly Drawn[];
  blended: readonly Drawn[];
}

/** A piece made ready for an engine. */
export interface Plan {
  frame: Piece['frame'];
  /** In order of simulation: a swarm comes behind the one it is born from. */
  swarms: SwarmPlan[];
  drawing: Drawing;
  /** Swarms that the finish shows, each drawn on a layer of its own. */
  layers: ReadonlyMap<string, Drawing>;
  /** The camera at a time in seconds. */
  camera: (time: number) => CameraPose;
  lamps: (time: number, pose: CameraPose) => Lamps;
  shadows: ShadowPlan | null;
  /** Blurs opaque things that are not in focus, where there are any. */
  solidLens: PlanKernel | null;
  /** How long the shutter lets light in, in frames, and in how many moments. */
  shutter: (time: number) => { frames: number; samples: number };
  /** The empty picture. */
  backdrop: PlanKernel;
  finish: FinishPlan;
  notices: Notice[];
  /** Equal plans of motion have equal keys: the state of one is the state of the other. */
  motionKey: string;
}

/** Most particles alive at once, over all swarms; what a browser tab can hold with room to spare. */
export const MOST_PARTICLES = 4_000_000;

/** Most particles drawn of one swarm, its repeats counted. */
export const MOST_DRAWN = 8_000_000;

/** Seconds of the start of a frame; frame 0 is at 0. */
export function timeOf(frame: number, rate: number): number {
  return frame / rate;
}

/** What a compile takes beside the piece. */
export interface Sources {
  /** Of the compiles before, when the same piece is compiled again and again. */
  cache?: PlanCache;
  /** What the stock holds from files. */
  files?: StockFiles;
  /** Stored motion, by swarm; played as it is, whatever the piece says meanwhile. */
  bakes?: ReadonlyMap<string, Bake>;
}

export function compilePiece(
  piece: Piece,
  { cache = new PlanCache(), files = new Map(), bakes = new Map() }: Sources = {},
): Plan {
  const scene = new Scene(piece, files);
  const notices: Notice[] = missingStock(piece, files);
  const keys = motionKeys(piece, files);
  const { seed, frame, signals } = piece;
  const plans = new Map<string, SwarmPlan>();
  const { kind, dials } = piece.camera;
  // What the kernels of drawing are made for.
  const stocked = piece.stock.map(({ source }) => 'hash' in source && files.has(source.hash));
  const stock = [piece.stock, stocked];
  const lens = [kind, dials.aperture === 0, dials.shutter === 0];
  const style = [...lens, piece.density, piece.lights, stock];
  let left = MOST_PARTICLES;
  for (const swarm of inOrderOfBirth(piece)) {
    const parent = plans.get(parentOf(swarm) ?? '') ?? null;
    const bake = bakes.get(swarm.id) ?? null;
    // A layer of its colour may be another swarm's.
    const layers = [swarm, ...swarm.bodies].flatMap(({ dials }) =>
      Object.values(dials).flatMap(layersOf),
    );
    const others = layers.some((l) => l.by === 'swarm') ? piece.swarms : null;
    const key = JSON.stringify([
      swarm,
      others,
      frame,
      keys.get(swarm.id),
      signals,
      left,
      bake?.name,
      style,
    ]);
    const compiled = cache.keep(`${key}${parent?.id ?? ''}${String(parent?.capacity)}`, () =>
      compileSwarm(scene, swarm, left, { parent, bake, motionKey: keys.get(swarm.id)! }),
    );
    left -= compiled.plan.capacity;
    notices.push(...compiled.notices);
    plans.set(swarm.id, compiled.plan);
  }
  // Drawn in the order of the line-up, simulated in the order of birth.
  const swarms = [...plans.values()];
  const drawn = (wanted: (id: string) => boolean): Drawing => {
    const all = piece.swarms.flatMap((s) => {
      const swarm = wanted(s.id) ? plans.get(s.id) : undefined;
      return swarm ? swarm.draws.map((draw) => ({ swarm, draw })) : [];
    });
    const of = (opaque: boolean): Drawn[] =>
      all.filter(({ draw }) => (draw.mode === 'opaque') === opaque);
    return { opaque: of(true), blended: of(false) };
  };
  const backdropKey = JSON.stringify(['backdrop', seed, piece.backdrop, signals]);
  const backdrop = cache.keep(backdropKey, () => backdropKernel(scene));
  const shape = frame.width / frame.height;
  const finishKey = JSON.stringify([seed, piece.finish, signals, stock, shape]);
  const finish = cache.keep(`finish ${finishKey}`, () => finishPlan(scene));
  const solid = swarms.some((s) => s.draws.some((d) => d.mode === 'opaque'));
  const solidLens =
    solid && dials.aperture !== 0 ? cache.keep(`lens ${kind}`, () => solidLensKernel(scene)) : null;
  cache.turn();
  const layered = new Set(finish.steps.flatMap((s) => ('layer' in s && s.layer ? [s.layer] : [])));
  const seen = (s: SwarmPlan): boolean => s.state.includes(SEEN[0]!);
  const motionKey = swarms.map((s) => `${s.id} ${s.motionKey} ${String(seen(s))}`).join('\n');
  const camera = (time: number): CameraPose => cameraAt(scene, time);
  return {
    frame: piece.frame,
    ...{ swarms, backdrop, finish, notices, motionKey, camera },
    drawing: drawn((id) => !layered.has(id)),
    layers: new Map([...layered].map((id) => [id, drawn((own) => own === id)])),
    shadows: shadowPlan(scene, swarms),
    solidLens,
    lamps: (time, pose) => lampsAt(scene, pose, time),
    shutter: (time) => {
      const frames = scene.number(dials.shutter, time) / 360;
      return { frames, samples: frames > 0 ? (dials.samples as number) : 1 };
    },
  };
}

function shadowPlan(scene: Scene, swarms: readonly SwarmPlan[]): ShadowPlan | null {
  const caster = casterOf(scene);
  const drawing = swarms.flatMap((swarm) => swarm.shadows.map((draw) => ({ swarm, draw })));
  if (!caster || drawing.length === 0) return null;
  const blur = (time: number): number => scene.number(caster.dials.blur, time);
  return { drawing, blur, shade: shadeKernel(scene, caster) };
}

/** Swarms that are on, with the settings in effect, each behind the one it is born from. */
function inOrderOfBirth(piece: Piece): Swarm[] {
  const on = piece.swarms.filter((s) => s.on).map((s) => inEffect(piece, s));
  const done: Swarm[] = [];
  const visit = (swarm: Swarm, trail: readonly string[]): void => {
    if (done.includes(swarm)) return;
    const parent = on.find((s) => s.id === parentOf(swarm));
    // In a ring of swarms the first one met has no parent; its notice says so.
    if (parent && !trail.includes(parent.id)) visit(parent, [...trail, swarm.id]);
    if (!done.includes(swarm)) done.push(swarm);
  };
  for (const swarm of on) visit(swarm, [swarm.id]);
  return done;
}

interface Compiled {
  plan: SwarmPlan;
  notices: Notice[];
}

function compileSwarm(
  scene: Scene,
  swarm: Swarm,
  left: number,
  { parent, bake, motionKey }: Pick<SwarmPlan, 'bake' | 'motionKey'> & { parent: SwarmPlan | null },
): Compiled {
  const { rate, preroll, length } = scene.piece.frame;
  const begin = timeOf(-preroll, rate);
  const births = new BirthSchedule(swarm.dials, begin, scene);
  const lifetime = swarm.dials.lifetime as NumberFeed;
  const history = { rows: historyRows(swarm), way: wantsWay(swarm) };
  // Trails outlive their particles.
  const lasting = rangeOf(lifetime)[1] + history.rows / rate;
  const needed = mostAlive(births, lasting, begin, timeOf(length, rate), 1 / rate);
  const limit = (swarm.dials.limit as number) || Infinity;
  const most = Math.max(4, Math.min(needed, limit, left));
  const notices: Notice[] = [];
  if (most < needed && !bake) {
    const byLimit = limit <= left;
    const message = cappedText(swarm, needed, most, byLimit);
    notices.push({ part: swarm.id, message, ...(byLimit ? { enough: needed } : {}) });
  }
  if (parentOf(swarm) && !parent)
    notices.push({ part: swarm.id, message: orphanText(scene, swarm) });
  const capacity = bake?.capacity ?? (most + 3) & ~3;
  const copies = copyMatrices(swarm.copies);
  const drawable = Math.max(1, Math.floor(MOST_DRAWN / capacity));
  if (copies.length > drawable) {
    const [all, held] = [copies.length, drawable].map((n) => n.toLocaleString('en-GB'));
    const message = `${swarm.name} would be drawn ${all!} times with ${capacity.toLocaleString('en-GB')} particles each; the machine's limit holds it at ${held!} times. Use fewer copies or a lower rate.`;
    notices.push({ part: swarm.id, message });
    copies.length = drawable;
  }
  // A bake has only what it was stored with.
  const carried = bake ? bake.state.includes(SEEN[0]!) : isCarried(scene.piece, swarm);
  const data = new SwarmData(carried);
  const told: string[] = [];
  const size = { capacity, copies: copies.length };
  const draws = drawsOf(scene, swarm, size, data, told);
  const shadows = shadowsOf(scene, swarm, size, data);
  notices.push(...told.map((message) => ({ part: swarm.id, message })));
  const readings = (): PlanKernel => readingsKernel(scene, swarm, capacity, data);
  // It reads the tables that the bodies bring; without any it brings its own.
  if (draws.length === 0) readings();
  // Behind the looks, which may want to see more of the motion.
  const { motion, grid } = motionKernel(scene, swarm, capacity, data);
  // Last: it finds what the others want kept from birth.
  const slots = parent && {
    of: (frame: number) => Math.min(parent.capacity, bornAt(parent, frame, rate)),
  };
  const birth = birthKernel(scene, swarm, data, slots ? (f) => slots.of(f.frame) : null);
  const plan: SwarmPlan = {
    ...{
      id: swarm.id,
      name: swarm.name,
      capacity,
      births,
      birth,
      motion,
      draws,
      shadows,
      bake,
      history,
    },
    motionKey: bake ? `bake ${bake.name}` : motionKey,
    readings,
    tables: Float32Array.from(data.samples),
    blocks: data.blocks,
    state: [
      ...new Set([...STATE, ...(bake?.state ?? []), ...data.kept.keys()]),
      ...historyStates(history),
    ],
    parent: parent?.id ?? null,
    grid: grid === null ? null : gridPlan(scene, capacity, grid, data),
    copies,
  };
  return { plan, notices };
}

function orphanText({ piece }: Scene, swarm: Swarm): string {
  const other = piece.swarms.find((s) => s.id === parentOf(swarm));
  if (!other) return `${swarm.name} is born from a swarm that is not there: choose another.`;
  if (!other.on) return `${swarm.name} is born from ${other.name}, which is switched off.`;
  return `${swarm.name} and ${other.name} are born from each other, so nothing begins: choose another swarm for one of them.`;
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
