import { compilePiece } from '@vast-swarm/core/plan';
import { makePart, makePiece, makeSwarm, type Part, type Piece } from '@vast-swarm/core/piece';
import type { DialValues, MediumSpace } from '@vast-swarm/core/kinds';
import { CpuEngine } from '@vast-swarm/cpu';

/** A medium of the name `water` on a plane of its own, 2 m wide, in which nothing happens by itself. */
export function stillWater(dials: DialValues = {}): Part {
  const part = makePart('media', 'fluid', []);
  Object.assign(part, { id: 'water', name: 'Water' });
  Object.assign(part.dials, {
    fills: 'plane',
    width: 2,
    aspect: 1,
    lines: 64,
    edges: 'closed',
    swirl: 0,
    slowing: 0,
    fading: 0,
    stir: 0,
    tint: 0,
    give: 0,
    ...dials,
  });
  return part;
}

export function waterPiece(dials: DialValues = {}, rate = 60): Piece {
  const piece = makePiece('Water');
  Object.assign(piece.frame, { width: 128, height: 128, rate, length: 900 });
  piece.media = [stillWater(dials)];
  return piece;
}

/** A swarm of so many particles at chosen places that stay as they are. */
export function motes(count: number): ReturnType<typeof makeSwarm> {
  const swarm = makeSwarm('box', []);
  Object.assign(swarm, { id: 'motes', name: 'Motes' });
  swarm.launch.dials.speed = 0;
  Object.assign(swarm.dials, { when: 'bursts', burst: count, lasts: 'ever', opacity: 1, light: 1 });
  return swarm;
}

/** A running medium, whose cells can be set and read. */
export class Water {
  private constructor(
    readonly engine: CpuEngine,
    readonly space: MediumSpace,
    readonly id: string,
  ) {}

  static async of(piece: Piece, threads = 1): Promise<Water> {
    const engine = await CpuEngine.create({ threads });
    const plan = compilePiece(piece);
    engine.setPlan(plan);
    const { space, id } = plan.media[0]!;
    return new Water(engine, space, id);
  }

  /** Metres along a side of a cell. */
  get cell(): number {
    return this.space.pose(0).cell;
  }

  plane(name: string): Float32Array {
    return this.engine.medium(this.id, name);
  }

  at(column: number, line: number): number {
    return line * this.space.stride + column;
  }

  /** The place of the middle of a cell, in metres from the middle of the medium. */
  place(column: number, line: number): [number, number] {
    const { columns, lines } = this.space;
    return [(column - 0.5 - columns / 2) * this.cell, (line - 0.5 - lines / 2) * this.cell];
  }

  /** Sets what is in cells by their places. */
  fill(name: string, value: (x: number, y: number) => number): void {
    const plane = this.plane(name);
    this.each((x, y, at) => (plane[at] = value(x, y)));
  }

  /** Sets the velocity by place, on faces. */
  flow(u: (x: number, y: number) => number, v: (x: number, y: number) => number): void {
    const [across, up, half] = [this.plane('u'), this.plane('v'), this.cell / 2];
    const { columns, lines } = this.space;
    for (let line = 1; line <= lines + 1; line++) {
      for (let column = 1; column <= columns + 1; column++) {
        const [x, y] = this.place(column, line);
        if (line <= lines) across[this.at(column, line)] = u(x - half, y);
        if (column <= columns) up[this.at(column, line)] = v(x, y - half);
      }
    }
  }

  each(visit: (x: number, y: number, at: number) => void): void {
    const { columns, lines } = this.space;
    for (let line = 1; line <= lines; line++) {
      for (let column = 1; column <= columns; column++) {
        visit(...this.place(column, line), this.at(column, line));
      }
    }
  }

  sum(name: string, where: (x: number, y: number) => boolean = () => true): number {
    const plane = this.plane(name);
    let sum = 0;
    this.each((x, y, at) => (sum += where(x, y) ? plane[at]! : 0));
    return sum;
  }

  /** Root mean square of what flows out of cells against that of the slopes of the velocity. */
  outflow(counts: (at: number) => boolean = () => true): number {
    const [u, v, { stride }] = [this.plane('u'), this.plane('v'), this.space];
    let [out, slope] = [0, 0];
    this.each((_, __, at) => {
      if (!counts(at)) return;
      const [a, b] = [u[at + 1]! - u[at]!, v[at + stride]! - v[at]!];
      out += (a + b) ** 2;
      slope += a * a + b * b;
    });
    return Math.sqrt(out / Math.max(slope, 1e-30));
  }

  step(frames = 1): void {
    for (let i = 0; i < frames; i++) this.engine.step();
  }

  close(): void {
    this.engine.close();
  }
}
