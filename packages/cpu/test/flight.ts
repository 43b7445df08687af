import { compilePiece } from '@vast-swarm/core/plan';
import { makeChoice, makePart, type Piece } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import type { DialValues } from '@vast-swarm/core/kinds';
import { smallPiece } from '../../../tests/support/pieces';
import type { CpuEngine } from '../src';

/** What tests of motion share: pieces with one burst, and what has become of it. */

/** One burst of particles at the origin, thrown along +x, and the given forces. */
export function thrown(
  speed: number,
  forces: Piece['forces'],
  at: Vector = [0, 0, 0],
  rate = 30,
): Piece {
  return smallPiece((p) => {
    p.frame.rate = rate;
    p.frame.length = 20 * rate;
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'point');
    swarm.emitter.dials.centre = at;
    swarm.launch = makeChoice('launches', 'cone');
    Object.assign(swarm.launch.dials, { speed, direction: [1, 0, 0], angle: 0 });
    Object.assign(swarm.dials, { rate: 0, burst: 4, lifetime: 100 });
    p.forces = forces;
  });
}

export function force(kind: string, dials: DialValues): Piece['forces'][number] {
  const part = makePart('forces', kind, []);
  Object.assign(part.dials, dials);
  return part;
}

/** Place and velocity of the first particle after `seconds`. */
export function run(engine: CpuEngine, piece: Piece, seconds: number): { p: Vector; v: Vector } {
  engine.setPlan(compilePiece(piece));
  engine.reset();
  for (let i = 0; i < Math.round(seconds * piece.frame.rate); i++) engine.step();
  const read = (names: readonly ('px' | 'py' | 'pz' | 'vx' | 'vy' | 'vz')[]): Vector =>
    names.map((n) => engine.state('motes', n)[0]!) as Vector;
  return { p: read(['px', 'py', 'pz']), v: read(['vx', 'vy', 'vz']) };
}

export function near(value: number, exact: number, relative: number): void {
  expect(Math.abs(value - exact)).toBeLessThanOrEqual(relative * Math.abs(exact));
}

/** Birth places of many particles, by emitter. */
export function birthplaces(engine: CpuEngine, kind: string, dials: DialValues): Vector[] {
  const piece = thrown(0, []);
  const swarm = piece.swarms[0]!;
  swarm.emitter = makeChoice('emitters', kind);
  Object.assign(swarm.emitter.dials, dials);
  swarm.dials.burst = 20_000;
  run(engine, piece, 1 / 30);
  const [x, y, z] = (['px', 'py', 'pz'] as const).map((n) => engine.state('motes', n));
  return Array.from(x!, (v, i): Vector => [v, y![i]!, z![i]!]);
}

/** Chi-square of counts against equal shares; for 15 degrees of freedom 0.999 is at 37.7. */
export function chiSquare(values: readonly number[]): number {
  const bins = new Array<number>(16).fill(0);
  for (const v of values) bins[Math.min(15, Math.floor(v * 16))]! += 1;
  const share = values.length / 16;
  return bins.reduce((s, n) => s + (n - share) ** 2 / share, 0);
}
