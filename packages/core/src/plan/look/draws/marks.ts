import { markDials } from '../../../sections/swarms/bodies/common';
import { pictureSetDials } from '../../../sections/swarms/bodies/pictureSet';
import { streakDials } from '../../../sections/swarms/bodies/streak';
import { sharedDials } from '../../../language/dialReader';
import { cos, hash, noise, sin, Vec3, type Expr, type Graph } from '@vast-swarm/kernel';
import { edgeOf } from '../../../sections/swarms/bodies/common';
import {
  patternArea,
  PATTERNS,
  PUFF_MEAN,
  type Pattern,
} from '../../../sections/swarms/bodies/patterns';
import type { CameraPose } from '../../../language/frame';
import { letterOf } from '../../../language/readings';
import { turner } from '../../../language/placement';
import { SMALLEST, type Draw, type Pictures } from './draw';
import { DRAW_TABLES } from './tables';
import type { DrawContext } from './context';
import { picturesOf } from './pictures';

/** A way on the screen in pixels. */
type Way = [Expr, Expr];

function lengthOf([x, y]: Way): Expr {
  return x.mul(x).add(y.mul(y)).sqrt();
}

function times([x, y]: Way, k: Expr): Way {
  return [x.mul(k), y.mul(k)];
}

export function markDraw(
  context: DrawContext,
  pattern: Pattern,
  paramDial?: string,
): Pick<Draw & { shape: 'marks' }, 'shape' | 'pattern' | 'param' | 'lens' | 'pictures'> {
  const { builder, view, see, body } = context;
  const g = builder.graph;
  const pictures = pattern === 'pictures' ? picturesOf(context) : null;
  const param = paramDial === undefined ? 0 : (body.dials[paramDial] as number);
  const place = view.place(see.position);
  const { x, y, zoom } = view.spot(place);
  const [across, along] = waysOf(context, place, zoom, shapeOf(pictures));

  // Nothing is thinner than the smallest disc; it is dimmed instead.
  const [la, lb] = [lengthOf(across), lengthOf(along)];
  const [sa, sb] = [la.max(SMALLEST), lb.max(SMALLEST)];
  const dim = la.mul(lb).div(sa.mul(sb));
  const lens = view.defocuses;
  const spread = lens ? view.defocus(place.z, zoom) : g.float(0);
  const [ra, rb] = [sa.add(spread), sb.add(spread)];
  const a = times(across, ra.div(la.max(1e-6)));
  const b = times(along, rb.div(lb.max(1e-6)));
  const blur = spread.div(spread.add(sa.mul(sb).sqrt()));

  const edge = edgeOf((body.dials.hardness as number | undefined) ?? 0);
  const area = areaOf(g, pattern, param, pictures);
  const round = pattern === 'square' || pattern === 'pictures';
  const extent = (i: 0 | 1): Expr =>
    round ? a[i].abs().add(b[i].abs()) : a[i].mul(a[i]).add(b[i].mul(b[i])).sqrt();
  const [ex, ey] = [extent(0), extent(1)];
  // Not harder than an edge of about one pixel.
  const hard = ra.min(rb).mul(0.6).max(1).min(edge);
  let covers = see.opacity.mul(dim).mul(view.fade(place.z));
  if (lens) covers = covers.mul(kept(context, { sa, sb, ra, rb, blur, area, ex, ey, hard }));
  const det = a[0].mul(b[1]).sub(a[1].mul(b[0]));
  const upright = det.abs().gt(ra.mul(rb).mul(0.02));
  const seen = see.alive.and(view.before(place)).and(covers.gt(1e-6)).and(upright);
  const inverse = g.float(1).div(det);
  const light = context.light(see.colour, covers);
  const values = [
    x,
    y,
    seen.select(ex, g.float(0)),
    ey,
    ...light.parts,
    covers,
    place.z,
    b[1].mul(inverse),
    b[0].neg().mul(inverse),
    a[1].neg().mul(inverse),
    a[0].mul(inverse),
    hard,
    blur,
    pickOf(context, pictures),
  ];
  DRAW_TABLES.marks.outputs.forEach((name, i) => g.store(name, values[i]!));
  return { shape: 'marks', pattern: PATTERNS.indexOf(pattern), param, lens, pictures };
}

/** Width and height of what is drawn, the longer being 1. */
function shapeOf(pictures: Pictures | null): [number, number] {
  if (!pictures) return [1, 1];
  const longer = Math.max(pictures.width, pictures.height);
  return [pictures.width / longer, pictures.height / longer];
}

/** Half of its width to the right, and of its height down, on the screen. */
function waysOf(
  { builder, view, see, body }: DrawContext,
  place: Vec3,
  zoom: Expr,
  [wide, high]: [number, number],
): [Way, Way] {
  const g = builder.graph;
  const half = see.size.mul(zoom).mul(0.5);
  // A disc does not turn.
  if (!('facing' in body.dials))
    return [
      [half, g.float(0)],
      [g.float(0), half],
    ];
  const dial = sharedDials(see.dial, markDials);
  const facing = dial.choice('facing');
  const w = half.mul(dial.number('wide')).mul(wide);
  let h = half.mul(dial.number('high')).mul(high);
  const angle = dial
    .number('turn')
    .add(dial.number('spin').mul(see.age))
    .mul(Math.PI / 180);
  const [c, s] = [cos(angle), sin(angle)];
  if (facing === 'fixed') {
    const stand = turner(dial, 'stand');
    const axis = (x: Expr, y: Expr): Way => {
      const v = view.direction(see.turned(stand(new Vec3(x, y, g.float(0)), false)));
      return [v.x.mul(zoom), v.y.neg().mul(zoom)];
    };
    const size = (n: Expr): Expr => n.div(zoom);
    return [times(axis(c, s), size(w)), times(axis(s, c.neg()), size(h))];
  }
  let way: Way = [g.float(0), g.float(-1)];
  if (facing !== 'camera') {
    const towards = facing === 'velocity' ? see.velocity() : dial.vector('point').sub(see.position);
    const drift = view.drift(place, view.direction(towards), zoom);
    const speed = lengthOf(drift);
    const moving = speed.gt(1e-6);
    way = [
      moving.select(drift[0].div(speed.max(1e-6)), g.float(0)),
      moving.select(drift[1].div(speed.max(1e-6)), g.float(-1)),
    ];
    if ('stretch' in body.dials)
      h = h.add(speed.mul(sharedDials(dial, streakDials).number('stretch')).mul(0.5));
  }
  // Down is against the way; turned by the angle.
  const down: Way = [
    way[0].neg().mul(c).add(way[1].mul(s)),
    way[0].neg().mul(s).sub(way[1].mul(c)),
  ];
  return [times([down[1], down[0].neg()], w), times(down, h)];
}

interface Spread {
  sa: Expr;
  sb: Expr;
  ra: Expr;
  rb: Expr;
  blur: Expr;
  area: (edge: Expr) => Expr;
  ex: Expr;
  ey: Expr;
  hard: Expr;
}

/** Area of the lens's opening within its unit circle. */
export function openingArea({ lens }: CameraPose): number {
  const n = lens.blades;
  const full = n < 3 ? Math.PI : (n / 2) * Math.sin((2 * Math.PI) / n);
  return full / Math.max(lens.ratio, 1 / lens.ratio);
}

/**
 * The opacity that is left so that all of a particle's light stays the same: its light in focus over
 * that of what is drawn, a mix of its own pattern and the opening of the lens over a larger place.
 */
function kept({ builder, view }: DrawContext, spread: Spread): Expr {
  const { sa, sb, ra, rb, blur, area, ex, ey, hard } = spread;
  // The edge of a pattern depends on its size in pixels.
  const before = area(sa.min(sb).mul(0.6).max(1).min(hard));
  const after = area(hard);
  const round = ex.min(ey).mul(0.6).max(1).min(8);
  const opening = discPart(builder.graph, round).mul(view.number('opening', openingArea));
  const drawn = after.add(opening.sub(after).mul(blur));
  return before.mul(sa).mul(sb).div(drawn.mul(ra).mul(rb));
}

/** Part of its area that a round pattern with an edge covers, 1 - 2 / (3 edge). */
function discPart(g: Graph, edge: Expr): Expr {
  return g.float(1).sub(g.float(2 / 3).div(edge));
}

/** The integral of min(1, edge (1 - x²))² for x from -1 to 1. */
function bandPart(g: Graph, edge: Expr): Expr {
  const x = g.float(1).sub(g.float(1).div(edge)).sqrt();
  const cube = x.mul(x).mul(x);
  const rest = g.float(8 / 15).sub(
    x.sub(cube.mul(2 / 3)).add(
      cube
        .mul(x)
        .mul(x)
        .mul(1 / 5),
    ),
  );
  return x.add(edge.mul(edge).mul(rest)).mul(2);
}

/** The integral of a pattern's opacity over its square, by the hardness of its edge. */
function areaOf(
  g: Graph,
  pattern: Pattern,
  param: number,
  pictures: Pictures | null,
): (edge: Expr) => Expr {
  switch (pattern) {
    case 'disc':
      return (edge) => discPart(g, edge).mul(Math.PI);
    case 'puff':
      return (edge) => discPart(g, edge).mul(Math.PI * PUFF_MEAN);
    case 'ring':
      return (edge) => bandPart(g, edge).mul(2 * Math.PI * (1 - param) * param);
    case 'square':
      return (edge) => bandPart(g, edge).mul(bandPart(g, edge));
    case 'spark': {
      // A shape of degree one: 1 - 4 / (3 edge) + 1 / (2 edge²) of the area within its border.
      const border = patternArea('spark', 1e6, param);
      const part = (edge: Expr): Expr =>
        g
          .float(0.5)
          .div(edge)
          .sub(4 / 3)
          .div(edge)
          .add(1);
      return (edge) => part(edge).mul(border);
    }
    case 'pictures':
      return () => g.float(4 * (pictures?.coverage ?? 1));
  }
}

/** The rest of a whole number by how many pictures there are. */
function inTurn(number: Expr, count: number): Expr {
  return number.sub(number.div(count).floor().mul(count)).clamp(0, count - 1);
}

/** Which picture it is, or what tells one puff from the next. */
function pickOf({ builder, see, body }: DrawContext, pictures: Pictures | null): Expr {
  const g = builder.graph;
  const { particle } = see;
  const dial = sharedDials(see.dial, pictureSetDials);
  if (!pictures) return dial.random('pick').mul(1e6).floor();
  if (pictures.frames === 1 || !('pick' in body.dials)) return g.float(0);
  const count = pictures.frames;
  const last = dial.constant('last', count - 1);
  const every = dial.plain('every');
  const turn = dial.changing('turn', (_, frame) => Math.floor(Math.max(0, frame) / every));
  const own = particle.repeat?.chance('picture') ?? null;
  // From where each picture of a repeat goes on, in those ways that leave nothing to chance.
  const further = (picture: Expr): Expr => {
    if (!own) return picture;
    const by = own.eq(0).select(0, hash(hash(particle.id).xor(own)).shrU(8).toFloat());
    const moved = picture.add(by.mul(count * 2 ** -24).floor());
    return moved.ge(count).select(moved.sub(count), moved);
  };
  switch (dial.choice('pick')) {
    case 'life':
      return further((particle.life ?? g.float(0)).mul(count).floor().min(last));
    case 'random': {
      const turned = hash(turn.toInt()).xor(dial.seed('pick'));
      const key = own ? turned.xor(own) : turned;
      const chance = hash(hash(particle.id).xor(key)).shrU(8).toFloat();
      return chance
        .mul(count * 2 ** -24)
        .floor()
        .min(last);
    }
    case 'noise': {
      const still = { cos: g.float(1), sin: g.float(0) };
      const at = new Vec3(particle.id.toFloat().mul(0.61803), turn.mul(0.37), g.float(0.5));
      const value = noise(at, dial.seed('pick'), still).value.mul(0.8).add(0.5);
      return further(value.clamp(0, 1).mul(count).floor().min(last));
    }
    case 'letter':
      return further(inTurn(letterOf(see.dial), count));
    default:
      return further(inTurn(particle.id.toFloat(), count));
  }
}
