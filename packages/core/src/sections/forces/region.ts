import type { Vector } from '../../feeds/feeds';
import { ballLines, boxLines, plainVector } from '../outlines';
import { Vec3, type Expr } from '@vast-swarm/kernel';
import { sharedDials, type DialReader } from '../../language/dialReader';
import { choice, number, valuesOf, vector, type ValuesOf } from '../../language/dials';
import type { Effect, ForceKind } from '../kinds';

const group = 'Where and how much';
const somewhere = { group, when: { dial: 'region', is: ['ball', 'box'] } };

/** Dials of every force: how much it acts, and where. */
const regionDials = {
  share: number('Share', 1, [-1000, 1000], 'Multiplies the force; shape or drive it at will.', {
    varies: 'life',
    group,
  }),
  region: choice(
    'Acts',
    'everywhere',
    { everywhere: 'Everywhere', ball: 'In a ball', box: 'In a box' },
    'Where the force is felt.',
    { group },
  ),
  regionCentre: vector('Middle', [0, 0, 0], 1000, 'm', 'Middle of the region.', {
    ...somewhere,
    grasp: 'place',
  }),
  regionSize: vector('Extent', [2, 2, 2], 1000, 'm', 'Its size along x, y and z.', somewhere),
  regionSoft: number('Soft edge', 0.3, [0, 1], 'Part of the region over which it fades.', {
    ...somewhere,
  }),
};

/** 1 inside the region, 0 outside, and smoothly from one to the other at its edge. */
function regionWeight(dial: DialReader<typeof regionDials>, position: Vec3): Expr | null {
  const region = dial.choice('region');
  if (region === 'everywhere') return null;
  const g = dial.graph;
  const half = dial.vector('regionSize').scale(0.5);
  const offset = position.sub(dial.vector('regionCentre'));
  const parts = offset.parts.map((o, i) => o.div(half.parts[i]!.abs().max(1e-6)));
  const [x, y, z] = parts as [Expr, Expr, Expr];
  // 0 in the middle, 1 at the edge.
  const far = region === 'ball' ? new Vec3(x, y, z).length() : x.abs().max(y.abs()).max(z.abs());
  const inside = g.float(1).sub(far).div(dial.number('regionSoft').max(1e-4)).clamp(0, 1);
  return inside.mul(inside).mul(g.float(3).sub(inside.mul(2)));
}

/** The region's border, where there is one. */
function regionLines(dials: ValuesOf<typeof regionDials>): Vector[][] {
  if (dials.region === 'everywhere') return [];
  const middle = plainVector(dials.regionCentre) ?? [0, 0, 0];
  const size = plainVector(dials.regionSize) ?? [1, 1, 1];
  const unit = dials.region === 'box' ? boxLines([1, 1, 1]) : ballLines(0.5);
  const put = (p: Vector): Vector => p.map((c, i) => c * size[i]! + middle[i]!) as Vector;
  return unit.map((line) => line.map(put));
}

/** A kind of force with the dials that all forces have. */
export function withRegion(kind: ForceKind): ForceKind {
  return {
    ...kind,
    dials: { ...kind.dials, ...regionDials },
    surroundings: (values) => regionLines(valuesOf(regionDials, values)),
    build(part, particle) {
      const effect = kind.build(part, particle);
      const dial = sharedDials(part, regionDials);
      const weight = regionWeight(dial, particle.position);
      const plain = dial.raw('share') === 1;
      if (plain && !weight) return effect;
      const amount = plain
        ? weight!
        : weight
          ? dial.number('share').mul(weight)
          : dial.number('share');
      return scaled(effect, amount);
    },
  };
}

/** An effect at so much of its strength. */
export function scaled({ push, drag, carry, limit }: Effect, amount: Expr): Effect {
  return {
    ...(push ? { push: push.scale(amount) } : {}),
    ...(drag ? { drag: drag.mul(amount) } : {}),
    ...(carry ? { carry: carry.scale(amount) } : {}),
    // A limit that is felt by half lets twice as much pass.
    ...(limit ? { limit: limit.div(amount.max(1e-6)) } : {}),
  };
}
