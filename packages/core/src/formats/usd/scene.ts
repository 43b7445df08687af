import type { Matrix } from '../../plan/look/copies';
import type { Draw } from '../../plan/look/draws/draw';
import type { Plan, SwarmPlan } from '../../plan/plan';
import type { Particles } from '../../play/particles';
import { bySlot, particleTable, type ParticleTable } from '../particleTable';
import { columnsOf, instanceColumns, type InstancesBySlot } from './columns';
import { INSTANCER, POINTS, type UsdPrim, type UsdScene } from './layout';
import { extentSample, sampleOf, type Columns } from './samples';

/** The part of an engine that an export needs. */
export interface UsdSource {
  particles: (swarm: string) => Promise<Particles>;
  born: (swarm: string) => number;
  instances: (swarm: string, body: string) => InstancesBySlot;
}

type MeshDraw = Draw & { shape: 'meshes' };

interface Exported {
  swarm: SwarmPlan;
  /** The body whose mesh is copied; null for points. */
  draw: MeshDraw | null;
  prim: UsdPrim;
}

const matrixOf = (copy: SwarmPlan['copies'][number]): Matrix =>
  Array.from({ length: 12 }, (_, i) => copy[`copy.${String(i)}`] as number);

/** The corners of a mesh's finest form, three numbers each; those of a body have a normal each too. */
function cornersOf({ blocks }: SwarmPlan, { mesh, levels }: MeshDraw): Float32Array {
  const all = blocks.get(mesh)!;
  const [{ first, count }] = levels as [MeshDraw['levels'][0]];
  return Float32Array.from(
    { length: 9 * count },
    (_, i) => all[6 * (3 * first + Math.floor(i / 3)) + (i % 3)]!,
  );
}

/** Prims of a swarm: copies of meshes for bodies that are such, and points for all else. */
function exportedOf(swarm: SwarmPlan): Exported[] {
  const meshes = swarm.draws.filter((d): d is MeshDraw => d.shape === 'meshes');
  const copies = swarm.copies.map(matrixOf);
  const points = { name: swarm.name, mesh: null, copies };
  const several = meshes.length > 1 || meshes.length < swarm.draws.length;
  return [
    ...(meshes.length < swarm.draws.length || meshes.length === 0
      ? [{ swarm, draw: null, prim: points }]
      : []),
    ...meshes.map((draw) => ({
      swarm,
      draw,
      prim: {
        name: several ? `${swarm.name} ${draw.id}` : swarm.name,
        mesh: cornersOf(swarm, draw),
        copies,
      },
    })),
  ];
}

/** The scene that swarms of a plan make in a file, and the samples of its frames. */
export class UsdExport {
  private readonly all: Exported[];

  constructor(
    private readonly plan: Plan,
    swarms: readonly string[],
  ) {
    this.all = plan.swarms.filter((s) => swarms.includes(s.id)).flatMap(exportedOf);
  }

  scene(name: string, first: number, last: number): UsdScene {
    const { rate } = this.plan.frame;
    return { name, rate, first, last, prims: this.all.map((e) => e.prim) };
  }

  /** Each sample of a frame, piece by piece, with its prim and its attribute. */
  async *frame(
    frame: number,
    source: UsdSource,
  ): AsyncGenerator<[prim: number, attribute: string, bytes: Uint8Array<ArrayBuffer>]> {
    let last = null as { id: string; table: ParticleTable } | null;
    for (const [prim, { swarm, draw }] of this.all.entries()) {
      const { id } = swarm;
      // All that stands for a swarm stands together.
      if (last?.id !== id) {
        last = { id, table: particleTable(bySlot(await source.particles(id)), source.born(id)) };
      }
      const { table } = last;
      const columns: Columns = draw
        ? instanceColumns(table, source.instances(id, draw.id))
        : columnsOf(table);
      for (const attribute of draw ? INSTANCER : POINTS) {
        for (const bytes of sampleOf(attribute, frame, columns)) {
          yield [prim, attribute.name, bytes];
        }
      }
      if (!draw) yield [prim, 'extent', extentSample(frame, columns)];
    }
  }
}
