import type { Expr, Vec3 } from '@vast-swarm/kernel';
import type { View } from '../../../language/view';
import type { Part, Swarm } from '../../../piece/types';
import type { SceneBuilder } from '../../scene';
import type { Shown } from '../appearance';

/** Inputs of the drawing of one body. */
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
  /**
   * What its pixels get, of its own light and how much it covers.
   *
   * @param stands where it is simulated, for what keeps its place while the particle moves on
   */
  light: (own: Vec3, covers: Expr, stands?: Vec3) => Vec3;
  /** Whether its pixels get a number, the same all over it, in place of light. */
  measured: boolean;
}
