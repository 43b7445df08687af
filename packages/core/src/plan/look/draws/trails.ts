import { kindOf } from '../../../sections';
import { trailDials } from '../../../sections/swarms/bodies/trail';
import { sharedDials } from '../../../language/dialReader';
import { valuesOf } from '../../../language/dials';
import { given, Owner } from '../../../language/names';
import type { SceneBuilder } from '../../scene';
import { Vec3, type Expr } from '@vast-swarm/kernel';
import { luminanceOf } from '../../../feeds/luminance';
import { edgeOf } from '../../../sections/swarms/bodies/common';
import { historyRows } from '../../motion/history';
import type { Lamps } from '../../../language/frame';
import { bodyReader } from '../../readers';
import { standing } from '../appearance';
import { SMALLEST, type Draw } from './draw';
import { DRAW_TABLES } from './tables';
import type { DrawContext } from './context';

/** Ages are sums: one this small a part of a frame may be that of the place before birth. */
const TINY = 0.02;

/**
 * One row of places, `row` frames back (a uniform of the engine's): the buffers `before.*`, `here.*`
 * and `after.*` are the history there and a frame to each side. A place counts where the particle
 * was alive then and the trail is that long.
 */
export function trailDraw(
  context: DrawContext,
): Pick<Draw & { shape: 'trails' }, 'shape' | 'rows'> | null {
  const { builder, view, see, swarm, body } = context;
  const dial = sharedDials(see.dial, trailDials);
  const { by, form, hardness } = valuesOf(trailDials, body.dials);
  const rows = historyRows(swarm);
  if (rows < 2) return null;
  const g = builder.graph;
  const row = g.uniform(given('row'));
  const dt = 1 / builder.scene.rate;
  const life = see.particle.readings!.life;
  const length = dial.number('length');
  const along = row.div(length.max(1e-3)).clamp(0, 1);
  const ageAt = (back: Expr): Expr => see.age.sub(back.mul(dt));
  const lived = (back: Expr): Expr => {
    const age = ageAt(back);
    return age
      .gt(TINY * dt)
      .and(age.lt(life))
      .and(back.le(length))
      .and(back.le(g.uniform(given('known'))));
  };
  const alongDial = dial.along(along);
  const travelled = (): Expr => {
    const way = (at: string): Expr => g.load(at, g.lane());
    return way('way').sub(way('here.way')).div(dial.number('span'));
  };
  const tinted = {
    place: along,
    age: ageAt(row).div(life.max(1e-6)),
    length: by === 'length' ? travelled() : along,
  }[by];
  const stand = standing(builder, view, swarm);
  const spotOf = (name: string): Vec3 => {
    const part = (p: string): Expr => g.load(`${name}.${p}`, g.lane());
    return new Vec3(part('px'), part('py'), part('pz'));
  };
  const spot = (name: string): Vec3 => stand.place(spotOf(name));
  const at = (name: string): Vec3 => view.place(spot(name));
  // Where it is looked up by its place, each place of the trail has a tint of its own.
  const readings = { ...see.particle.readings!, position: spot('here') };
  const placed = bodyReader(builder, swarm.id, body, { ...see.particle, readings });
  const tint = sharedDials(placed, trailDials).along(tinted.clamp(0, 1)).colour('tint');
  const colour = see.colour.mul(tint);
  const here = at('here');
  const before = Vec3.select(row.gt(0.5).and(lived(row.sub(1))), at('before'), here);
  const after = Vec3.select(lived(row.add(1)), at('after'), here);
  const tangent = before.sub(after);
  const { x, y, zoom } = view.spot(here);
  const drift = view.drift(here, tangent, zoom);
  const speed = drift[0].mul(drift[0]).add(drift[1].mul(drift[1])).sqrt().max(1e-6);
  // To the left of the way.
  const [nx, ny] = [drift[1].neg().div(speed), drift[0].div(speed)];
  const wide = see.size.mul(alongDial.number('width')).mul(0.5).mul(zoom);
  const width = wide.max(SMALLEST / 2);
  const blur = view.defocuses ? view.defocus(here.z, zoom) : g.float(0);
  const half = width.add(blur);
  const dim = wide.div(half);

  const fade = alongDial.number('fade').clamp(0, 1).mul(view.fade(here.z)).mul(dim);
  const covers = see.opacity.mul(fade);
  const there = lived(row).and(view.before(here)).and(length.gt(0));
  const light = context.light(colour, covers, spotOf('here'));
  const lit = shading(builder, context.measured ? 'flat' : form, here, tangent, nx, ny);
  let offset: [Expr, Expr] = [nx.mul(half), ny.mul(half)];
  if (form === 'ribbon') {
    const flat = tangent.cross(view.direction(new Vec3(g.float(0), g.float(1), g.float(0)))).unit();
    const side = view.drift(here, flat, g.float(1));
    offset = [side[0].mul(half), side[1].mul(half)];
  }
  const hard = half.mul(0.6).max(1).min(edgeOf(hardness));
  const values = [
    x,
    y,
    ...offset,
    ...light.parts,
    there.select(covers, g.float(-1)),
    here.z,
    ...lit,
    hard,
  ];
  DRAW_TABLES.trails.outputs.forEach((name, i) => g.store(name, values[i]!));
  return { shape: 'trails', rows };
}

/**
 * How light changes across: s0 + s1 v + s2 v² for v from -1 to 1, through the light at the middle
 * and near both sides of a round tube; flat for a column, none for the rest.
 */
function shading(
  builder: SceneBuilder,
  form: string,
  here: Vec3,
  tangent: Vec3,
  nx: Expr,
  ny: Expr,
): [Expr, Expr, Expr] {
  const g = builder.graph;
  if (form !== 'tube' && form !== 'column') return [g.float(1), g.float(0), g.float(0)];
  const line = tangent.unit();
  const back = here.scale(-1).unit();
  const front = back.sub(line.scale(back.dot(line))).unit();
  const across = line.cross(front);
  // The side that stands where v is 1: on the screen y runs down.
  const same = across.x.mul(nx).sub(across.y.mul(ny)).gt(0);
  const side = Vec3.select(same, across, across.scale(-1));
  const lightAt = (v: number): Expr =>
    lampLight(builder, side.scale(v).add(front.scale(Math.sqrt(1 - v * v))));
  const middle = lightAt(0);
  if (form === 'column') return [middle, g.float(0), g.float(0)];
  const [left, right] = [lightAt(-0.9), lightAt(0.9)];
  return [middle, right.sub(left).div(1.8), right.add(left).sub(middle.mul(2)).div(1.62)];
}

const LAMPS = new Owner('lamps');

/** Luminance of the lamps on a surface with that normal, as the camera sees it. */
function lampLight(builder: SceneBuilder, normal: Vec3): Expr {
  const { scene } = builder;
  const count = Math.max(
    1,
    scene.piece.lights.filter((l) => l.on && kindOf('lights', l.kind).falls !== 'everywhere')
      .length,
  );
  const uniform = (name: string, of: (lamps: Lamps) => number): Expr =>
    builder.uniform(LAMPS.own(name), (f) => of(f.lamps!));
  let sum = uniform('ambient', (l) => luminanceOf(l.ambient));
  for (let i = 0; i < count; i++) {
    const axis = (k: number): Expr =>
      uniform(`${String(i)}.${String(k)}`, (l) => l.lamps[i]?.direction[k] ?? 0);
    const direction = new Vec3(axis(0), axis(1), axis(2));
    const strength = uniform(`${String(i)}.light`, (l) =>
      l.lamps[i] ? luminanceOf(l.lamps[i]!.colour) : 0,
    );
    sum = sum.add(normal.dot(direction).max(0).mul(strength));
  }
  return sum;
}
