import { flat, radial } from './backdrops/backdrops';
import { disc } from './bodies/disc';
import { camera } from './camera';
import { box } from './emitters/box';
import { point } from './emitters/point';
import { ring } from './emitters/ring';
import { sphere } from './emitters/sphere';
import { bloom } from './finish/bloom';
import { exposure } from './finish/exposure';
import { grain } from './finish/grain';
import { vignette } from './finish/vignette';
import { curlNoise } from './forces/curlNoise';
import { drag } from './forces/drag';
import { gravity } from './forces/gravity';
import { turbulence } from './forces/turbulence';
import { vortex } from './forces/vortex';
import { wind } from './forces/wind';
import type {
  BackdropKind,
  BodyKind,
  EmitterKind,
  FinishKind,
  ForceKind,
  Kind,
  LaunchKind,
} from './kinds';
import { alongNormal, cone, outward } from './launches/launches';

/** Every kind of everything. A new kind is a file of its own and a word here. */
export const catalogue = {
  emitters: [point, ring, sphere, box] as readonly EmitterKind[],
  launches: [outward, cone, alongNormal] as readonly LaunchKind[],
  forces: [gravity, wind, drag, turbulence, curlNoise, vortex] as readonly ForceKind[],
  bodies: [disc] as readonly BodyKind[],
  backdrops: [flat, radial] as readonly BackdropKind[],
  cameras: [camera] as readonly Kind[],
  finish: [bloom, exposure, vignette, grain] as readonly FinishKind[],
};

export type Shelf = keyof typeof catalogue;

/** The kind of that name; the schema has seen to it that there is one. */
export function kindOf<S extends Shelf>(shelf: S, kind: string): (typeof catalogue)[S][number] {
  const found = catalogue[shelf].find((k) => k.kind === kind);
  if (!found) throw new Error(`There is no kind '${kind}' among ${shelf}`);
  return found;
}
