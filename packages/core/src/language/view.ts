import { Vec3, type Expr } from '@vast-swarm/kernel';
import type { KernelBuilder } from './builder';
import type { CameraPose } from './frame';
import { CAMERA, EARLIER, FRAME, type Name } from './names';

/** Nothing nearer to the eye than this many metres is drawn. */
export const NEAREST = 1e-3;

export interface Spot {
  /** Pixels from the left and the top. */
  x: Expr;
  y: Expr;
  /** Pixels per metre there. */
  zoom: Expr;
}

/** The camera as arithmetic; it comes with each frame, so that moving it changes no kernel. */
export class View {
  readonly perspective: boolean;

  /**
   * @param from the camera of the frame, or that of the frame before
   * @param sharp whether the lens blurs nothing
   */
  constructor(
    private readonly builder: KernelBuilder,
    private readonly from: 'camera' | 'earlier' = 'camera',
    private readonly sharp = false,
  ) {
    this.perspective = builder.scene.lens.perspective;
  }

  private own(part: string): Name {
    return (this.from === 'camera' ? CAMERA : EARLIER).own(part);
  }

  axis(part: 'eye' | 'right' | 'up' | 'forward'): Vec3 {
    const { from } = this;
    return this.builder.vector(this.own(part), [
      (f) => f[from]![part][0],
      (f) => f[from]![part][1],
      (f) => f[from]![part][2],
    ]);
  }

  number(name: string, value: (pose: CameraPose, height: number) => number): Expr {
    const { from } = this;
    return this.builder.uniform(this.own(name), (f) => value(f[from]!, f.height));
  }

  /** Metres to the right, up and forward from the eye. */
  direction(v: Vec3): Vec3 {
    return new Vec3(v.dot(this.axis('right')), v.dot(this.axis('up')), v.dot(this.axis('forward')));
  }

  place(p: Vec3): Vec3 {
    return this.direction(p.sub(this.axis('eye')));
  }

  spot(place: Vec3): Spot {
    const focal = this.number('focal', (pose, height) => pose.focal * height);
    const zoom = this.perspective ? focal.div(place.z.max(1e-4)) : focal;
    const half = (side: 'width' | 'height'): Expr =>
      this.builder.uniform(FRAME.own(`half ${side}`), (f) => f[side] / 2);
    return {
      x: half('width').add(place.x.mul(zoom)),
      y: half('height').sub(place.y.mul(zoom)),
      zoom,
    };
  }

  /** Where a place in the world is seen, 0 to 1 from the left and the top. */
  part(place: Vec3): readonly [Expr, Expr] {
    const { x, y } = this.spot(this.place(place));
    const whole = (side: 'width' | 'height'): Expr =>
      this.builder.uniform(FRAME.own(`one ${side}`), (f) => 1 / f[side]);
    return [x.mul(whole('width')), y.mul(whole('height'))];
  }

  /** Pixels a second at a place, from metres a second as the camera sees them. */
  drift(place: Vec3, velocity: Vec3, zoom: Expr): [Expr, Expr] {
    const along = (axis: 'x' | 'y'): Expr => {
      if (!this.perspective) return velocity[axis].mul(zoom);
      const slant = place[axis].div(place.z.max(1e-4));
      return velocity[axis].sub(slant.mul(velocity.z)).mul(zoom);
    };
    return [along('x'), along('y').neg()];
  }

  before(place: Vec3): Expr {
    return place.z.gt(NEAREST);
  }

  /** The part of the light that is left by the near fade at a distance. */
  fade(depth: Expr): Expr {
    return depth
      .div(this.number('near', (pose) => pose.near))
      .sub(0.5)
      .clamp(0, 1);
  }

  /** Whether the lens can blur at all. */
  get defocuses(): boolean {
    return !this.sharp && this.builder.scene.lens.defocuses;
  }

  /**
   * Radius in pixels of the disc that a point is spread over: the aperture as seen from behind the
   * plane of focus (M. Potmesil, I. Chakravarty, "A Lens and Aperture Camera Model", 1981). A tenth
   * of the frame's height is the most.
   */
  defocus(depth: Expr, zoom: Expr): Expr {
    const opening = this.number('aperture', ({ lens }) => lens.aperture / 2 / lens.focus);
    const focus = this.number('focus', ({ lens }) => lens.focus);
    const most = this.builder.uniform(FRAME.own('defocus'), (f) => f.height / 10);
    return depth.sub(focus).abs().mul(opening).mul(zoom).min(most);
  }
}
