import { overOf, type DialValue, type Shape } from '@vast-swarm/core/feeds';
import type { DialSpec } from '@vast-swarm/core/kinds';

let copied: Shape | null = null;

/** Keeps a shape over life for other rows. */
export function copyShape(shape: Shape | undefined): void {
  if (shape) copied = shape;
}

/** A dial with the shape that was copied; null where it can have none. */
export function pasteShape(spec: DialSpec, value: DialValue): DialValue | null {
  if (!copied || spec.type !== 'number' || spec.varies !== 'life') return null;
  if (typeof value === 'number') return { feed: 'fixed', value, over: copied };
  if (typeof value !== 'object' || !('feed' in value) || overOf(value) === copied) return null;
  return { ...value, over: copied } as DialValue;
}
