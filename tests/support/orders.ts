import type { RenderOrder } from '@vast-swarm/core/formats';

/** An order of ten small frames to the server. */
export function smallOrder(change: Partial<RenderOrder> = {}): RenderOrder {
  return {
    name: 'Small',
    format: 'png',
    quality: 'good',
    alpha: false,
    layers: [],
    width: 128,
    height: 72,
    first: 0,
    last: 9,
    oversample: 1,
    shutter: 0,
    frames: 'frame_%04d',
    ...change,
  };
}
