import type { CameraKind } from '../../kinds';
import { orthographic } from './orthographic';
import { perspective } from './perspective';

/** How the scene is seen, in the order of the chooser. */
export const cameras: CameraKind[] = [perspective, orthographic];
