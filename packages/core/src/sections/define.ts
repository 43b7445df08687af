import type { Dials } from '../language/dials';
import { placementDials, standingDials } from '../language/placement';
import { bodyDials } from './swarms/bodies/common';
import { controlDials } from './controls/common';
import { touchDials } from './colliders/touch';
import { finishDials } from './finish/common';
import { withRegion } from './forces/region';
import type {
  BackdropKind,
  BodyKind,
  CameraKind,
  ColliderKind,
  ControlKind,
  CueKind,
  EmitterKind,
  FinishKind,
  ForceKind,
  Kind,
  LaunchKind,
  LightKind,
  MediumKind,
  SignalKind,
  PerformerKind,
  PictureKind,
  SoundKind,
} from './kinds';
import { launchDials } from './swarms/launches/inherit';

/**
 * How kinds are declared: what is written stays typed by the kind's own dials, and the kind gets the
 * dials that all of its shelf have.
 */

/** A kind as it stands on its shelf, where its dials are any. */
function shelved(kind: object, ...more: Dials[]): Kind {
  const { dials, ...rest } = kind as Kind;
  return { ...rest, dials: Object.assign({}, dials, ...more) as Dials };
}

/** Where particles are born. It gets the dials of placement. */
export function emitter<const D extends Dials>(kind: EmitterKind<D>): EmitterKind {
  return shelved(kind, placementDials) as EmitterKind;
}

/** How particles start. */
export function launch<const D extends Dials>(kind: LaunchKind<D>): LaunchKind {
  return shelved(kind, launchDials) as LaunchKind;
}

/**
 * Something that moves particles. It gets a share and a region, which scale what `build` gives.
 *
 * @example force({ kind: 'gravity', …, build: (dial) => ({ push: dial.vector('pull') }) })
 */
export function force<const D extends Dials>(kind: ForceKind<D>): ForceKind {
  return withRegion(shelved(kind) as ForceKind);
}

/** A solid or a zone. It gets a place and what happens on touch. */
export function collider<const D extends Dials>(kind: ColliderKind<D>): ColliderKind {
  return shelved(kind, touchDials, standingDials) as ColliderKind;
}

/** A number that changes with time. */
export function signal<const D extends Dials>(kind: SignalKind<D>): SignalKind {
  return shelved(kind) as SignalKind;
}

/** A picture that changes with time. */
export function movingPicture<const D extends Dials>(kind: PictureKind<D>): PictureKind {
  return shelved(kind) as PictureKind;
}

/** Somebody whose joints drive the piece. */
export function performer<const D extends Dials>(kind: PerformerKind<D>): PerformerKind {
  return shelved(kind) as PerformerKind;
}

/** A fluid that swarms stir and ride. */
export function medium<const D extends Dials>(kind: MediumKind<D>): MediumKind {
  return shelved(kind);
}

/** A kind of control, with the dials that it moves, and a group. */
export function control<const D extends Dials>(kind: ControlKind<D>): ControlKind {
  return shelved(kind, controlDials) as ControlKind;
}

/** A change that is fired. */
export function cueKind<const D extends Dials>(kind: CueKind<D>): CueKind {
  return shelved(kind);
}

/** Something that is heard. */
export function sound<const D extends Dials>(kind: SoundKind<D>): SoundKind {
  return shelved(kind) as SoundKind;
}

/** How a particle is drawn. It gets draw mode, scale, gain and cover. */
export function body<const D extends Dials>(kind: BodyKind<D>): BodyKind {
  return shelved(kind, bodyDials) as BodyKind;
}

/** A kind of backdrop. */
export function backdrop<const D extends Dials>(kind: BackdropKind<D>): BackdropKind {
  return shelved(kind) as BackdropKind;
}

/** How the scene is seen. */
export function camera<const D extends Dials>(kind: CameraKind<D>): CameraKind {
  return shelved(kind) as CameraKind;
}

/** A kind of light. */
export function light<const D extends Dials>(kind: LightKind<D>): LightKind {
  return shelved(kind) as LightKind;
}

/** A step of the finish. It gets a share and a mask. */
export function treatment<const D extends Dials>(kind: FinishKind<D>): FinishKind {
  return shelved(kind, finishDials) as FinishKind;
}
