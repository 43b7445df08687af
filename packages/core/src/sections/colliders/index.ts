import type { ColliderKind } from '../kinds';
import { box } from './box';
import { capsule } from './capsule';
import { mesh } from './mesh';
import { performer } from './performer';
import { plane } from './plane';
import { sphere } from './sphere';

/** Solids and zones, in the order of the chooser. */
export const colliders: ColliderKind[] = [plane, box, sphere, capsule, mesh, performer];
