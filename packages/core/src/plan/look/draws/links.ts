import { linkDials } from '../../../sections/swarms/bodies/links';
import { sharedDials } from '../../../language/dialReader';
import { valuesOf } from '../../../language/dials';
import { edgeOf } from '../../../sections/swarms/bodies/common';
import { densityOf } from '../density';
import { gridPlan } from '../../motion/neighbourGrid';
import { SMALLEST, type Draw } from './draw';
import { DRAW_TABLES } from './tables';
import type { DrawContext } from './context';

type LinkDraw = Draw & { shape: 'links' };

/** The ends of links; which ones there are the engine finds out by itself. */
export function linkDraw({
  builder,
  view,
  see,
  body,
  capacity,
  light,
}: DrawContext): Pick<
  LinkDraw,
  'shape' | 'radius' | 'most' | 'total' | 'fill' | 'grid' | 'roundIds'
> | null {
  const { scene } = builder;
  const { radius, most, total, fill, hardness } = valuesOf(linkDials, body.dials);
  const density = densityOf(scene.piece.density);
  if (radius <= 0 || total <= 0) return null;
  const g = builder.graph;
  const place = view.place(see.position);
  const { x, y, zoom } = view.spot(place);
  const size = sharedDials(see.dial, linkDials).number('width').mul(density.width);
  const wide = see.size.mul(size).mul(0.5).mul(zoom);
  const width = wide.max(SMALLEST / 2);
  const blur = view.defocuses ? view.defocus(place.z, zoom) : g.float(0);
  const half = width.add(blur);
  const covers = see.opacity.mul(view.fade(place.z)).mul(wide.div(half));
  const seen = see.alive.and(view.before(place));
  const hard = half.mul(0.6).max(1).min(edgeOf(hardness));
  const values = [
    x,
    y,
    half,
    ...light(see.colour, covers).parts,
    seen.select(covers, g.float(-1)),
    place.z,
    hard,
  ];
  DRAW_TABLES.links.outputs.forEach((name, i) => g.store(name, values[i]!));
  const reach = radius * density.reach;
  return {
    shape: 'links',
    radius: reach,
    most: most,
    total: Math.round(total * density.count),
    fill: (time) => scene.number(fill, time),
    roundIds: builder.data.turns?.ids ?? capacity,
    grid: gridPlan(scene, capacity, reach, builder.data, false),
  };
}
