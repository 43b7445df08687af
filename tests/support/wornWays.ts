import { makePart, makeSwarm, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from './pieces';

/** Motes that wear ways with a vortex, and others that only know of them by the field. */
export function wornPiece(change: (piece: Piece) => void = () => undefined): Piece {
  return smallPiece((p) => {
    const leaders = p.swarms[0]!;
    leaders.dials.lifetime = 3;
    const { emitter, dials } = { ...structuredClone(makeSwarm('sphere', p.swarms)) };
    p.swarms.push({ ...structuredClone(leaders), id: 'sparks', name: 'Sparks', emitter });
    p.swarms[1]!.emitter.dials.radius = 1.5;
    p.swarms[1]!.dials.colour = dials.colour!;
    const ways = makePart('forces', 'wornWays', []);
    Object.assign(ways, { id: 'ways' });
    Object.assign(ways.dials, { swarm: 'motes', cells: 9, size: 4, fade: 0.5, draw: 1, along: 4 });
    const vortex = makePart('forces', 'vortex', []);
    Object.assign(vortex, { id: 'turn' });
    p.forces = [ways, vortex];
    p.influence = { ways: { motes: 0 }, turn: { sparks: 0 } };
    change(p);
  });
}
