import { made } from '@vast-swarm/core/stock';
import { makeChoice, makePart, makeSwarm, signalsIn, type Piece } from '@vast-swarm/core/piece';
import { MADE } from '@vast-swarm/core/demo';
import type { DialSpec, DialValues } from '@vast-swarm/core/kinds';
import type { DialValue } from '@vast-swarm/core/feeds';
import { turned } from './dialPlaces';

/** What has to be there for a dial to be of any consequence. */

type Change = (piece: Piece, key: string) => void;

const sway = { feed: 'signal' as const, signal: 'sway', from: -1, to: 1 };

const firstMade = (type: string): string => MADE.find((name) => made(name).type === type)!;

/** Made, and not closed. */
const SHEET = 'slipway';

const RED_TO_BLUE = {
  feed: 'gradient' as const,
  stops: [
    { at: 0, colour: '#ff0000' },
    { at: 1, colour: '#0000ff' },
  ],
};

/** Large opaque cubes that stand among the particles. */
function withCubes(piece: Piece): void {
  const swarm = { ...makeSwarm('sphere', []), id: 'cubes' };
  const body = makePart('bodies', 'mesh', []);
  Object.assign(body.dials, { mode: 'opaque', facing: 'random' });
  Object.assign(swarm.dials, { when: 'bursts', burst: 40, lasts: 'ever', size: 0.8, opacity: 1 });
  swarm.bodies = [body];
  piece.swarms.push(swarm);
}

function bodyOf(piece: Piece): DialValues {
  return piece.swarms[0]!.bodies[0]!.dials;
}

/** The plane as far away as it reaches. */
function beyondReach({ forces }: Piece, key: string): void {
  if (key === 'reach') forces[0]!.dials.centre = [0, 0, -999.8];
}

/** By shelf, then by kind. */
const SHELVES: Record<string, Change> = {
  body(piece, key) {
    const dials = bodyOf(piece);
    if (key === 'soft') withCubes(piece);
    if (key === 'axis') dials.spin = 360;
    // Round things are turned only where they are wider than high.
    if (['facing', 'turn', 'spin', 'point'].includes(key) && 'wide' in dials) dials.wide = 3;
    if (key === 'hardness') Object.assign(dials, { scale: 3, hardness: 0.1, width: 4 });
  },
  camera({ camera }, key) {
    const { dials } = camera;
    if (key === 'near') dials.distance = 1;
    if (key === 'progress' || key === 'looks') dials.along = firstMade('outline');
    if (key.startsWith('blade')) Object.assign(dials, { blades: 5, aperture: 1, focus: 2 });
    if (key === 'samples') Object.assign(dials, { shutter: 720, samples: 2 });
  },
  finish({ finish }, key) {
    const [{ dials }] = finish as [Piece['finish'][0]];
    const ellipse = { shape: 'ellipse' as const, x: 0.5, y: 0.5, wide: 0.4, high: 0.4, turn: 0 };
    dials.mask = [ellipse];
    if (key !== 'share') dials.share = 0.6;
  },
};

const KINDS: Record<string, Change> = {
  'emitter morph'({ swarms }, key) {
    const amount = { size3: 1.5, size4: 2.5 }[key] ?? 0.5;
    Object.assign(swarms.at(-1)!.emitter.dials, { amount, stiffness: 40 });
  },
  'launch byColour'({ swarms }) {
    swarms[0]!.emitter = makeChoice('emitters', 'picture');
    Object.assign(swarms[0]!.emitter.dials, {
      picture: firstMade('picture'),
      centre: [sway, 0, 0],
    });
  },
  'force brushed': beyondReach,
  'force pictureFlow': beyondReach,
  'force clipFlow': beyondReach,
  'medium fluid'({ media }, key) {
    const { dials } = media[0]!;
    // By its speed nothing is seen of its light, and by its light nothing of its amount.
    const { by } = dials;
    const bySpeed = ['by', 'full', 'colour'].includes(key);
    dials.by = key === 'give' ? 'amount' : bySpeed ? by! : 'light';
    if (key.startsWith('hand')) Object.assign(dials, { hand: 1, handX: sway, handY: sway });
    if (key === 'handX' || key === 'handY') dials[key] = 0.1;
    if (key === 'shown') dials.over = 'normal';
  },
  'force speedLimit'({ swarms }) {
    swarms[0]!.launch.dials.speed = 6;
  },
  'collider mesh'({ colliders }, key) {
    if (key === 'thickness') colliders[0]!.dials.mesh = SHEET;
  },
  'sound played'({ sounds }, key) {
    const to = { to: 0.08, again: 0.05, fadeOut: 0.3 }[key];
    if (to !== undefined) sounds[0]!.dials.to = to;
  },
  'signal beat'({ signals }, key) {
    Object.assign(signals[0]!.dials, { shape: 'saw', tempo: 100 });
    // Some beats have gone by.
    if (key === 'count') Object.assign(signals[0]!.dials, { tempo: 400, first: -1 });
  },
  'signal level'({ signals }) {
    signals[0]!.dials.high = 300;
  },
  'signal strike'({ signals }, key) {
    const two = [0, 0.01, 0.02, 0.03, 0.06, 0.07, 0.08, 0.09];
    const keys = two.map((at, i) => ({ at, value: i % 4 === 1 || i % 4 === 2 ? 1 : 0 }));
    signals[1] = { ...makePart('signals', 'keyframes', []), id: 'source' };
    signals[1].dials.keys = keys;
    Object.assign(signals[0]!.dials, { least: 0, attack: 0, sustain: 0.4 });
    // What is released has come down before.
    if (key === 'release') signals[0]!.dials.decay = 0.02;
  },
  'signal follow'({ signals }) {
    Object.assign(signals[0]!.dials, { limit: 'wrap', offset: 5.3, low: 0.2 });
  },
  'signal pointer'({ signals }) {
    signals[0]!.dials.tells = 'held';
  },
  'signal steps'({ signals }) {
    signals[0]!.dials.every = 3;
  },
  'body pictureSet'(piece, key) {
    if (key === 'pick' || key === 'every') {
      Object.assign(bodyOf(piece), { pictures: ['flags'], columns: 4, rows: 2 });
    }
    if (key === 'every') bodyOf(piece).pick = 'random';
  },
  'body trail'(piece, key) {
    piece.swarms[0]!.launch.dials.speed = 3;
    Object.assign(bodyOf(piece), {
      tint: RED_TO_BLUE,
      ...(key === 'span' ? { by: 'length' } : {}),
    });
  },
  'performer played'({ performers }, key) {
    // What is long enough does not come to its end.
    if (key === 'ends') performers[0]!.dials.to = 0.1;
  },
  'body links'(piece, key) {
    if (key === 'total') bodyOf(piece).total = 3;
  },
  'backdrop linear'({ backdrop }, key) {
    if (key === 'centreX') backdrop.dials.turn = 30;
  },
  'finish gradientLayer'({ finish }, key) {
    if (key === 'centreX') finish[0]!.dials.turn = 30;
  },
  'finish blur'({ finish }) {
    finish[0]!.dials.radius = 0.1;
  },
  'finish levels'({ finish }) {
    finish[0]!.dials.gamma = 2;
  },
  'finish grade'({ finish }, key) {
    if (key === 'share' || key.startsWith('mask')) finish[0]!.dials.contrast = 2;
  },
};

/** Sets the scene for a dial of the kind that a piece is about, as in `body disc`. */
export function setTheScene(piece: Piece, kind: string, key: string): void {
  Object.assign(piece.frame, { rate: 120, length: 70 });
  piece.signals.push({ ...makePart('signals', 'wave', piece.signals), id: 'sway' });
  const swarm = piece.swarms.at(-1)!;
  // Signals move the emitter themselves.
  if (piece.signals.length === 1) {
    Object.assign(swarm.emitter.dials, { centre: [sway, 0.1, 0], turn: [10, 20, 30] });
  }
  if (!signalsIn(swarm.dials.size).size) swarm.dials.size = 0.4;
  SHELVES[kind.split(' ')[0]!]?.(piece, key);
  KINDS[kind]?.(piece, key);
}

/** Dials whose next value would make too little of a difference in a small picture. */
const FURTHER: Record<string, number> = {
  'medium fluid lines': 128,
  'medium fluid reach': 0.1,
  'performer played to': 0.05,
  'body pictureSet every': 1,
  'signal pitch silent': 0,
  'signal tally wrap': 0.01,
  reset: 1,
  'finish edges width': 20,
  'finish sharpen width': 20,
};

/** Another value of a dial, that makes a difference. */
export function turnedAway(kind: string, key: string, spec: DialSpec, value: DialValue) {
  const further = FURTHER[`${kind} ${key}`] ?? FURTHER[key];
  return spec.type === 'number' && further !== undefined ? further : turned(spec, value);
}
