import type { ForceKind } from '../kinds';
import { ride } from './ride';
import { attraction } from './attraction';
import { brushed } from './brushed';
import { clipFlow } from './clipFlow';
import { curlNoise } from './curlNoise';
import { drag } from './drag';
import { flocking } from './flocking';
import { gravity } from './gravity';
import { home } from './home';
import { jostle } from './jostle';
import { pictureFlow } from './pictureFlow';
import { speedLimit } from './speedLimit';
import { turbulence } from './turbulence';
import { vortex } from './vortex';
import { wind } from './wind';
import { wornWays } from './wornWays';

/** Forces, in the order of the chooser. */
export const forces: ForceKind[] = [
  gravity,
  wind,
  drag,
  turbulence,
  curlNoise,
  jostle,
  vortex,
  attraction,
  home,
  brushed,
  pictureFlow,
  clipFlow,
  flocking,
  wornWays,
  ride,
  speedLimit,
];
