import { Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../../sections';
import { touchDials } from '../../../sections/colliders/touch';
import type { ColliderKind, Distance, Meeting, Ray, Solid } from '../../../sections/kinds';
import type { KernelBuilder } from '../../../language/builder';
import { allDials, sharedDials, type DialReader } from '../../../language/dialReader';
import type { ParticleInputs } from '../../../language/particle';
import { placementOf, travels, type Placement } from '../../../language/placement';
import type { Part } from '../../../piece/types';
import { partReader } from '../../readers';
import { meetConvex } from './convex';
import { TOUCH } from './touching';

/** Metres: what is not there is never reached. */
const FAR = 1e9;

export type TouchReader = DialReader<typeof touchDials>;

/** A collider of the piece with its dials read. */
export interface Body {
  dial: TouchReader;
  /** Distances count up on the side where particles are allowed, less the gap that is kept. */
  surface: (p: Vec3) => Distance;
  meet: (ray: Ray) => Meeting;
  convex: boolean;
  /** Metres by which the surface may be told wrong. */
  doubt: Expr;
}

function readerOf(builder: KernelBuilder, part: Part, particle: ParticleInputs): TouchReader {
  return sharedDials(partReader(builder, 'colliders', part, particle), touchDials);
}

export function bodyOf(builder: KernelBuilder, part: Part, particle: ParticleInputs): Body | null {
  const dial = readerOf(builder, part, particle);
  const kind: ColliderKind = kindOf('colliders', part.kind);
  const solid = kind.build(allDials(dial));
  return solid && bodyAround(dial, solid);
}

/** A solid with the gap that is kept, on the side where particles are. */
function bodyAround(dial: TouchReader, solid: Solid): Body {
  const g = dial.graph;
  const inside = dial.choice('side') === 'inside';
  const gap = dial.choice('acts') === 'solid' && dial.raw('gap') !== 0 ? dial.number('gap') : null;
  const surface = (p: Vec3): Distance => {
    const { distance, normal } = solid.distance(p);
    const sided = inside ? distance.neg() : distance;
    const kept = gap ? sided.sub(gap) : sided;
    return {
      distance: solid.there ? solid.there.select(kept, g.float(FAR)) : kept,
      normal: inside ? normal.scale(-1) : normal,
    };
  };
  return {
    dial,
    surface,
    convex: !solid.meets,
    meet: (ray) => solid.meets?.(ray, gap ?? g.float(0)) ?? meetConvex(surface, ray, inside),
    doubt: solid.doubt ?? g.float(TOUCH / 2),
  };
}

/** A solid that particles meet, with its frame at the start and at the end of the step. */
export interface Standing extends Body {
  moves: boolean;
  before: Placement;
  after: Placement;
  /** A place of the world in the solid's frame, at a part of the step. */
  local: (p: Vec3, moment: Expr) => Vec3;
  /** Velocity of the solid at a place of its own frame, m/s in the world frame. */
  velocity: (spot: Vec3, step: Expr) => Vec3;
  /** A direction of its frame in the world's, at a part of the step. */
  outward: (direction: Vec3, moment: Expr) => Vec3;
}

/** Parts of a collider that particles can meet on their way in a step: itself, or of one that is not rigid some of its limbs. */
export function standings(
  builder: KernelBuilder,
  part: Part,
  particle: ParticleInputs,
  way: { from: Vec3; to: Vec3 },
): Standing[] {
  const dial = readerOf(builder, part, particle);
  const moves = travels(part.dials);
  const before = placementOf(dial.atMoment(0));
  const after = moves ? placementOf(dial.atMoment(1)) : before;
  const kind: ColliderKind = kindOf('colliders', part.kind);
  if (!kind.limbs) {
    const body = bodyOf(builder, part, particle);
    return body ? [standing(body, moves, before, after)] : [];
  }
  const own = { from: before.placeBack(way.from), to: after.placeBack(way.to) };
  return kind
    .limbs(allDials(dial), own)
    .map((limb) =>
      standing(
        bodyAround(dial, limb),
        true,
        chained(before, limb.before),
        chained(after, limb.after),
      ),
    );
}

/** From an inner frame to that of an outer one. */
function chained(outer: Placement, inner: Placement): Placement {
  return {
    place: (p) => outer.place(inner.place(p)),
    direction: (v) => outer.direction(inner.direction(v)),
    placeBack: (p) => inner.placeBack(outer.placeBack(p)),
    directionBack: (v) => inner.directionBack(outer.directionBack(v)),
  };
}

function standing(body: Body, moves: boolean, before: Placement, after: Placement): Standing {
  const { dial } = body;
  const none = dial.graph.float(0);
  return {
    ...body,
    moves,
    before,
    after,
    local: (p, moment) =>
      moves ? Vec3.mix(before.placeBack(p), after.placeBack(p), moment) : before.placeBack(p),
    velocity: (spot, step) =>
      moves
        ? after
            .place(spot)
            .sub(before.place(spot))
            .scale(dial.graph.float(1).div(step.max(1e-6)))
        : new Vec3(none, none, none),
    outward: (direction, moment) =>
      moves
        ? Vec3.mix(before.direction(direction), after.direction(direction), moment)
        : before.direction(direction),
  };
}
