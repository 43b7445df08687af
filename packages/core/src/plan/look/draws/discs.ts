import { valuesOf } from '../../../language/dials';
import { edgeOf, hardness } from '../../../sections/swarms/bodies/common';
import type { DrawContext } from './context';
import { SMALLEST, type Draw } from './draw';

export function discDraw({
  builder,
  view,
  see,
  body,
  light: lightOf,
}: DrawContext): Pick<Draw & { shape: 'discs' }, 'shape' | 'edge'> {
  const g = builder.graph;
  const { position, size, colour, opacity, alive } = see;
  const place = view.place(position);
  const { x, y, zoom } = view.spot(place);
  const radius = size.mul(zoom).mul(0.5);
  const drawn = radius.max(SMALLEST);
  const dim = radius.div(drawn);
  const covers = opacity.mul(dim).mul(dim).mul(view.fade(place.z));
  const seen = alive.and(view.before(place)).and(covers.gt(1e-6));
  const light = lightOf(colour, covers);
  g.store('sx', x);
  g.store('sy', y);
  g.store('sr', seen.select(drawn, g.float(0)));
  g.store('cr', light.x);
  g.store('cg', light.y);
  g.store('cb', light.z);
  g.store('ca', covers);
  g.store('depth', place.z);
  return { shape: 'discs', edge: edgeOf(valuesOf({ hardness }, body.dials).hardness) };
}
