import type { ControlValue, Moves } from '../../feeds/control';
import { kindOf } from '../../sections';
import type { DialValues } from '../../language/dials';
import type { Swarm } from '../../piece/types';
import { makeChoice, makePart } from '../../piece/create';
import type { Show, Stage } from './stage';

/** Small pieces that show kinds which drive a piece: performers, pictures, sounds, signals, controls, cues. */

/** The size of particles that are seen one by one. */
const SMALL = { feed: 'spread' as const, from: 0.02, to: 0.05 };

export const performers: Show = (stage, kind) => {
  const performer = stage.add('performers', kind);
  performer.dials[kindOf('performers', kind).plays] = 'pierDancers';
  stage.swarm('joints', { rate: 4000, size: SMALL, lifetime: 0.6 }, { centre: [0, -1, 0] });
};

export const pictures: Show = (stage, kind) => {
  stage.piece.finish = [];
  stage.add('finish', 'pictureLayer', { picture: stage.moving(kind) });
  stage.add('finish', 'exposure');
};

/** A swarm that leaves a line behind it, whose height can be driven. */
function trace(stage: Stage, height: DialValues[string]): Swarm {
  const swarm = stage.swarm('point', { rate: 1200, size: 0.05, lifetime: 3, opacity: 1 });
  swarm.emitter.dials.centre = [1.6, height as number, 0];
  swarm.launch = makeChoice('launches', 'cone');
  Object.assign(swarm.launch.dials, { speed: 1.4, direction: [-1, 0, 0], angle: 0 });
  return swarm;
}

/** Samples of a movement by hand: there and back, a rest, and there in one go. */
const BY_HAND = Array.from({ length: 75 }, (_, i) =>
  i < 40 ? 0.5 - 0.5 * Math.cos((i / 40) * 2 * Math.PI) : i < 50 ? 0 : Math.min(1, (i - 50) / 8),
);
const TAKE = { rate: 30, first: 0, values: BY_HAND };
const WAVED = { ...TAKE, values: BY_HAND.map((_, i) => 0.5 + 0.35 * Math.sin(i / 5)) };

const SIGNAL_DIALS: Readonly<Record<string, DialValues>> = {
  byHand: { take: TAKE }, pointer: { take: WAVED }, wave: { period: 1.4 }, noise: { speed: 2 },
  level: { highest: 2 }, bands: { highest: 8 }, follow: { delay: 0.2, rise: 0.3, fall: 0.3 },
};

export const signals: Show = (stage, kind) => {
  const signal = stage.add('signals', kind, SIGNAL_DIALS[kind]);
  trace(stage, { feed: 'signal', signal: signal.id, from: -0.9, to: 0.9 });
};

/** A sound is as loud as its line is wide, above and below. */
export const sounds: Show = (stage, kind) => {
  stage.add('sounds', kind, kind === 'live' ? { gain: 6 } : {});
  const { id } = stage.add('signals', 'level', { highest: 2, rise: 0, fall: 0.05 });
  const swarm = trace(stage, 0);
  const driven = (to: number): unknown => ({ feed: 'signal', signal: id, from: to / 20, to });
  swarm.emitter = makeChoice('emitters', 'line');
  Object.assign(swarm.emitter.dials, { from: [1.6, driven(-0.9), 0], to: [1.6, driven(0.9), 0] });
  Object.assign(swarm.dials, { rate: 6000, size: 0.025 });
};

/** A swarm on the left as it was, and one on the right that a control holds. */
function pair(stage: Stage, emitter: string, dials: DialValues, own: DialValues = {}): Swarm {
  for (const x of [-1.1, 1.1]) {
    const swarm = stage.swarm(emitter, { size: SMALL, lifetime: 2, ...dials }, own);
    swarm.emitter.dials.centre = [x, 0, 0];
    swarm.dials.colour = stage.piece.swarms[0]!.dials.colour;
  }
  return stage.piece.swarms[1]!;
}

/** Puts a control forward and sets it. */
function held(stage: Stage, kind: string, moves: Moves, to: ControlValue): void {
  const { id } = stage.add('controls', kind, { moves });
  stage.piece.played = [{ at: 0, control: id, to }];
}

const AMBER = [
  { at: 0, colour: '#fff0c8', light: 2 },
  { at: 0.4, colour: '#ffb347', light: 1.5 },
  { at: 1, colour: '#7a1d22' },
];

const CONTROLS: Readonly<Record<string, (stage: Stage) => void>> = {
  fader(stage) {
    const { id } = pair(stage, 'sphere', { rate: 700 }, { radius: 0.3 });
    const radius = `swarms.${id}.emitter.radius`;
    held(stage, 'fader', [{ place: radius, from: 0.3, to: 0.95 }], 1);
  },
  switch(stage) {
    const { id } = pair(stage, 'sphere', { rate: 700 }, { radius: 0.7 });
    const lively = { rate: 500, size: SMALL, colour: '#2c6f78', lifetime: 2 };
    stage.swarm('ring', lively, { centre: [1.1, 0, 0], radius: 0.7 });
    held(stage, 'switch', [{ place: `swarms.${id}.on` }], false);
  },
  colour(stage) {
    const { id } = pair(stage, 'sphere', { rate: 1100, colour: '#4fc3c9' }, { radius: 0.7 });
    held(stage, 'colour', [{ place: `swarms.${id}.colour` }], '#ff9a3c');
  },
  gradient(stage) {
    const { id } = pair(stage, 'sphere', { rate: 900 }, { radius: 0.15 });
    for (const swarm of stage.piece.swarms) swarm.launch.dials.speed = 0.5;
    held(stage, 'gradient', [{ place: `swarms.${id}.colour` }], AMBER);
  },
  picture(stage) {
    const { id } = pair(stage, 'picture', { rate: 5000 }, { width: 1.9 });
    held(stage, 'picture', [{ place: `swarms.${id}.emitter.picture` }], 'flags');
  },
  option(stage) {
    const { id } = pair(stage, 'mesh', { rate: 3000 }, { size: 0.6, mesh: 'crystal' });
    held(stage, 'option', [{ place: `swarms.${id}.emitter.from` }], 'edges');
  },
};

export const controls: Show = (stage, kind) => {
  CONTROLS[kind]?.(stage);
};

/** A fader that is taken up and down again. */
export const cues: Show = (stage, kind) => {
  const { id } = trace(stage, 0);
  const moves = [{ place: `swarms.${id}.emitter.centre.y`, from: -0.8, to: 0.8 }];
  const fader = stage.add('controls', 'fader', { moves });
  for (const [at, to] of [
    [0.5, 1],
    [1.6, 0.4],
  ] as const) {
    const sets = [{ control: fader.id, to }];
    const cue = makePart('cues', kind, stage.piece.cues);
    Object.assign(cue.dials, { sets, over: 0.6, by: 'yes', at });
    stage.piece.cues.push(cue);
  }
};
