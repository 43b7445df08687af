import type { Expr, Vec3 } from '@vast-swarm/kernel';

/** Readings of a particle now, in seconds, metres and m/s. */
export interface Readings {
  age: Expr;
  life: Expr;
  position: Vec3;
  velocity: Vec3;
}

/** Where a particle is born. */
export interface BirthPlace {
  /** Metres, world frame. */
  position: Vec3;
  /** Along and around the emitter, 0 to 1. */
  surface: readonly [Expr, Expr];
  /** Linear light of the place. */
  colour: Vec3;
  /** Number of the letter, where the place is on words; else 0. */
  letter: Expr;
}

/** Respects in which repeats of a swarm can have chances of their own. */
export const CHANCES = ['picture', 'colour', 'turn', 'opacity', 'map'] as const;
export type Chance = (typeof CHANCES)[number];

/** Which repeat of its swarm it is that is drawn. */
export interface Repeat {
  /** The key of its chances, i32, 0 in the swarm itself; null where it has none of its own. */
  chance(of: Chance | null): Expr | null;
  /** A place on the surface it was born on, 0 to 1 along and around, as a place on that of all repeats. */
  surface(at: readonly [Expr, Expr]): readonly [Expr, Expr];
  /** How far along and around it looks things up in a map beyond where they stand, 0 to 1; null where it does not. */
  shift: readonly [Expr, Expr] | null;
}

/** Inputs of feeds from a particle; pixels and frames have none. */
export interface ParticleInputs {
  swarm: string;
  id: Expr;
  /** Part of life lived, 0 to 1; null at birth. */
  life: Expr | null;
  /** How far into the step it is born, 0 to 1; in the birth kernel only. */
  born?: Expr;
  /** Births that give each place of the emitter one, where that is how they go. */
  onePlaceEach?: number;
  readings?: Readings;
  /** Where it is born; in the birth kernel only, once that is known. */
  birthplace?: BirthPlace;
  /** A state that particles keep from birth. */
  kept?: (name: StateName) => Expr;
  /** In a look that is repeated. */
  repeat?: Repeat;
  /** The letter whose place it takes, where that is known without its birth. */
  letter?: Expr;
  /** Linear light of the particle's place now, where that changes while it lives. */
  placeColour?: Vec3 | null;
}

/**
 * The state that every particle carries from frame to frame: place (m), velocity (m/s), age and life (s). What
 * else a swarm's particles carry is in SwarmPlan.state.
 */
export const STATE = ['px', 'py', 'pz', 'vx', 'vy', 'vz', 'age', 'life'] as const;

type Axis = 'x' | 'y' | 'z';

/**
 * Names of states: what all carry; what some carry for what is known of every kind (whether it sticks,
 * metres travelled, its birthplace, which letter that is on, where along and around its emitter that is, that place's colour, the velocity that is seen, that with which it
 * was carried, its age before its first step); what a dial found
 * at birth (`keep/…`); and where the particle was (`ring/…`, see plan/motion/history.ts).
 */
export type StateName =
  | (typeof STATE)[number]
  | ('held' | 'way' | 'phase' | 'letter')
  | `surface.${'x' | 'y'}`
  | `${'home' | 'colour' | 'seen' | 'drift'}.${Axis}`
  | `keep/${string}`
  | `ring/${string}`;
