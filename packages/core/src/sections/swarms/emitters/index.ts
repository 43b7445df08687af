import type { EmitterKind } from '../../kinds';
import { medium } from './medium';
import { box } from './box';
import { cloud } from './cloud';
import { disc } from './disc';
import { joints } from './joints';
import { lattice } from './lattice';
import { line } from './line';
import { mesh } from './mesh';
import { morph } from './morph';
import { outline } from './outline';
import { picture } from './picture';
import { point } from './point';
import { rectangle } from './rectangle';
import { ring } from './ring';
import { sphere } from './sphere';
import { swarm } from './swarm';

/** Where particles are born, in the order of the chooser. */
export const emitters: EmitterKind[] = [
  point,
  line,
  ring,
  disc,
  rectangle,
  box,
  sphere,
  lattice,
  outline,
  mesh,
  cloud,
  picture,
  swarm,
  medium,
  joints,
  morph,
];
