import {
  catalogue,
  makeChoice,
  makePart,
  makePiece,
  makeSwarm,
  type Piece,
} from '@vast-swarm/core';

/** A small piece with something of everything; quick to simulate and with light in its frame. */
export function smallPiece(change: (piece: Piece) => void = () => undefined): Piece {
  const piece = makePiece('Small');
  piece.frame = { width: 128, height: 72, rate: 30, length: 90, preroll: 0 };
  const swarm = makeSwarm('sphere', []);
  swarm.id = 'motes';
  swarm.name = 'Motes';
  Object.assign(swarm.dials, {
    rate: 900,
    lifetime: { feed: 'spread', from: 1, to: 3 },
    size: { feed: 'spread', from: 0.05, to: 0.2, distribution: 'normal' },
    colour: {
      feed: 'gradient',
      stops: [
        { at: 0, colour: '#ffb45c', light: 3 },
        { at: 1, colour: '#1f8fb0' },
      ],
    },
  });
  piece.swarms.push(swarm);
  piece.forces.push(makePart('forces', 'curlNoise', []));
  change(piece);
  return piece;
}

/** One piece for each kind in the catalogue, so that a new kind is tested by being there. */
export function pieceOfEveryKind(): [string, Piece][] {
  const pieces: [string, Piece][] = [];
  const add = (name: string, change: (piece: Piece) => void): void => {
    pieces.push([name, smallPiece(change)]);
  };
  for (const { kind } of catalogue.emitters) {
    add(`emitter ${kind}`, (p) => (p.swarms[0]!.emitter = makeChoice('emitters', kind)));
  }
  for (const { kind } of catalogue.launches) {
    add(`launch ${kind}`, (p) => (p.swarms[0]!.launch = makeChoice('launches', kind)));
  }
  for (const { kind } of catalogue.forces) {
    add(`force ${kind}`, (p) => (p.forces = [makePart('forces', kind, [])]));
  }
  for (const { kind } of catalogue.bodies) {
    for (const mode of ['add', 'screen', 'normal']) {
      add(`body ${kind}, ${mode}`, (p) => {
        p.swarms[0]!.body = makeChoice('bodies', kind);
        p.swarms[0]!.body.dials.mode = mode;
      });
    }
  }
  for (const { kind } of catalogue.backdrops) {
    add(`backdrop ${kind}`, (p) => (p.backdrop = makeChoice('backdrops', kind)));
  }
  for (const { kind } of catalogue.finish) {
    add(`finish ${kind}`, (p) => (p.finish = [makePart('finish', kind, [])]));
  }
  return pieces;
}
