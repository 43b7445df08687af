import { Vec3, type Expr } from '@vast-swarm/kernel';
import { addKind, emitter, launch } from '@vast-swarm/core/kinds';
import { makeChoice, type Piece } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import { smallPiece } from '../../../tests/support/pieces';

/** Particles of which each starts at a place and with a velocity of its own. */
export interface Aim {
  from: Vector;
  velocity: Vector;
}

let places = new Float32Array(0);
let velocities = new Float32Array(0);

interface Reader {
  particle: { id: Expr } | null;
  block(values: Float32Array, at: Expr): Expr;
}

function listed(dial: Reader, values: Float32Array): Vec3 {
  const at = dial.particle!.id.mul(3);
  const part = (i: number): Expr => dial.block(values, at.add(i));
  return new Vec3(part(0), part(1), part(2));
}

const icon = 'M4 12h16';
const words = { kind: 'aimed', title: 'Aimed', help: 'Each its own.', icon, dials: {} };
addKind(
  'emitters',
  emitter({
    ...words,
    build: (dial) => ({ position: listed(dial, places), normal: dial.randomDirection('n') }),
  }),
);
addKind('launches', launch({ ...words, build: (dial) => listed(dial, velocities) }));

/** A piece with these particles, all born at its start, and nothing else. */
export function aimed(list: readonly Aim[], rate: number): Piece {
  // New arrays: engines know what they have by which it is.
  places = Float32Array.from(list.flatMap((a) => a.from));
  velocities = Float32Array.from(list.flatMap((a) => a.velocity));
  return smallPiece((p) => {
    p.frame.rate = rate;
    p.frame.length = 20 * rate;
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'aimed');
    swarm.launch = makeChoice('launches', 'aimed');
    Object.assign(swarm.dials, { rate: 0, burst: list.length, lifetime: 100 });
    p.forces = [];
  });
}
