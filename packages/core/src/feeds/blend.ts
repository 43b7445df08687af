import { Vec3, type Expr } from '@vast-swarm/kernel';

/** How a layer lies over what is below it. */
export const LAYER_MODES = {
  normal: 'Normal',
  multiply: 'Multiply',
  add: 'Add',
  screen: 'Screen',
  overlay: 'Overlay',
  lighten: 'Lighten',
  darken: 'Darken',
} as const;
export type LayerMode = keyof typeof LAYER_MODES;

/**
 * One channel: `a` below, `b` above (W3C, "Compositing and Blending Level 1", 2024). Light over 1 is
 * let through; only what the formulas of screen and overlay take from 1 stops there.
 */
export function blendChannel(mode: LayerMode, a: Expr, b: Expr): Expr {
  const one = a.graph.float(1);
  const screened = (x: Expr, y: Expr): Expr => x.add(y.clamp(0, 1).mul(one.sub(x.clamp(0, 1))));
  switch (mode) {
    case 'normal':
      return b;
    case 'multiply':
      return a.mul(b);
    case 'add':
      return a.add(b);
    case 'screen':
      return screened(a, b);
    case 'overlay':
      return a.le(0.5).select(a.mul(b).mul(2), screened(a.mul(2).sub(1), b));
    case 'lighten':
      return a.max(b);
    case 'darken':
      return a.min(b);
  }
}

export function blendLayers(mode: LayerMode, a: Vec3, b: Vec3): Vec3 {
  return new Vec3(
    blendChannel(mode, a.x, b.x),
    blendChannel(mode, a.y, b.y),
    blendChannel(mode, a.z, b.z),
  );
}
