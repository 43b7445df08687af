import { join } from 'node:path';
import { build } from './build';

build('node');

/** The command line, as it is built. */
export const CLI = join(__dirname, '../../packages/server/bin/vast-swarm.mjs');
