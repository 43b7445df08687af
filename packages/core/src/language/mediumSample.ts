import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from './builder';
import { MediumPlane } from './mediumPlane';
import { mediumBuffer, type Content, type MediumSpace } from './mediumSpace';
import { tapsAround, type Lattice, type Spot } from './taps';

/** Reads a medium in kernels of others: motion, looks, births, the frame. */
export class MediumReader {
  readonly plane: MediumPlane;

  constructor(
    readonly builder: KernelBuilder,
    readonly space: MediumSpace,
  ) {
    this.plane = new MediumPlane(builder, space);
  }

  /** Light and amount of the medium at a spot, linear between the middles of cells; nothing beyond open edges. */
  content(spot: Spot): Record<Content, Expr> {
    const there = this.inside(spot);
    const mean = this.meanAt(spot, 'middle');
    const read = (name: Content): Expr => there.select(mean(name), 0);
    return { red: read('red'), green: read('green'), blue: read('blue'), amount: read('amount') };
  }

  light(spot: Spot): Vec3 {
    const { red, green, blue } = this.content(spot);
    return new Vec3(red, green, blue);
  }

  /** Its velocity along the plane at a spot, in m/s; none outside of it. */
  velocity(spot: Spot): Spot {
    const there = this.inside(spot);
    const part = (name: 'u' | 'v', lattice: Lattice): Expr =>
      there.select(this.meanAt(spot, lattice)(name), 0);
    return { x: part('u', 'left'), y: part('v', 'below') };
  }

  /** Whether a spot is in the medium. One that wraps goes on for ever. */
  inside({ x, y }: Spot): Expr {
    const { columns, lines, edges } = this.space;
    const within = (at: Expr, size: number): Expr => at.ge(0.5).and(at.le(size + 0.5));
    if (edges !== 'wrap') return within(x, columns).and(within(y, lines));
    return x.eq(x).and(y.eq(y));
  }

  private meanAt(spot: Spot, lattice: Lattice): (name: string) => Expr {
    const { builder, space } = this;
    const { graph: g } = builder;
    const stride = builder.uniform(this.plane.owner.own('stride'), space.stride, 'i32');
    const grid = { columns: g.int(space.columns), lines: g.int(space.lines), stride };
    const { taps, shares } = tapsAround(spot, grid, { lattice, wraps: space.edges === 'wrap' });
    return (name) => {
      const buffer = mediumBuffer(space.id, name);
      builder.data.fields.set(buffer, space.words);
      return taps.map((tap, i) => g.load(buffer, tap).mul(shares[i]!)).reduce((a, b) => a.add(b));
    };
  }
}
