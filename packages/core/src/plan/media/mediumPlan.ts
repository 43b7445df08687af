import { fluidDials } from '../../sections/media/dials';
import { partsThat } from '../../piece/influence';
import { KernelBuilder, KernelData } from '../../language/builder';
import { valuesOf } from '../../language/dials';
import type { PlanKernel } from '../../language/frame';
import { CONTENT, KEPT, mediumBuffer, type MediumSpace } from '../../language/mediumSpace';
import { Owner, type GivenValues } from '../../language/names';
import type { BlockTrack } from '../../language/track';
import type { Part } from '../../piece/types';
import type { PlanPart } from '../cache';
import type { Scene } from '../scene';
import { advectionKernels } from './advection';
import { faceKernel } from './faces';
import { giversOf } from './givers';
import { keepingKernels } from './keeping';
import { lanesOf, levelsOf, type Level } from './levels';
import { pressureKernels, weightsFor, type PressureKernels } from './pressure';
import { passesFor, spreadContent, spreadVelocity } from './spreading';
import { isCarried, LEFT, stirKernel } from './stirring';
import { curlKernel } from './swirl';
import { wallKernels } from './walls';

/** A kernel over lanes of one of a medium's grids. */
export interface MediumPass {
  kernel: PlanKernel;
  begin: number;
  end: number;
  given: GivenValues;
  /** The buffer that each name of the kernel's means. */
  at: ReadonlyMap<string, string>;
}

/** Passes of a medium's step that run so many times over, one behind the other. */
export interface MediumStep {
  passes: readonly MediumPass[];
  times: (time: number) => number;
  /** Only where its memory is new: what it finds stays. */
  once: boolean;
}

/** Gifts of swarms to a medium: sums in the buffers `left.…`, by how near their particles are. */
export interface Leaving {
  swarms: readonly string[];
  /** In cells, and what shares are multiplied by: below one cell it counts as one, that gets less by as much. */
  radius: (time: number) => { cells: number; gain: number };
}

/** A medium made ready for an engine. */
export interface MediumPlan {
  id: string;
  name: string;
  space: MediumSpace;
  /** All its buffers, with how many numbers each has; all 0 to begin with. */
  buffers: ReadonlyMap<string, number>;
  /** Those that are its state. */
  kept: readonly string[];
  leaving: Leaving;
  steps: readonly MediumStep[];
  /** See SwarmPlan. */
  tables: Float32Array;
  blocks: ReadonlyMap<string, Float32Array>;
  tracks: ReadonlyMap<string, BlockTrack>;
  fields: ReadonlyMap<string, number>;
}

/** Cycles of the solver in a frame; see test/medium.test.ts for what they leave. */
const CYCLES = 3;
/**
 * Even numbers of passes: on each grid against errors that the coarser one does not see (the upper three quarters of
 * eigenvalues), on the coarsest against all.
 */
const SMOOTH = weightsFor(4, 0.5, 2);
const COARSEST = weightsFor(8, 0.06, 2);

/** Of two sets of planes that take turns, the one means the other: `p` is `next.p`, and the other way round. */
function otherOf(names: readonly string[]): (name: string) => string {
  return (name) => {
    if (names.includes(name)) return `next.${name}`;
    return name.startsWith('next.') ? name.slice('next.'.length) : name;
  };
}

export const mediaPart: PlanPart<Scene, MediumPlan[]> = {
  name: 'media',
  dependsOn: ({ piece, signalled, stocked }) => [
    piece.seed,
    piece.frame.rate,
    piece.media,
    signalled,
    stocked,
    ...(piece.media.length > 0 ? [partsThat(piece, 'felt'), piece.influence, piece.camera] : []),
    [piece.frame.width / piece.frame.height, piece.media.map((m) => giversOf(piece, m))],
  ],
  make: (scene) => scene.piece.media.filter((m) => m.on).map((part) => mediumPlan(scene, part)),
};

class Builder {
  readonly levels: Level[];
  readonly steps: MediumStep[] = [];
  readonly buffers = new Map<string, number>();

  constructor(readonly space: MediumSpace) {
    this.levels = levelsOf(space.columns, space.lines, space.edges);
  }

  /** Whether some cells of a grid are only in part over finer ones. */
  hangsOver(level: number): boolean {
    if (this.space.edges === 'open') return false;
    return this.levels
      .slice(0, level)
      .some(({ columns, lines }) => (columns % 2) + (lines % 2) > 0);
  }

  private nameAt(level: number, name: string): string {
    return mediumBuffer(this.space.id, level === 0 ? name : `${String(level)}/${name}`);
  }

  /** A pass over a grid; kernels find the planes of the finer one as `fine.…`, of the coarser one as `coarse.…`. */
  pass(kernel: PlanKernel, level = 0, rename: (name: string) => string = (n) => n): MediumPass {
    const grid = this.levels[level]!;
    const { graph } = kernel;
    const finer = graph.buffers.some(({ name }) => name.startsWith('fine.'));
    const other = this.levels[level + (finer ? -1 : 1)];
    const given: GivenValues = { ...gridOf('grid', grid), ...(other && gridOf('coarse', other)) };
    const at = new Map<string, string>();
    for (const { name } of graph.buffers) {
      const beside = /^(fine|coarse)\.(.*)$/.exec(name)?.[2];
      const plane = this.nameAt(
        beside === undefined ? level : level + (finer ? -1 : 1),
        beside ?? rename(name),
      );
      const shared = /^(data|field)\//.test(name);
      at.set(name, shared ? name : plane);
      if (shared || name.startsWith('track/') || name === 'tables') continue;
      this.buffers.set(plane, (beside === undefined ? grid : other!).words);
    }
    const [begin, end] = lanesOf(grid);
    return { kernel, begin, end, given, at };
  }

  step(passes: MediumPass[], more: Partial<MediumStep> = {}): void {
    this.steps.push({ passes, times: () => 1, once: false, ...more });
  }
}

function gridOf(name: 'grid' | 'coarse', { columns, lines, stride }: Level): GivenValues {
  return {
    [`${name}.columns`]: columns,
    [`${name}.lines`]: lines,
    [`${name}.stride`]: stride,
    [`${name}.inverse`]: 1 / stride,
  };
}

/**
 * A frame of a medium, in order: walls, carrying along, what stirs it, spreading, pressure (operator splitting: J. Stam,
 * "Stable Fluids", 1999).
 */
function mediumPlan(scene: Scene, part: Part): MediumPlan {
  const space = scene.medium(part.id)!;
  const values = valuesOf(fluidDials, part.dials);
  const { edges, pose } = space;
  const { rate } = scene;
  const owner = new Owner('medium', part.id);
  const b = new Builder(space);
  const data = new KernelData();
  const own = (): KernelBuilder<Scene> => new KernelBuilder(scene, data);
  const { solid, open } = wallKernels(own(), space);
  const walls = solid !== null;
  const carried = isCarried(scene.piece, part.id);
  const leaving: Leaving = {
    swarms: giversOf(scene.piece, part),
    radius(time) {
      const cells = scene.number(values.radius, time) / pose(time).cell;
      return { cells: Math.max(1, cells), gain: Math.min(1, cells * cells) };
    },
  };

  const pressure = pressureKernels(scene, edges);
  const faces = [
    ...(solid ? [b.pass(solid)] : []),
    b.pass(open),
    ...b.levels.slice(1).map((_, i) => b.pass(pressure.coarserFaces, i + 1)),
    ...b.levels.map((_, i) => b.pass(pressure.rounds, i)),
  ];
  b.step(faces, { once: !walls });

  const keeping = edges === 'open' ? null : keepingKernels(scene);
  const sums = (total: PlanKernel): MediumPass[] => [
    { ...b.pass(keeping!.columns), begin: 0, end: b.levels[0]!.stride },
    { ...b.pass(total), begin: 0, end: 4 },
  ];
  const carry = advectionKernels({
    scene,
    edges,
    owner,
    walls,
    carried,
    cellsPerSpeed: (f) => 1 / (rate * pose(f.time).cell),
  }).map((kernel) => b.pass(kernel));
  b.step(keeping ? [...sums(keeping.before), ...carry, ...sums(keeping.after)] : carry);

  if (values.swirl !== 0) b.step([b.pass(curlKernel(own(), space))]);
  const stirring = { scene, space, part, builder: own(), walls, swarms: leaving.swarms.length > 0 };
  b.step([b.pass(stirKernel(stirring))]);
  const share = (feed: typeof values.thickness) => (time: number) =>
    scene.number(feed, time) / (rate * pose(time).cell ** 2);
  const spread = (kernel: PlanKernel, names: readonly string[], feed: typeof values.thickness) => {
    const times = (time: number): number => passesFor(share(feed)(time)).passes / 2;
    b.step([b.pass(kernel), b.pass(kernel, 0, otherOf(names))], { times });
  };
  const about = { scene, edges, owner };
  if (values.spreading !== 0) {
    spread(spreadContent({ ...about, share: share(values.spreading) }), CONTENT, values.spreading);
  }
  if (values.thickness !== 0) {
    spread(
      spreadVelocity({ ...about, share: share(values.thickness) }),
      ['u', 'v'],
      values.thickness,
    );
  }
  b.step([b.pass(faceKernel(own(), space, walls)), b.pass(pressure.outflow)]);
  for (let i = 0; i < CYCLES; i++) b.step(cycle(b, pressure, walls, 0));
  b.step([b.pass(pressure.release)]);

  const level = b.levels[0]!;
  const keptNames = [...KEPT, ...(carried ? ['carry.x', 'carry.y'] : [])];
  for (const name of [...KEPT, ...LEFT.map((n) => `left.${n}`)]) {
    b.buffers.set(mediumBuffer(part.id, name), level.words);
  }
  return {
    id: part.id,
    name: part.name,
    space,
    buffers: b.buffers,
    leaving,
    steps: b.steps,
    kept: keptNames.map((name) => mediumBuffer(part.id, name)),
    tables: Float32Array.from(data.samples),
    blocks: data.blocks,
    tracks: data.tracks,
    fields: data.fields,
  };
}

/** One V-cycle from a grid on. */
function cycle(b: Builder, kernels: PressureKernels, walls: boolean, level: number): MediumPass[] {
  const even = !walls && !b.hangsOver(level);
  // On the finest grid a face is open or closed, and what is behind a closed one has no pressure: nothing to read.
  const plain = even || level === 0;
  const relaxed = (weights: readonly number[]): MediumPass[] =>
    weights.map((weight, i) => {
      const pass = b.pass(kernels.relax(plain), level, i % 2 === 0 ? undefined : otherOf(['p']));
      return { ...pass, given: { ...pass.given, 'grid.weight': weight } };
    });
  if (level === b.levels.length - 1) return [...relaxed(COARSEST), ...relaxed(COARSEST)];
  return [
    ...relaxed(SMOOTH),
    b.pass(kernels.rest(plain), level),
    b.pass(kernels.gather, level + 1),
    ...cycle(b, kernels, walls, level + 1),
    b.pass(kernels.bringBack(even), level),
    ...relaxed(SMOOTH),
  ];
}
