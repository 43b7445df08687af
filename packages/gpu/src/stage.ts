import {
  drawBodies,
  momentsOf,
  sceneInputs,
  type BodyDevice,
  type Past,
  type SceneInputs,
} from '@vast-swarm/core/play';
import {
  EVEN_LIGHT,
  type CellSort,
  type Drawing,
  type Plan,
  type ShadowPlan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import type { FrameInputs, PlanKernel } from '@vast-swarm/core/kinds';
import { TARGET_FORMAT } from './formats';
import type { FrameMemory } from './frameMemory';
import { bitonic, listGroups } from './lists';
import type { Canvas } from './drawWords';
import { Painter } from './painter';
import { CELLS, PLANES_TO_TARGET } from './shaders';
import type { SwarmMemory } from './swarmMemory';
import type { Pipelines, Work } from './work';

interface At {
  plan: Plan;
  frame: number;
  past: Past;
}

/** Draws backdrop, shadows and bodies into planes of linear light. */
export class Stage {
  private readonly painter: Painter;

  constructor(
    private readonly pipelines: Pipelines,
    private readonly memoryOf: (id: string) => SwarmMemory,
  ) {
    this.painter = new Painter(pipelines);
  }

  /**
   * Bodies as the shutter sees them, into a set of planes; with the backdrop where it is `frame`.
   *
   * @param most most moments that are drawn while the shutter is open
   */
  draw(work: Work, memory: FrameMemory, set: string, at: At, drawn: Drawing, most: number): void {
    const moments = momentsOf(at.plan, at.frame, most);
    moments.forEach((before, i) => {
      this.moment(work, memory, set, at, drawn, before);
      if (moments.length > 1) memory.add(work, set, 'sum', i === 0 ? 0 : 1, 1 / moments.length);
    });
    if (moments.length > 1) memory.add(work, 'sum', set, 0, 1);
  }

  private moment(
    work: Work,
    memory: FrameMemory,
    set: string,
    at: At,
    drawn: Drawing,
    before: number,
  ): void {
    const { plan, frame, past } = at;
    const { width, height } = memory;
    const base = sceneInputs(plan, frame, memory, before);
    const { camera, lamps, time } = base;
    const pixels = memory.planes(set).stride * height;
    const view = memory.target.createView();
    if (set === 'frame') {
      if (plan.shadows) this.shadows(work, memory, at, plan.shadows, base);
      work.kernel(plan.backdrop, memory.buffer, 0, pixels, memory.address(set), base);
      if (plan.shadows) this.shade(work, memory, plan.shadows, base);
      this.layers(work, memory, plan.mediumLayers.behind, base);
    } else memory.add(work, set, set, 0, 0);
    const fill = this.pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT);
    const solid = drawn.opaque.length > 0;
    const fine = solid ? memory.beginSolids(work, set, this.pipelines) : null;
    const canvas: Canvas = {
      width,
      height,
      view,
      fine,
      camera,
      lamps,
      time,
      depth: memory.depth.createView(),
    };
    const device = this.device(work);
    if (fine) {
      drawBodies(drawn.opaque, base, past, device, canvas);
      memory.endSolids(work, fine, this.pipelines);
    } else work.draw(fill, view, true, memory.buffer, memory.words(set), 3);
    if (solid && plan.solidLens) {
      memory.targetToPlanes(work, set);
      memory.depthToPlane(work, camera.perspective);
      work.kernel(plan.solidLens, memory.buffer, 0, pixels, lensAddress(memory, set), base);
      memory.add(work, 'turn', set, 0, 1);
      work.draw(fill, view, true, memory.buffer, memory.words(set), 3);
    }
    drawBodies(drawn.blended, base, past, device, canvas);
    memory.targetToPlanes(work, set);
    if (set === 'frame') this.layers(work, memory, plan.mediumLayers.before, base);
  }

  /** Lays media over the light that is there. */
  private layers(
    work: Work,
    memory: FrameMemory,
    kernels: readonly PlanKernel[],
    base: SceneInputs,
  ): void {
    const own = memory.address('frame');
    const address = (name: string): number => own(name === 'tables' ? 'layerTables' : name);
    const pixels = memory.planes('frame').stride * memory.height;
    for (const kernel of kernels) work.kernel(kernel, memory.buffer, 0, pixels, address, base);
  }

  /** Shadows of mesh copies, softened, into planes of their own. */
  private shadows(
    work: Work,
    memory: FrameMemory,
    { past }: At,
    { drawing, blur }: ShadowPlan,
    base: SceneInputs,
  ): void {
    const { width, height, target, depth } = memory;
    const view = target.createView();
    memory.add(work, 'shadow', 'shadow', 0, 0);
    const fill = this.pipelines.render(PLANES_TO_TARGET, 'light', TARGET_FORMAT);
    work.draw(fill, view, true, memory.buffer, memory.words('shadow'), 3);
    const canvas: Canvas = {
      width,
      height,
      view,
      fine: null,
      camera: base.camera,
      time: base.time,
      depth: depth.createView(),
      lamps: EVEN_LIGHT,
    };
    drawBodies(drawing, base, past, this.device(work), canvas);
    memory.targetToPlanes(work, 'shadow');
    memory.blur(work, 'shadow', blur(base.time));
  }

  /** Darkens the backdrop where shadows fall. */
  private shade(work: Work, memory: FrameMemory, { shade }: ShadowPlan, base: SceneInputs): void {
    const [own, shadow] = [memory.address('frame'), memory.address('shadow')];
    const address = (name: string): number =>
      name.startsWith('layer.') ? shadow(name.slice('layer.'.length)) : own(name);
    const pixels = memory.planes('frame').stride * memory.height;
    work.kernel(shade, memory.buffer, 0, pixels, address, base);
  }

  /** Readies the grid that a swarm's particles find their neighbours by. */
  sortCells(
    work: Work,
    swarm: SwarmPlan,
    { cellsOf, cells }: CellSort,
    slots: number,
    inputs: FrameInputs,
  ): void {
    const { address, buffer } = this.memoryOf(swarm.id);
    work.kernel(cellsOf, buffer, 0, slots, address, inputs);
    const order = this.painter.order(`${swarm.id}/cells`, slots);
    const [cell, sorted, start] = ['near.cell', 'near.order', 'near.start'].map(address);
    const words = (k: number, j: number) => [cell!, sorted!, slots, k, j, start!, cells];
    const more = [{ buffer: order }];
    bitonic(order.size / 4, (stages, k, j, groups) => {
      work.run(CELLS, `stages${String(stages)}`, buffer, words(k, j), groups, more);
    });
    work.run(CELLS, 'starts', buffer, words(0, 0), listGroups(slots), more);
  }

  private device(work: Work): BodyDevice<Canvas> {
    return {
      findLinks: (swarm, draw, count, inputs) => {
        this.sortCells(work, swarm, draw.grid, count, inputs);
        this.painter.findLinks(work, draw, this.memoryOf(swarm.id), count);
      },
      look: (swarm, draw, run, inputs, extra) => {
        const { buffer, address } = this.memoryOf(swarm.id);
        const placed = (name: string): number => address(run.source(name)) + run.offset(name);
        // Widened to the stride, so that nothing of an earlier frame stands between two repeats.
        const end = Math.min(run.stride, swarm.capacity);
        work.kernel(draw.kernel, buffer, 0, end, placed, inputs, extra);
      },
      paint: (swarm, draw, count, canvas) => {
        this.painter.paint(work, draw, this.memoryOf(swarm.id), count, canvas);
      },
    };
  }
}

/** Where the kernel that blurs opaque things finds its buffers. */
function lensAddress(memory: FrameMemory, set: string): (name: string) => number {
  const [own, to] = [memory.address(set), memory.address('turn')];
  return (name) => (name.startsWith('to.') ? to(name.slice('to.'.length)) : own(name));
}
