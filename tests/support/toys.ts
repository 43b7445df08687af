import { Vec3 } from '@vast-swarm/kernel';
import {
  addKind,
  addSection,
  body,
  emitter,
  force,
  number,
  signal,
  treatment,
  type Section,
  vector,
} from '@vast-swarm/core/kinds';
import { makeChoice, makePart, type Part, type PartList, type Piece } from '@vast-swarm/core/piece';
import { smallPiece } from './pieces';

/** A kind of each sort as somebody outside would add it; docs/extend.md shows the same. */

const icon = 'M4 12h16';

const lift = force({
  kind: 'toyLift',
  title: 'Toy lift',
  help: 'A steady push upwards.',
  icon,
  dials: {
    strength: number('Strength', 0.5, [0, 100], 'Acceleration.', { unit: 'm/s²', varies: 'life' }),
  },
  build(dial) {
    const zero = dial.graph.float(0);
    return { push: new Vec3(zero, dial.number('strength'), zero) };
  },
});

const pair = emitter({
  kind: 'toyPair',
  title: 'Toy pair',
  help: 'Particles start at two places in turn.',
  icon,
  dials: { apart: vector('Apart', [2, 0, 0], 100, 'm', 'From one place to the other.') },
  build(dial) {
    const { id } = dial.particle!;
    const side = id.and(1).eq(0).select(-0.5, dial.graph.float(0.5));
    return { position: dial.vector('apart').scale(side), normal: dial.randomDirection('normal') };
  },
});

const ramp = signal({
  kind: 'toyRamp',
  title: 'Toy ramp',
  help: 'Rises from 0 to 1 and stays.',
  icon,
  dials: {
    takes: number('Takes', 2, [0.01, 100], 'Until it is up.', { unit: 's', varies: 'never' }),
  },
  follow:
    ({ takes }) =>
    (time) =>
      Math.min(1, Math.max(0, time / takes)),
});

const tile = body({
  kind: 'toyTile',
  title: 'Toy tile',
  help: 'A square that always faces the camera.',
  icon,
  shape: { draws: 'mark', pattern: 'square' },
  dials: {},
});

const dim = treatment({
  type: 'pixel',
  kind: 'toyDim',
  title: 'Toy dim',
  help: 'Less light everywhere.',
  icon,
  dials: { keep: number('Keep', 0.5, [0, 1], 'What is left of the light.') },
  build: ({ dial }, colour) => colour.scale(dial.number('keep')),
});

/** A section from outside that simulates: cells of its own, and pushes by what they keep. */
const tides: Section = {
  list: 'toyTides',
  one: 'toy tide',
  most: 4,
  place: 'world',
  names: ['acting'],
  influence: 'felt',
  pushes: true,
  varies: 'motion',
};

const tide = force({
  kind: 'toyTide',
  title: 'Toy tide',
  help: 'Rises by how many have been in it.',
  icon,
  dials: {
    strength: number('Strength', 0.001, [-10, 10], 'Of each particle and frame.', { unit: 'm/s²' }),
  },
  field: {
    cells: () => [1, 1, 1],
    from: () => '',
    box(dial) {
      const at = (v: number): Vec3 =>
        new Vec3(dial.graph.float(v), dial.graph.float(v), dial.graph.float(v));
      return { centre: at(0), size: at(1000) };
    },
    gathers: ['count'],
    leaves: ({ position }) => ({ count: position.x.graph.float(1) }),
    keeps: ['count'],
    step: (_, { kept, left }) => ({ count: kept('count').add(left('count')) }),
  },
  build(dial, { field }) {
    const none = dial.graph.float(0);
    const middle = new Vec3(none, none, none);
    return { push: new Vec3(none, dial.number('strength').mul(field().at('count', middle)), none) };
  },
});

let added = false;

/** Puts the toys on their shelves, once. */
export function addToys(): void {
  if (added) return;
  added = true;
  addKind('forces', lift);
  addKind('emitters', pair);
  addKind('signals', ramp);
  addKind('bodies', tile);
  addKind('finish', dim);
  addSection(tides, [tide]);
}

/** Particles at rest that a part of the toy section lifts. */
export function tidePiece(change: (p: Piece, tides: Part[]) => void = () => undefined): Piece {
  addToys();
  return smallPiece((p) => {
    const swarm = p.swarms[0]!;
    swarm.launch.dials.speed = 0;
    Object.assign(swarm.dials, { rate: 0, burst: 400, lifetime: 60 });
    p.forces = [];
    const list = 'toyTides' as Exclude<PartList, 'swarms'>;
    p[list] = [makePart(list, 'toyTide', [])];
    change(p, p[list]);
  });
}

/** A small piece of toys alone. */
export function toyPiece(): Piece {
  addToys();
  return smallPiece((p) => {
    const swarm = p.swarms[0]!;
    swarm.emitter = makeChoice('emitters', 'toyPair');
    swarm.launch.dials.speed = 0;
    swarm.bodies = [makePart('bodies', 'toyTile', [])];
    Object.assign(swarm.dials, { rate: 0, burst: 400, lifetime: 60, size: 0.8 });
    p.forces = [makePart('forces', 'toyLift', [])];
    p.signals = [makePart('signals', 'toyRamp', [])];
    swarm.dials.light = { feed: 'signal', signal: 'toyRamp', from: 0, to: 2 };
    p.finish = [makePart('finish', 'toyDim', [])];
  });
}
