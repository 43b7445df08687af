import type { BlockTrack } from '../language/track';
import { cameraDials } from '../sections/scene/cameras/lens';
import { valuesOf } from '../language/dials';
import { inEffect } from '../piece/follow';
import { PLAYED } from '../piece/played';
import type { Piece, Swarm } from '../piece/types';
import type { Bake } from './bake';
import type { StockFiles } from '../stock/entry';
import { PlanCache } from './cache';
import { cameraAt } from './look/cameraAt';
import { swarmPart } from './compileSwarm';
import { fieldsPart } from './fields/fieldPlan';
import { backdropPart, clearPart } from './finish/backdrop';
import { solidLensPart } from './finish/solidLens';
import { finishLightPart, finishPart } from './finish/steps';
import { lampsAt } from './look/lamps';
import { mediumNotices } from './media/mediumNotices';
import { mediumKey } from './media/mediumKey';
import { mediumLayersPart } from './media/mediumLayer';
import { mediaPart } from './media/mediumPlan';
import { emptyFeeds } from './emptyFeeds';
import { heavyStates } from './heavyStates';
import { loopNotices } from './loop/notices';
import { prerollOf, roundsAhead, runInOf } from './loop/preroll';
import { missingStock } from './missingStock';
import { motionKeysHeld, parentOf } from './motion/motionKey';
import {
  MOST_PARTICLES,
  type Drawing,
  type Drawn,
  type Notice,
  type PassPlan,
  type Plan,
  type ShadowPlan,
  type SwarmPlan,
} from './plan';
import type { FramePass } from './passes';
import { Scene } from './scene';
import { Scripted } from './score/scripted';
import type { Looker } from './shownPicture';
import type { LiveInput } from './signals';
import { SEEN } from './motion/seenVelocity';
import { casterOf, casterValues, shadeKernel } from './look/shadows';

/** Inputs of a compile beside the piece. */
export interface Sources {
  /** Of the compiles before, when the same piece is compiled again and again. */
  cache?: PlanCache;
  /** The stock's things from files. */
  files?: StockFiles;
  /** Stored motion, by swarm; played as it is, whatever the piece says meanwhile. */
  bakes?: ReadonlyMap<string, Bake>;
  /** Takes that are being recorded while the plan runs, by signal or sound. */
  live?: ReadonlyMap<string, LiveInput>;
  /** Who finds something in moving pictures, if it is not done here. */
  looker?: Looker;
  /** Whether an engine is asked for the light of finished frames, and not for their pixels alone. */
  light?: boolean;
  /** Whether there is to be no backdrop, and an engine is asked what bodies cover. */
  clear?: boolean;
  /** Layers that an engine draws beside the picture. */
  passes?: readonly FramePass[];
}

/** A piece made ready for an engine: the plan of its beginning, which leads to those of all its frames. */
export function compilePiece(piece: Piece, sources: Sources = {}): Plan {
  const cache = sources.cache ?? new PlanCache();
  const { files, live, looker } = sources;
  // What is played live stands in for what the piece has of it.
  const given = live?.has(PLAYED) ? { ...piece, played: [] } : piece;
  const whole = new Scene(given, files, live, looker);
  const { score } = whole;
  const compile = (scene: Scene): Plan => compileScene(scene, { ...sources, cache });
  if (!score) return compile(whole);
  const { at } = new Scripted(whole, score, (held, signals) => {
    const scene = new Scene(held, files, live, looker, { score, signals });
    return { plan: compile(scene), signals: scene.signals };
  });
  return at(-1 - piece.frame.preroll);
}

function compileScene(scene: Scene, sources: Sources & { cache: PlanCache }): Plan {
  const { piece } = scene;
  const { cache, files = new Map(), light, clear, passes = [] } = sources;
  const ofPiece = [
    ...missingStock(piece, files),
    ...mediumNotices(scene),
    ...emptyFeeds(piece),
    ...loopNotices(piece),
  ];
  const frame = piece.frame.loop ? { ...piece.frame, preroll: prerollOf(piece) } : piece.frame;
  const { plans, notices } = swarmPlans(scene, sources, roundsAhead(frame));
  const swarms = [...plans.values()];
  const drawn = (wanted: (id: string) => boolean, as: 'draws' | 'measured' = 'draws'): Drawing =>
    drawingOf(piece, plans, wanted, as);
  const none = clear || passes.length > 0 ? cache.keep(clearPart, scene) : null;
  const bare = clear ? none : null;
  const backdrop = bare?.dark ?? cache.keep(backdropPart, scene);
  const finish = cache.keep(light ? finishLightPart : finishPart, scene);
  const fields = cache.keep(fieldsPart, { scene, swarms });
  const media = cache.keep(mediaPart, scene);
  const mediumLayers = cache.keep(mediumLayersPart, scene);
  const solid = swarms.some((s) => s.draws.some((d) => d.mode === 'opaque'));
  const solidLens = solid && scene.lens.defocuses ? cache.keep(solidLensPart, scene) : null;
  cache.turn();
  const layered = new Set(finish.steps.flatMap((s) => ('layer' in s && s.layer ? [s.layer] : [])));
  const passPlan = (kernels: Pick<PassPlan, 'dark' | 'lit'>): PassPlan => ({
    wanted: passes,
    ...kernels,
    measured: drawn(() => true, 'measured'),
    alone: new Map(
      swarms.map(({ id, name }) => [
        numberOf(piece, id),
        { name, drawing: drawn((own) => own === id) },
      ]),
    ),
  });
  const plan: Plan = {
    frame,
    runIn: runInOf(piece),
    swarms,
    backdrop,
    lit: bare?.lit ?? null,
    passes: passes.length > 0 ? passPlan(none!) : null,
    finish,
    notices: [...ofPiece, ...notices, ...heavyStates(swarms)],
    motionKey: motionKeyOf(scene, swarms, media.length > 0),
    camera: (time) => cameraAt(scene, time),
    tracks: { numbers: scene.signals, blocks: blockTracks([...swarms, ...media, finish]) },
    fields,
    media,
    mediumLayers,
    drawing: drawn((id) => !layered.has(id)),
    layers: new Map([...layered].map((id) => [id, drawn((own) => own === id)])),
    shadows: shadowPlan(scene, swarms),
    solidLens,
    lamps: (time, pose) => lampsAt(scene, pose, time),
    shutter: (time) => shutterAt(scene, time),
    at: () => plan,
    anew: () => false,
    score: scene.score,
  };
  return plan;
}

/** The number of a swarm in a pass that tells swarms apart, from 1. */
function numberOf(piece: Piece, id: string): number {
  return 1 + piece.swarms.findIndex((s) => s.id === id);
}

/** The plans of the swarms, by id in the order of birth. */
function swarmPlans(
  scene: Scene,
  { cache, files = new Map(), bakes, passes = [] }: Sources & { cache: PlanCache },
  ahead: number,
): { plans: Map<string, SwarmPlan>; notices: Notice[] } {
  const { piece } = scene;
  const keys = motionKeysHeld(piece, files);
  const plans = new Map<string, SwarmPlan>();
  const notices: Notice[] = [];
  let left = MOST_PARTICLES;
  for (const swarm of inOrderOfBirth(piece)) {
    const parent = plans.get(parentOf(swarm) ?? '') ?? null;
    const bake = bakes?.get(swarm.id) ?? null;
    const motionKey = keys.get(swarm.id)!;
    const number = passes.length > 0 ? numberOf(piece, swarm.id) : null;
    const source = { scene, swarm, left, parent, bake, motionKey, number, roundsAhead: ahead };
    const compiled = cache.keep(swarmPart, source);
    left -= compiled.plan.capacity;
    notices.push(...compiled.notices);
    plans.set(swarm.id, compiled.plan);
  }
  return { plans, notices };
}

/** The bodies of the wanted swarms: drawn in the order of the line-up, which are simulated in that of birth. */
function drawingOf(
  piece: Piece,
  plans: ReadonlyMap<string, SwarmPlan>,
  wanted: (id: string) => boolean,
  as: 'draws' | 'measured',
): Drawing {
  const all = piece.swarms.flatMap((s) => {
    const swarm = wanted(s.id) ? plans.get(s.id) : undefined;
    return swarm ? swarm[as].map((draw) => ({ swarm, draw })) : [];
  });
  const of = (opaque: boolean): Drawn[] =>
    all.filter(({ draw }) => (draw.mode === 'opaque') === opaque);
  return { opaque: of(true), blended: of(false) };
}

/** A text that differs wherever the motion of a piece may. */
function motionKeyOf(scene: Scene, swarms: readonly SwarmPlan[], flows: boolean): string {
  const { piece } = scene;
  const seen = (s: SwarmPlan): boolean => s.state.includes(SEEN[0]!);
  return [
    ...swarms.map((s) => `${s.id} ${s.motionKey} ${String(seen(s))}`),
    ...piece.media.filter((m) => m.on).map((m) => JSON.stringify(mediumKey(piece, m))),
    ...(flows ? [scene.signalled, scene.stocked] : []),
    ...(piece.frame.loop ? [`comes round after ${String(piece.frame.length)}`] : []),
  ].join('\n');
}

/** How long the shutter is open, in frames, and the moments in which what moves is drawn. */
function shutterAt(scene: Scene, time: number): { frames: number; samples: number } {
  const { shutter, samples } = valuesOf(cameraDials, scene.piece.camera.dials);
  const frames = scene.number(shutter, time) / 360;
  return { frames, samples: frames > 0 ? samples : 1 };
}

/** Each track once, however many read it. */
function blockTracks(readers: readonly Pick<SwarmPlan, 'tracks'>[]): BlockTrack[] {
  return [...new Map(readers.flatMap((r) => [...r.tracks])).values()];
}

function shadowPlan(scene: Scene, swarms: readonly SwarmPlan[]): ShadowPlan | null {
  const caster = casterOf(scene);
  const drawing = swarms.flatMap((swarm) => swarm.shadows.map((draw) => ({ swarm, draw })));
  if (!caster || drawing.length === 0) return null;
  const blur = (time: number): number => scene.number(casterValues(caster).blur, time);
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
