import type { DrawMode } from '../../../sections/swarms/bodies/common';
import type { PlanKernel } from '../../../language/frame';
import type { Level } from './forms';
import type { GridPlan } from '../../motion/neighbourGrid';

interface Common {
  /** Id of the body. */
  id: string;
  mode: DrawMode;
  /**
   * From state to what is drawn. Never touches the state: restyling needs no new simulation. Where
   * the swarm is repeated the engine runs it once for each repeat.
   */
  kernel: PlanKernel;
  /** Metres before opaque things within which it fades, at a time in seconds. */
  soft: (time: number) => number;
  /** Whether it gives numbers in place of light, and depth wants to be true all over; see measuredDraws. */
  measured: boolean;
}

/** One body of a swarm, as an engine draws it. */
export type Draw = Common &
  (
    | {
        shape: 'discs';
        /** 1 fades from the middle, more is harder. */
        edge: number;
      }
    | {
        shape: 'marks';
        /** Number of the pattern, see PATTERNS. */
        pattern: number;
        param: number;
        /** Whether the lens blurs it. */
        lens: boolean;
        pictures: Pictures | null;
      }
    | {
        shape: 'meshes';
        /** Buffer of the corners: three to a triangle, each x, y, z and the normal there. */
        mesh: string;
        /** Buffer of the faces: normal and distance of the plane of each triangle. */
        faces: string;
        /** From fine to coarse, at least one. */
        levels: readonly Level[];
        gloss: (time: number) => number;
        /** For files: see INSTANCE. Made when asked for; shadows have none. */
        instances?: () => PlanKernel;
        /** Whether faces that turn away are left out. */
        cull: boolean;
      }
    | {
        shape: 'trails';
        /** Places of the longest trail, its head included. */
        rows: number;
      }
    | {
        shape: 'links';
        radius: number;
        most: number;
        total: number;
        /** Opacity of filled triangles. */
        fill: (time: number) => number;
        /** Slots that are linked among themselves: those of one round, see Turns. */
        roundIds: number;
        grid: GridPlan;
      }
  );

/** Pictures of one size, one behind the other: red, green, blue (with opacity) and opacity. */
export interface Pictures {
  /** Name of the buffer. */
  block: string;
  width: number;
  height: number;
  frames: number;
  /** Their mean opacity. */
  coverage: number;
}

/** Things are drawn no smaller than this radius in pixels; smaller ones are dimmed instead. */
export const SMALLEST = 1.4;
