import type { View } from '../../../language/view';
import type { Part, Swarm } from '../../../piece/types';
import type { SceneBuilder } from '../../scene';
import type { Shown } from '../appearance';

/** What the drawing of one body is made from. */
export interface DrawContext {
  builder: SceneBuilder;
  view: View;
  see: Shown;
  swarm: Swarm;
  body: Part;
  capacity: number;
  /** Repeats of the swarm. */
  copies: number;
  notices: string[];
}
