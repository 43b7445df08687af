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
  outputsOf,
  type CellSort,
  type Drawing,
  type Plan,
  type ShadowPlan,
  type SwarmPlan,
} from '@vast-swarm/core/plan';
import { PLANES, type CameraPose, type FrameInputs, type PlanKernel } from '@vast-swarm/core/kinds';
import type { Kernels } from './kernels';
import { bufferOf, type Memories } from './memories';
import { Painter, type Canvas } from './painter';
import type { Planes, Rasteriser } from './rasteriser';
import { stripsOf, type DrawSize } from './strips';

/** Metres to where nothing is. */
const FAR = 1e9;
/** Samples along a pixel by which opaque things are drawn: fewer where the frame itself is oversampled. */
const samplesOf = (oversample: number): number => Math.max(1, 4 >> (oversample - 1));

/** Draws backdrop, shadows and bodies into planes of linear light. */
export class Stage implements BodyDevice<Canvas> {
  /** Milliseconds that looks have taken since it was set to 0. */
  lookTime = 0;
  private readonly painter: Painter;
  /** Swarms from whose looks opaque things are still to be drawn, and how that is done. */
  private readonly held = new Set<string>();
  private solids = (): void => undefined;

  constructor(
    private readonly memories: Memories,
    private readonly kernels: Kernels,
    private readonly rasteriser: Rasteriser,
    /** Bytes that may be taken for drawing larger than the frame, and by moments. */
    private readonly room: number,
  ) {
    this.painter = new Painter(rasteriser);
  }

  /** Bodies as the shutter sees them, in planes of that name and the frame's own size. */
  draw(
    name: string,
    size: DrawSize,
    { plan, frame, past }: { plan: Plan; frame: number; past: Past },
    drawn: Drawing,
    backdrop: boolean,
  ): Planes {
    const { rasteriser } = this;
    const { width, height, oversample } = size;
    const own = rasteriser.planes(name, width, height);
    const moments = momentsOf(plan, frame, size.moments);
    const [w, h] = [width * oversample, height * oversample];
    for (const rows of stripsOf(plan, drawn, size, moments.length, this.room)) {
      const large = oversample > 1 ? rasteriser.planes('large', w, h, rows) : { ...own, ...rows };
      const show = (before: number): void => {
        const base = sceneInputs(plan, frame, large, before);
        this.moment(plan, past, large, base, drawn, backdrop, samplesOf(oversample));
      };
      if (moments.length > 1) {
        const sum = rasteriser.planes('sum', w, h, rows);
        moments.forEach((before, i) => {
          show(before);
          rasteriser.add(large, sum, i === 0 ? 0 : 1, 1 / moments.length);
        });
        rasteriser.add(sum, large, 0, 1);
      } else show(0);
      if (oversample > 1) rasteriser.shrink(large, own, oversample);
    }
    return own;
  }

  private moment(
    plan: Plan,
    past: Past,
    planes: Planes,
    base: SceneInputs,
    drawn: Drawing,
    backdrop: boolean,
    samples: number,
  ): void {
    const { stride } = planes;
    const { camera, lamps, time } = base;
    // A frame that failed may have left some.
    this.held.clear();
    if (backdrop) {
      this.pixels(plan.backdrop, planes, base);
      if (plan.shadows) this.shadows(past, plan.shadows, planes, base);
      for (const kernel of plan.mediumLayers.behind) this.pixels(kernel, planes, base);
    } else this.clear(planes);
    let nearest = 0;
    if (drawn.opaque.length > 0) {
      nearest = this.rasteriser.rows('nearest', stride, planes);
      this.rows(nearest, planes).fill(FAR);
    }
    const canvas: Canvas = { planes, nearest, solids: [], camera, lamps, time };
    this.solids = () => {
      this.painter.drawSolids(canvas, samples);
      this.held.clear();
    };
    drawBodies(drawn.opaque, base, past, this, canvas);
    this.solids();
    if (nearest && plan.solidLens) this.defocus(plan.solidLens, planes, nearest, base);
    drawBodies(drawn.blended, base, past, this, canvas);
    if (!backdrop) return;
    for (const kernel of plan.mediumLayers.before) this.pixels(kernel, planes, base);
  }

  /**
   * Measures of bodies as they stand at the frame's end: in the planes, and how far they are along the view, in
   * metres, in a plane of its own; FAR where nothing is.
   *
   * @param earlier the camera of the frame before
   */
  measure(
    { width, height }: DrawSize,
    { plan, frame, past }: { plan: Plan; frame: number; past: Past },
    drawn: Drawing,
    earlier: CameraPose,
  ): { planes: Planes; nearest: number } {
    const planes = this.rasteriser.planes('measured', width, height);
    this.clear(planes);
    const nearest = this.rasteriser.rows('measured/depth', planes.stride, planes);
    this.rows(nearest, planes).fill(FAR);
    this.held.clear();
    const base = { ...sceneInputs(plan, frame, planes, 0), earlier, lamps: EVEN_LIGHT };
    const { camera, time, lamps } = base;
    const canvas: Canvas = { planes, nearest, solids: [], camera, lamps, time };
    this.solids = () => {
      this.painter.drawSolids(canvas, 1);
      this.held.clear();
    };
    drawBodies(drawn.opaque, base, past, this, canvas);
    this.solids();
    return { planes, nearest };
  }

  private clear(planes: Planes): void {
    for (const address of planes.at) this.rows(address, planes).fill(0);
  }

  /** The rows of a plane that are there. */
  private rows(address: number, { stride, from, to }: Planes): Float32Array {
    return this.memories.floats(address + 4 * stride * from, stride * (to - from));
  }

  private pixels(kernel: PlanKernel, planes: Planes, inputs: FrameInputs): void {
    const { arena } = this.memories;
    const address = (name: string): number => {
      if (name.startsWith('medium/')) return arena.address(name);
      if (name === 'tables') return arena.address('mediumLayers/tables');
      return planes.at[PLANES.indexOf(name as 'r')]!;
    };
    const { stride, from, to } = planes;
    this.kernels.run(kernel, stride * from, stride * to, address, inputs);
  }

  /** Opaque things out of focus; what comes later is blurred as it is drawn. */
  private defocus(kernel: PlanKernel, planes: Planes, nearest: number, base: FrameInputs): void {
    const to = this.rasteriser.planes('lens', planes.width, planes.height);
    const address = (name: string): number => {
      if (name === 'near') return nearest;
      const set = name.startsWith('to.') ? to : planes;
      return set.at[PLANES.indexOf(name.at(-1) as 'r')]!;
    };
    this.kernels.run(kernel, 0, planes.stride * planes.height, address, base);
    this.rasteriser.add(to, planes, 0, 1);
  }

  /** Darkens the backdrop where shadows fall. */
  private shadows(
    past: Past,
    { drawing, blur, shade }: ShadowPlan,
    to: Planes,
    base: SceneInputs,
  ): void {
    const { camera, time } = base;
    const planes = this.rasteriser.planes('shadow', to.width, to.height);
    this.clear(planes);
    const canvas: Canvas = { planes, nearest: 0, solids: [], camera, lamps: EVEN_LIGHT, time };
    drawBodies(drawing, base, past, this, canvas);
    this.rasteriser.blur(planes, blur(time));
    const address = (name: string): number => {
      const [set, plane] = name.includes('.') ? [planes, name.split('.')[1]!] : [to, name];
      return set.at[PLANES.indexOf(plane as 'r')]!;
    };
    this.kernels.run(shade, 0, to.stride * to.height, address, base);
  }

  /** Sorts a swarm's slots by cells. */
  sortCells(
    swarm: SwarmPlan,
    { cellsOf, cells }: CellSort,
    slots: number,
    inputs: FrameInputs,
  ): void {
    const address = this.memories.address(swarm);
    this.kernels.run(cellsOf, 0, slots, address, inputs);
    this.rasteriser.sortCells(address, slots, cells);
  }

  findLinks: BodyDevice<Canvas>['findLinks'] = (swarm, draw, count, inputs) => {
    this.sortCells(swarm, draw.grid, count, inputs);
    this.kernels.run(draw.grid.gather, 0, count, this.memories.address(swarm), inputs);
    this.painter.findLinks(draw, this.memories.address(swarm), count);
  };

  look: BodyDevice<Canvas>['look'] = (swarm, draw, run, inputs, extra) => {
    if (this.held.has(swarm.id)) this.solids();
    const started = performance.now();
    const { arena } = this.memories;
    for (const name of outputsOf(draw)) {
      arena.buffer(bufferOf(swarm.id, name), 4 * run.stride * run.lists);
    }
    const address = this.memories.address(swarm);
    const placed = (name: string): number => address(run.source(name)) + 4 * run.offset(name);
    this.kernels.run(draw.kernel, 0, run.count, placed, inputs, extra);
    this.lookTime += performance.now() - started;
  };

  paint: BodyDevice<Canvas>['paint'] = (swarm, draw, count, canvas) => {
    this.painter.paint(draw, this.memories.address(swarm), count, canvas);
    if (draw.mode === 'opaque') this.held.add(swarm.id);
  };
}
