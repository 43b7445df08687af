import type { PictureKind } from '../kinds';
import { cells } from './cells';
import { checks } from './checks';
import { gradient } from './gradient';
import { live } from './live';
import { noise } from './noise';
import { played } from './played';
import { rings } from './rings';

/** Pictures that change with time: clips and cameras, then made maps; in the order of the chooser. */
export const pictures: PictureKind[] = [played, live, noise, cells, rings, checks, gradient];
