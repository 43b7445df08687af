import type { DrawMode } from '../../../catalogue/bodies/common';
import type { PlanKernel } from '../../../language/frame';
import type { GridPlan } from '../../motion/neighbourGrid';

export type { DrawMode } from '../../../catalogue/bodies/common';

interface Common {
  /** Id of the body. */
  id: string;
  mode: DrawMode;
  /**
   * From state to what is drawn. Never touches the state: restyling needs no new simulation. Where
   * the swarm is repeated the engine runs it once for each repeat.
   */
  kernel: PlanKernel;
  /** The buffers that the kernel fills, one number a particle. */
  outputs: readonly string[];
  /** Metres before opaque things within which it fades, at a time in seconds. */
  soft: (time: number) => number;
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
        /** Buffer of the corners: nine to a triangle, x, y, z and the normal there. */
        mesh: string;
        triangles: number;
        gloss: (time: number) => number;
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

/**
 * Discs: place and radius in pixels (radius 0: not drawn), light already multiplied by opacity,
 * opacity, and distance along the view in metres.
 */
export const DISC = ['sx', 'sy', 'sr', 'cr', 'cg', 'cb', 'ca', 'depth'] as const;

/**
 * Marks: place and half its bounds in pixels (0: not drawn), light, opacity, distance; the four
 * numbers that bring pixels into its own square; hardness of its edge, how much of it is out of
 * focus, which one of its pictures or puffs.
 */
export const MARK = [
  ...['sx', 'sy', 'ex', 'ey', 'cr', 'cg', 'cb', 'ca', 'depth'],
  ...['m0', 'm1', 'm2', 'm3', 'edge', 'blur', 'pick'],
] as const;

/** Meshes: place from the eye (right, up, forward), three axes in metres, light, opacity. */
export const MESH = [
  ...['mx', 'my', 'mz', 'xx', 'xy', 'xz', 'yx', 'yy', 'yz', 'zx', 'zy', 'zz'],
  ...['cr', 'cg', 'cb', 'ca'],
] as const;

/**
 * Trails, a row for each frame back: place in pixels, half the width as a way in pixels, light,
 * opacity (below 0: no place), distance, three numbers of shading across, hardness of the edge.
 */
export const TRAIL = [
  ...['tx', 'ty', 'tnx', 'tny', 'tr', 'tg', 'tb', 'ta', 'tz', 'ts0', 'ts1', 'ts2', 'te'],
] as const;

/** Links: place in pixels, half the width, light, opacity (below 0: none), distance, edge. */
export const LINK = ['lx', 'ly', 'lw', 'lr', 'lg', 'lb', 'la', 'lz', 'le'] as const;

/** Things are drawn no smaller than this radius in pixels; smaller ones are dimmed instead. */
export const SMALLEST = 1.4;
