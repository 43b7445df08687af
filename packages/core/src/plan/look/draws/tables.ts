import { DRAW_MODES, type DrawMode } from '../../../sections/swarms/bodies/common';
import type { Lamp } from '../../../language/frame';
import type { Draw } from './draw';
import { MOST_LEVELS } from './forms';
import type { WordList } from './words';

/**
 * The ways of drawing. What is said here is all that the two engines share of them: from it come the
 * constants that the rasteriser (scripts/assembly-text.ts) and the shaders read.
 */
interface DrawTable<S extends Draw['shape']> {
  /** Outputs of the kernel for each particle, or for each of its rows. */
  outputs: readonly string[];
  /** Numbers of the draw itself. */
  words: WordList;
  /** Places of a particle, one behind the other in the outputs. */
  rows: (draw: Draw & { shape: S }) => number;
  /** Most things that a particle is drawn as. */
  items: (draw: Draw & { shape: S }) => number;
  /** Whether all repeats of a swarm are drawn at once, or one after the other. */
  together: boolean;
  /** Key of the order far to near: the particle's own depth, or the mean over their corners. */
  order: 'depth' | 'mean';
}

/** Keeps the names of a table's words in its type. */
function table<S extends Draw['shape'], const T extends DrawTable<S>>(_: S, made: T): T {
  return made;
}

const one = (): number => 1;

export const DRAW_TABLES = {
  /**
   * Place and radius in pixels (radius 0: not drawn), light already multiplied by opacity, opacity, and
   * distance along the view in metres. Words: the edge factor.
   */
  discs: table('discs', {
    outputs: ['sx', 'sy', 'sr', 'cr', 'cg', 'cb', 'ca', 'depth'],
    words: ['edge'],
    rows: one,
    items: one,
    together: true,
    order: 'depth',
  }),
  /**
   * Place and half its bounds in pixels (0: not drawn), light, opacity, distance; the four numbers that
   * bring pixels into its own square; hardness of its edge, how much of it is out of focus, which one of
   * its pictures or puffs. Words: the pattern and its number; blades of the lens (below 0: none), how
   * much lower and narrower its opening is; pictures, their width, height and number; whether
   * they give no light; up to nine unit
   * vectors towards the flats of the opening, each over its distance.
   */
  marks: table('marks', {
    outputs: [
      ...(['sx', 'sy', 'ex', 'ey', 'cr', 'cg', 'cb', 'ca', 'depth'] as const),
      ...(['m0', 'm1', 'm2', 'm3', 'edge', 'blur', 'pick'] as const),
    ],
    words: {
      pattern: 1,
      param: 1,
      blades: 1,
      aspect: 1,
      aspectU: 1,
      picture: 1,
      pictureW: 1,
      pictureH: 1,
      frames: 1,
      measured: 1,
      flats: 18,
    },
    rows: one,
    items: one,
    together: true,
    order: 'depth',
  }),
  /**
   * Place from the eye (right, up, forward), three axes in metres, light, opacity; the middle of its
   * bounds and half of them in pixels (0: not drawn), and how near it comes in metres. Words: corners,
   * eighteen numbers to a triangle as x, y, z and the normal there; triangles of the finest form; whether
   * those that turn away are left out, and whether it is measured; pixels per metre; gloss; lamps of eight numbers each (way towards
   * it, light, kind), how many, and the light from all round; faces, five numbers to a triangle, see
   * forms.ts; forms of the mesh from fine to coarse, each as its first
   * triangle, how many, and how far it lies off the finest.
   */
  meshes: table('meshes', {
    outputs: [
      ...(['mx', 'my', 'mz', 'xx', 'xy', 'xz', 'yx', 'yy', 'yz', 'zx', 'zy', 'zz'] as const),
      ...(['cr', 'cg', 'cb', 'ca', 'sx', 'sy', 'ex', 'ey', 'front'] as const),
    ],
    words: {
      mesh: 1,
      triangles: 1,
      cull: 1,
      measured: 1,
      zoom: 1,
      gloss: 1,
      lights: 1,
      lightCount: 1,
      ambient: 3,
      faces: 1,
      levelCount: 1,
      levels: 3 * MOST_LEVELS,
    },
    rows: one,
    items: (draw) => draw.levels[0]!.count,
    together: true,
    order: 'mean',
  }),
  /**
   * A row for each frame back: place in pixels, half the width as a way in pixels, light, opacity (below
   * 0: no place), distance, three numbers of shading across, hardness of the edge. Words: rows, and
   * lanes from a row to the next.
   */
  trails: table('trails', {
    outputs: ['tx', 'ty', 'tnx', 'tny', 'tr', 'tg', 'tb', 'ta', 'tz', 'ts0', 'ts1', 'ts2', 'te'],
    words: ['rows', 'lanes'],
    rows: (draw) => draw.rows,
    items: (draw) => draw.rows - 1,
    together: false,
    order: 'mean',
  }),
  /**
   * Place in pixels, half the width, light, opacity (below 0: none), distance, edge. Words: places,
   * ages and lives by slot; the grid's order and starts, number of its cells less one, 1 / their side;
   * radius; most links of a particle and of all; by slot the last rank that is kept, and for each link
   * its other end and its rank, and how many there are; opacity of what is filled; slots
   * of one round, see Turns.
   */
  links: table('links', {
    outputs: ['lx', 'ly', 'lw', 'lr', 'lg', 'lb', 'la', 'lz', 'le'],
    words: [
      ...([
        'px',
        'py',
        'pz',
        'age',
        'life',
        'order',
        'start',
        'mask',
        'inverseSide',
        'radius',
      ] as const),
      ...([
        'most',
        'totalLinks',
        'ranks',
        'ends',
        'pairRanks',
        'kept',
        'fill',
        'roundIds',
      ] as const),
    ],
    rows: one,
    // A band to each link, and a triangle to each two of them.
    items: (draw) => draw.most * draw.most,
    together: false,
    order: 'mean',
  }),
} as const;

type Shapes = { [S in Draw['shape']]: DrawTable<S> };

function tableOf<S extends Draw['shape']>({ shape }: { shape: S }): DrawTable<S> {
  return (DRAW_TABLES as Shapes)[shape];
}

/** The buffers that a draw's kernel fills. */
export function outputsOf(draw: Draw): readonly string[] {
  return tableOf(draw).outputs;
}

export function rowsOf(draw: Draw): number {
  return tableOf(draw).rows(draw);
}

export function itemsOf(draw: Draw): number {
  return tableOf(draw).items(draw);
}

export function isDrawnTogether(draw: Draw): boolean {
  return tableOf(draw).together;
}

/** Whether things have to be told apart by the mean depth of their corners, to be sorted. */
export function sortsByMean(draw: Draw): boolean {
  return draw.mode === 'normal' && tableOf(draw).order === 'mean';
}

/** A lamp as meshes read it: the way towards it, its light, and 1 where it lights edges alone. */
export function lampNumbers({ direction, colour, rim }: Lamp): number[] {
  return [...direction, ...colour, rim ? 1 : 0, 0];
}

/** The draw modes by number. */
export const MODES = Object.keys(DRAW_MODES) as readonly DrawMode[];
