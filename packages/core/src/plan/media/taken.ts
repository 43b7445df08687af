import type { Expr } from '@vast-swarm/kernel';
import type { fluidDials } from '../../sections/media/dials';
import type { DialReader } from '../../language/dialReader';
import type { Content } from '../../language/mediumSpace';

/** The dials of a medium. */
export type MediumDial = DialReader<typeof fluidDials>;

/** Effect of forces on a medium in the middle of a cell, as on a particle. */
export interface Taken {
  /** Acceleration along the plane, m/s². */
  x: Expr;
  y: Expr;
  /** 1/s. */
  drag: Expr;
  /** Most speed, m/s; null where there is none. */
  limit: Expr | null;
  /** Light and amount a second, and how soon what is there goes, 1/s. */
  content: Record<Content, Expr>;
  going: Record<'light' | 'amount', Expr>;
}
