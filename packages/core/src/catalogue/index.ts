import { flat, linear, radial } from './backdrops/backdrops';
import { bodyDials } from './bodies/common';
import { disc } from './bodies/disc';
import { links, trail } from './bodies/lines';
import * as marks from './bodies/marks';
import { mesh as meshCopies } from './bodies/mesh';
import { orthographic, perspective } from './camera';
import * as solids from './colliders/shapes';
import { touchDials } from './colliders/touch';
import { box } from './emitters/box';
import { cloud } from './emitters/cloud';
import { disc as discPlaces } from './emitters/disc';
import { lattice } from './emitters/lattice';
import { line } from './emitters/line';
import { mesh } from './emitters/mesh';
import { morph } from './emitters/morph';
import { outline } from './emitters/outline';
import { picture } from './emitters/picture';
import { point } from './emitters/point';
import { rectangle } from './emitters/rectangle';
import { ring } from './emitters/ring';
import { sphere } from './emitters/sphere';
import { swarm } from './emitters/swarm';
import { aberration } from './finish/aberration';
import { bloom } from './finish/bloom';
import { blur } from './finish/blur';
import { finishDials } from './finish/common';
import { displacement } from './finish/displacement';
import { edges } from './finish/edges';
import { exposure } from './finish/exposure';
import { buildUp, feedback } from './finish/feedback';
import { grade } from './finish/grade';
import { gradientMap } from './finish/gradientMap';
import { grain } from './finish/grain';
import * as layers from './finish/layers';
import { levels } from './finish/levels';
import { lookupTable } from './finish/lookupTable';
import { glyphs, halftone } from './finish/rasters';
import { sharpen } from './finish/sharpen';
import { vignette } from './finish/vignette';
import { directionalBlur, radialBlur } from './finish/wayBlurs';
import { attraction } from './forces/attraction';
import { brushed } from './forces/brushed';
import { curlNoise } from './forces/curlNoise';
import { drag } from './forces/drag';
import { flocking } from './forces/flocking';
import { gravity } from './forces/gravity';
import { home } from './forces/home';
import { pictureFlow } from './forces/pictureFlow';
import { withRegion } from './forces/region';
import { speedLimit } from './forces/speedLimit';
import { turbulence } from './forces/turbulence';
import { vectorNoise } from './forces/vectorNoise';
import { vortex } from './forces/vortex';
import { wind } from './forces/wind';
import { ambient, fill, key, rim } from './lights';
import type {
  BackdropKind,
  BodyKind,
  ColliderKind,
  EmitterKind,
  FinishKind,
  ForceKind,
  Kind,
  LaunchKind,
  LightKind,
  SignalKind,
} from './kinds';
import { number, type Dials } from './dials';
import { allRound, alongNormal, byColour, cone, outward, tangent } from './launches/launches';
import { placementDials, standingDials } from '../plan/placement';
import { formula } from './signals/formula';
import { keyframes } from './signals/keyframes';
import { noise } from './signals/noise';
import { steps } from './signals/steps';
import { wave } from './signals/wave';

/** A kind with more dials than its own file gives it. */
function also<K extends Kind>(...more: Dials[]): (kind: K) => K {
  return (kind) => ({ ...kind, dials: Object.assign({}, kind.dials, ...more) as Dials });
}

const launchDials: Dials = {
  inherit: number(
    'Inherits',
    0,
    [-10, 10],
    "The part of the emitter's own velocity it takes along.",
    {
      varies: 'birth',
    },
  ),
};

/** Every kind of everything. A new kind is a file of its own and a word here. */
export const catalogue = {
  emitters: [
    ...[point, line, ring, discPlaces, rectangle, box, sphere, lattice, outline, mesh, cloud],
    ...[picture, swarm, morph],
  ].map(also<EmitterKind>(placementDials)) as readonly EmitterKind[],
  launches: [outward, cone, alongNormal, tangent, allRound, byColour].map(
    also<LaunchKind>(launchDials),
  ) as readonly LaunchKind[],
  forces: [
    ...[gravity, wind, drag, turbulence, curlNoise, vectorNoise, vortex, attraction, home],
    ...[brushed, pictureFlow, flocking, speedLimit],
  ].map(withRegion) as readonly ForceKind[],
  colliders: [solids.plane, solids.box, solids.sphere, solids.capsule, solids.mesh].map(
    also<ColliderKind>(touchDials, standingDials),
  ) as readonly ColliderKind[],
  signals: [wave, noise, steps, keyframes, formula] as readonly SignalKind[],
  bodies: [
    ...[disc, marks.ring, marks.square, marks.spark, marks.puff, marks.streak, marks.picture],
    ...[marks.pictureSet, meshCopies, trail, links],
  ].map(also<BodyKind>(bodyDials)) as readonly BodyKind[],
  backdrops: [flat, linear, radial] as readonly BackdropKind[],
  cameras: [perspective, orthographic] as readonly Kind[],
  lights: [key, fill, rim, ambient] as readonly LightKind[],
  finish: [
    ...[bloom, feedback, buildUp, blur, directionalBlur, radialBlur, edges, sharpen],
    ...[displacement, aberration, halftone, glyphs, levels, grade, gradientMap, lookupTable],
    ...[layers.colourLayer, layers.gradientLayer, layers.pictureLayer, layers.swarmLayer],
    ...[exposure, vignette, grain],
  ].map(also<FinishKind>(finishDials)) as readonly FinishKind[],
};

export type Shelf = keyof typeof catalogue;

/** The kind of that name; the schema has seen to it that there is one. */
export function kindOf<S extends Shelf>(shelf: S, kind: string): (typeof catalogue)[S][number] {
  const found = catalogue[shelf].find((k) => k.kind === kind);
  if (!found) throw new Error(`There is no kind '${kind}' among ${shelf}`);
  return found;
}
