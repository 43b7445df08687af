import { mix } from './functions';
import type { Expr } from './graph';

/** A vector in the builder: three scalar nodes. */
export class Vec3 {
  constructor(
    readonly x: Expr,
    readonly y: Expr,
    readonly z: Expr,
  ) {}

  /** `yes` where `on` is true, `no` elsewhere. Both are computed. */
  static select(on: Expr, yes: Vec3, no: Vec3): Vec3 {
    const part = (k: 'x' | 'y' | 'z'): Expr => on.select(yes[k], no[k]);
    return new Vec3(part('x'), part('y'), part('z'));
  }

  /** From `a` (t = 0) to `b` (t = 1), straight. */
  static mix(a: Vec3, b: Vec3, t: Expr): Vec3 {
    return new Vec3(mix(a.x, b.x, t), mix(a.y, b.y, t), mix(a.z, b.z, t));
  }

  get parts(): [Expr, Expr, Expr] {
    return [this.x, this.y, this.z];
  }

  add(o: Vec3): Vec3 {
    return new Vec3(this.x.add(o.x), this.y.add(o.y), this.z.add(o.z));
  }

  sub(o: Vec3): Vec3 {
    return new Vec3(this.x.sub(o.x), this.y.sub(o.y), this.z.sub(o.z));
  }

  mul(o: Vec3): Vec3 {
    return new Vec3(this.x.mul(o.x), this.y.mul(o.y), this.z.mul(o.z));
  }

  scale(k: Expr | number): Vec3 {
    return new Vec3(this.x.mul(k), this.y.mul(k), this.z.mul(k));
  }

  dot(o: Vec3): Expr {
    return this.x.mul(o.x).add(this.y.mul(o.y)).add(this.z.mul(o.z));
  }

  length(): Expr {
    return this.dot(this).sqrt();
  }

  cross(o: Vec3): Vec3 {
    return new Vec3(
      this.y.mul(o.z).sub(this.z.mul(o.y)),
      this.z.mul(o.x).sub(this.x.mul(o.z)),
      this.x.mul(o.y).sub(this.y.mul(o.x)),
    );
  }

  /** The same way with a length of 1; what is shorter than 1e-12 is divided by that, so that 0 stays 0. */
  unit(): Vec3 {
    return this.scale(this.x.graph.float(1).div(this.length().max(1e-12)));
  }
}
