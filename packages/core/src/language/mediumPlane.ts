import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from './builder';
import type { UniformSource } from './frame';
import type { MediumSpace } from './mediumSpace';
import { Owner } from './names';
import type { Spot } from './taps';

/** The plane of a medium as arithmetic. */
export class MediumPlane {
  readonly owner: Owner;
  readonly right: Vec3;
  readonly up: Vec3;
  /** Side of a cell in metres. */
  readonly cell: Expr;

  constructor(
    readonly builder: KernelBuilder,
    readonly space: MediumSpace,
  ) {
    this.owner = new Owner('medium', space.id);
    this.right = this.vector('right');
    this.up = this.vector('up');
    this.cell = this.number('cell');
  }

  private number(part: 'cell' | 'reach' | 'distance'): Expr {
    const { pose } = this.space;
    return this.builder.uniform(this.owner.own(part), (f) => pose(f.time)[part]);
  }

  private vector(part: 'centre' | 'right' | 'up' | 'forward'): Vec3 {
    const { pose } = this.space;
    const axis = (i: number): UniformSource => {
      return (f) => pose(f.time)[part][i]!;
    };
    return this.builder.vector(this.owner.own(part), [axis(0), axis(1), axis(2)]);
  }

  private middle(side: 'columns' | 'lines'): Expr {
    return this.builder.uniform(this.owner.own(`middle ${side}`), this.space[side] / 2 + 0.5);
  }

  /**
   * Where a place of the world is on the plane.
   *
   * @returns `scale`: metres on the plane to a metre there; `near`: whether it is within reach
   */
  spotOf(place: Vec3): Spot & { scale: Expr; near: Expr } {
    const g = this.builder.graph;
    const off = place.sub(this.vector('centre'));
    const away = off.dot(this.vector('forward'));
    const near = away.abs().le(this.number('reach'));
    const distance = this.number('distance');
    const scale = this.space.seen ? distance.div(distance.add(away).max(1e-3)) : g.float(1);
    const cells = scale.div(this.cell);
    return {
      x: off.dot(this.right).mul(cells).add(this.middle('columns')),
      y: off.dot(this.up).mul(cells).add(this.middle('lines')),
      scale,
      near,
    };
  }

  /** The place in the world of a spot on the plane. */
  placeOf({ x, y }: Spot): Vec3 {
    const along = x.sub(this.middle('columns')).mul(this.cell);
    const up = y.sub(this.middle('lines')).mul(this.cell);
    return this.vector('centre').add(this.right.scale(along)).add(this.up.scale(up));
  }

  /** Where a straight way of sight meets the plane; far outside where it does not. */
  meet(from: Vec3, way: Vec3): Spot {
    const forward = this.vector('forward');
    const steep = way.dot(forward);
    const to = this.vector('centre').sub(from).dot(forward).div(steep);
    const there = from.add(way.scale(to)).sub(this.vector('centre'));
    const met = to.gt(0).and(steep.abs().gt(1e-6));
    const cells = (axis: Vec3, side: 'columns' | 'lines'): Expr =>
      met.select(there.dot(axis).div(this.cell).add(this.middle(side)), -1e6);
    return { x: cells(this.right, 'columns'), y: cells(this.up, 'lines') };
  }

  /** A velocity of the world along the plane. */
  along(velocity: Vec3): Spot {
    return { x: velocity.dot(this.right), y: velocity.dot(this.up) };
  }

  /** A velocity along the plane in the world. */
  world({ x, y }: Spot): Vec3 {
    return this.right.scale(x).add(this.up.scale(y));
  }
}
