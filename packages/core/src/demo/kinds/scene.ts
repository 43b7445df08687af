import { makeChoice } from '../../piece/create';
import { TINY, type Show, type Stage } from './stage';

/** Small pieces that show kinds of the scene: emitters, launches, forces, bodies, cameras, lights. */

export const emitters: Show = (stage, kind) => {
  if (kind === 'swarm' || kind === 'medium') {
    stage.swarm('ring', { rate: 60, size: 0.05, lifetime: 3 });
    const child = stage.swarm(kind, { rate: 4000, size: TINY, lifetime: 1 });
    if (kind === 'medium') {
      child.emitter.dials.full = 0.05;
      stage.piece.media[0]!.dials.swarm = stage.piece.swarms[0]!.id;
    }
    return;
  }
  const swarm = stage.swarm(kind, {}, kind === 'morph' ? { shape2: 'buoy', amount: 0.5 } : {});
  if (swarm.dials.when === 'steadily') Object.assign(swarm.dials, { rate: 5000, size: TINY });
  if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 0.05;
};

/** Emitters that launches are shown from, by the kind of launch, where a disc does not do. */
const SETS_OFF: Readonly<Record<string, string>> = {
  byColour: 'picture', byClip: 'picture', tangent: 'ring',
};

const LAUNCH_DIALS: Readonly<Record<string, Record<string, number>>> = { byClip: { gain: 4 } };

export const launches: Show = (stage, kind) => {
  const on = SETS_OFF[kind] ?? 'disc';
  const lived = { when: 'steadily', lasts: 'time', rate: 2500, lifetime: 1.5 };
  const swarm = stage.swarm(on, { ...lived, size: TINY });
  swarm.launch = stage.filled('launches', makeChoice('launches', kind), LAUNCH_DIALS[kind]);
  if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = 1;
  stage.drawnAs('streak');
};

/** Forces that are felt only by what is fast, or has moved away. */
const SET_OFF_AT: Readonly<Record<string, number>> = { drag: 2, home: 3, speedLimit: 6 };
const FORCE_DIALS: Readonly<Record<string, Record<string, number>>> = {
  speedLimit: { most: 0.6 }, wornWays: { draw: 4 }, clipFlow: { gain: 6 },
};

export const forces: Show = (stage, kind) => {
  const swarm = stage.swarm('sphere', { rate: 900, size: 0.02, lifetime: 2.5 }, { radius: 1.1 });
  if ('speed' in swarm.launch.dials) swarm.launch.dials.speed = SET_OFF_AT[kind] ?? 0.25;
  stage.drawnAs('trail');
  stage.add('forces', kind, FORCE_DIALS[kind]);
};

export const colliders: Show = (stage, kind) => {
  const swarm = stage.swarm('box', { rate: 2500, size: TINY, lifetime: 2.5 });
  Object.assign(swarm.emitter.dials, { centre: [0, 2.2, 0], size: [2.6, 0.1, 1.2] });
  stage.drawnAs('streak');
  stage.add('forces', 'gravity');
  const isPlane = kind === 'plane';
  const collider = stage.add('colliders', kind, { bounce: 0.5, turn: [0, 0, isPlane ? -14 : 0] });
  if (isPlane) collider.dials.centre = [0, -0.8, 0];
};

export const bodies: Show = (stage, kind) => {
  const many = kind === 'links' || kind === 'trail';
  const rate = kind === 'links' ? 90 : many ? 60 : 14;
  const swarm = stage.swarm('sphere', { rate, lifetime: 3 }, { radius: 1.2 });
  swarm.dials.size = many ? 0.03 : { feed: 'spread', from: 0.15, to: 0.4 };
  const body = stage.drawnAs(kind);
  if (kind === 'links') {
    body.dials.radius = 0.6;
    stage.add('bodies', 'disc');
    swarm.dials.light = 3;
  }
  if (kind === 'spark') swarm.dials.size = { feed: 'spread', from: 0.3, to: 0.8 };
  stage.add('forces', 'curlNoise');
};

export const media: Show = (stage, kind) => {
  const shown = { lines: 120, stir: 60, tint: 30, radius: 0.2, shown: 'behind', picture: '' };
  const medium = stage.add('media', kind, shown);
  const swarm = stage.swarm('ring', { rate: 300, size: TINY, lifetime: 2 });
  if ('swarm' in medium.dials) medium.dials.swarm = swarm.id;
  stage.add('forces', 'vortex');
};

/** Rows of cubes, which have sides for light to fall on and stand one behind the other. */
function cubes(stage: Stage, dials: Record<string, unknown> = {}): void {
  const swarm = stage.swarm('lattice', { size: 0.22, colour: '#9fd4cb' });
  const spacing = [0.45, 0.45, 0.45];
  Object.assign(swarm.emitter.dials, { columns: 7, rows: 4, layers: 2, spacing }, dials);
  stage.drawnAs('mesh');
}

export const lights: Show = (stage, kind) => {
  cubes(stage);
  stage.piece.lights = [];
  stage.add('lights', kind);
};

const SEEN: Readonly<Record<string, Record<string, number>>> = {
  perspective: { view: 75, distance: 4.2 },
  orthographic: { tall: 4.6, distance: 12 },
};

export const cameras: Show = (stage, kind) => {
  cubes(stage, { columns: 4, rows: 3, layers: 8, spacing: [0.5, 0.5, 0.7] });
  const dials = { azimuth: 28, elevation: 16, ...SEEN[kind] };
  stage.piece.camera = stage.filled('cameras', makeChoice('cameras', kind), dials);
};

/** Backdrops are dark as they come, so that light is seen on them: here they are to be seen themselves. */
const BRIGHT: Readonly<Record<string, Record<string, string>>> = {
  flat: { colour: '#3d2a4f' },
  linear: { first: '#0a1a2c', last: '#c26a3a' },
  radial: { inner: '#3f8f8a', outer: '#081018' },
};

export const backdrops: Show = (stage, kind) => {
  stage.piece.backdrop = stage.filled('backdrops', makeChoice('backdrops', kind), BRIGHT[kind]);
  stage.swarm('ring', { rate: 900, size: 0.05, lifetime: 2, colour: '#ffe6bc' });
};
