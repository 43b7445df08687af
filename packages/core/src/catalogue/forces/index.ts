import type { ForceKind } from '../kinds';
import { attraction } from './attraction';
import { brushed } from './brushed';
import { curlNoise } from './curlNoise';
import { drag } from './drag';
import { flocking } from './flocking';
import { gravity } from './gravity';
import { home } from './home';
import { pictureFlow } from './pictureFlow';
import { speedLimit } from './speedLimit';
import { turbulence } from './turbulence';
import { vectorNoise } from './vectorNoise';
import { vortex } from './vortex';
import { wind } from './wind';
import { wornWays } from './wornWays';

/** What moves particles, in the order of the chooser. */
export const forces: ForceKind[] = [
  gravity,
  wind,
  drag,
  turbulence,
  curlNoise,
  vectorNoise,
  vortex,
  attraction,
  home,
  brushed,
  pictureFlow,
  flocking,
  wornWays,
  speedLimit,
];
