import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import type { Effect } from '../../sections/kinds';
import { scaled } from '../../sections/forces/region';
import { seenMotion } from '../../sections/forces/seenMotion';
import { luminance } from '../../feeds/luminance';
import type { PlanKernel } from '../../language/frame';
import { givingWay } from '../../feeds/loop';
import { MediumPlane } from '../../language/mediumPlane';
import { CONTENT, type MediumSpace } from '../../language/mediumSpace';
import { FRAME } from '../../language/names';
import { pictureSample, pixelAt, sampledSize } from '../../language/pictureSample';
import { pushingOn, type Pushing } from '../../piece/pushing';
import type { Part, Piece } from '../../piece/types';
import { fieldReading } from '../fields/fieldCells';
import { collidersOn, feltOf } from '../motion/felt';
import { integrals } from '../motion/integrals';
import { zoneEffect } from '../motion/contact/zone';
import { mediumReader, partReader } from '../readers';
import type { Scene, SceneBuilder } from '../scene';
import { ownVelocity } from './advection';
import { cellParticle } from './cellParticle';
import { Cells } from './cells';
import { swirl } from './swirl';
import type { MediumDial, Taken } from './taken';

/** Sums of what swarms leave in cells: how many particles, by how near they are, with their velocity and light. */
export const LEFT = ['count', 'u', 'v', 'red', 'green', 'blue'] as const;

export interface Stirring {
  scene: Scene;
  space: MediumSpace;
  part: Part;
  builder: SceneBuilder;
  walls: boolean;
  /** Whether swarms leave something in it. */
  swarms: boolean;
}

/** Forces that a medium feels: those that do not look at neighbours, which it has none of, and not its own. */
export function forcesOn(piece: Piece, medium: string): Pushing[] {
  return pushingOn(piece, medium).filter(
    ({ part, kind }) => !kind.sight && kind.rides?.(part.dials) !== medium,
  );
}

/** Whether some force carries a medium beside its own velocity. */
export function isCarried(piece: Piece, medium: string): boolean {
  return forcesOn(piece, medium).some(({ part, kind }) => kind.carries?.(part.dials) ?? false);
}

/**
 * Takes up what stirs the medium: new light and amount, and by how much the velocity in the middle of each cell
 * changes (`change.x`, `change.y`). Nothing of it can overshoot: what pulls towards a velocity never goes past it.
 */
export function stirKernel(about: Stirring): PlanKernel {
  const { builder, space, scene, part } = about;
  const g = builder.graph;
  const cells = new Cells(builder, space.edges);
  const plane = new MediumPlane(builder, space);
  const dial = mediumReader(builder, part);
  const step = builder.uniform(FRAME.own('step'), 1 / scene.rate);
  const velocity = ownVelocity(cells);
  const settling = settlingOf(builder);
  const fading = settling ? dial.number('fading').add(settling) : dial.number('fading');
  const slowing = settling ? dial.number('slowing').add(settling) : dial.number('slowing');
  const taken: Taken = {
    x: g.float(0),
    y: g.float(0),
    drag: slowing,
    limit: null,
    content: { red: g.float(0), green: g.float(0), blue: g.float(0), amount: g.float(0) },
    going: { light: fading, amount: fading },
  };
  feelForces(about, cells, plane, step, taken);
  if (about.swarms) takeSwarms(cells, dial, taken);
  takePicture(about, cells, plane, dial, taken);
  takeHand(cells, space, plane, dial, scene.rate, taken);
  if (dial.raw('swirl') !== 0) swirl(cells, plane, space, dial, taken);
  const { keep, one } = integrals(step, taken.drag.max(0));
  const free = about.walls ? cells.load('free') : g.float(1);
  const next = (axis: 'x' | 'y'): Expr => velocity[axis].mul(keep!).add(taken[axis].mul(one));
  const [x, y] = [next('x'), next('y')];
  const speed = x.mul(x).add(y.mul(y)).sqrt();
  const within = taken.limit?.div(speed.max(1e-6)).min(1) ?? g.float(1);
  g.store('change.x', x.mul(within).sub(velocity.x).mul(free), cells.inside);
  g.store('change.y', y.mul(within).sub(velocity.y).mul(free), cells.inside);
  const going = {
    light: integrals(step, taken.going.light),
    amount: integrals(step, taken.going.amount),
  };
  for (const name of CONTENT) {
    const fading = going[name === 'amount' ? 'amount' : 'light'];
    const kept = cells.load(name).mul(fading.keep!);
    const own = space.edges === 'open' ? kept : kept.mul(g.load(`gain.${name}`, g.int(0)));
    const then = own.add(taken.content[name].mul(fading.one));
    g.store(name, free.gt(0.5).select(then, 0), cells.inside);
  }
  return builder;
}

/** How fast it comes to rest at its most, and in the very last frame of a loop, a second. */
const SETTLING = 12;
const AT_ONCE = 1e5;

/** A fluid has no end of memory: at the end of a loop it comes to rest, and begins again; a second. */
function settlingOf(builder: SceneBuilder): Expr | null {
  const { period, rate } = builder.scene;
  if (period === null) return null;
  const over = givingWay(period);
  return builder.uniform(FRAME.own('settling'), ({ time }) => {
    const left = period - time;
    if (left < 1 / rate) return AT_ONCE;
    return SETTLING * Math.max(0, 1 - left / over) ** 2;
  });
}

/** A cell feels a force as a particle would that stood there with the velocity of the medium. */
function feelForces(
  { builder, space, scene }: Stirring,
  cells: Cells,
  plane: MediumPlane,
  step: Expr,
  taken: Taken,
): void {
  const g = builder.graph;
  const { piece } = scene;
  const position = plane.placeOf(cells.spot);
  const velocity = plane.world(ownVelocity(cells));
  const particle = cellParticle(builder, space.id, position, velocity);
  const moving = {
    position,
    start: position,
    velocity,
    step,
    age: g.float(0),
    time: builder.uniform(FRAME.own('time'), (f) => f.time),
    home: () => position,
    near: () => {
      throw new Error('A medium has no neighbours');
    },
  };
  const felt = (part: Part): Expr => feltOf(builder, part, space.id);
  const effects: Effect[] = forcesOn(piece, space.id).map(({ part, kind, list }) => {
    const reader = partReader(builder, list, part, particle);
    const field = () => fieldReading(builder, part, kind.field!, reader);
    return scaled(kind.build(reader, { ...moving, field }), felt(part));
  });
  for (const zone of collidersOn(piece, space.id, 'zone')) {
    effects.push(scaled(zoneEffect(builder, zone, particle, moving).effect, felt(zone)));
  }
  let carry: Vec3 | null = null;
  for (const effect of effects) {
    if (effect.push) {
      const { x, y } = plane.along(effect.push);
      [taken.x, taken.y] = [taken.x.add(x), taken.y.add(y)];
    }
    if (effect.drag) taken.drag = taken.drag.add(effect.drag);
    if (effect.limit) taken.limit = taken.limit?.min(effect.limit) ?? effect.limit;
    if (effect.carry) carry = carry ? carry.add(effect.carry) : effect.carry;
  }
  if (!isCarried(piece, space.id)) return;
  const along = plane.along((carry ?? velocity.scale(0)).scale(g.float(scene.rate)));
  g.store('carry.x', along.x, cells.inside);
  g.store('carry.y', along.y, cells.inside);
}

/** Towards the velocity and the light of the particles there, and an amount of 1, the sooner the more and the nearer they are. */
function takeSwarms(cells: Cells, dial: MediumDial, taken: Taken): void {
  const left = (name: (typeof LEFT)[number]): Expr => cells.load(`left.${name}`);
  const stir = dial.number('stir');
  taken.x = taken.x.add(left('u').mul(stir));
  taken.y = taken.y.add(left('v').mul(stir));
  taken.drag = taken.drag.add(left('count').mul(stir));
  const [tint, give] = [dial.number('tint'), dial.number('give')];
  const { content, going } = taken;
  for (const name of ['red', 'green', 'blue'] as const) {
    content[name] = content[name].add(left(name).mul(tint));
  }
  going.light = going.light.add(left('count').mul(tint));
  content.amount = content.amount.add(left('count').mul(give));
  going.amount = going.amount.add(left('count').mul(give));
}

/** How the motion of a picture is found; see sections/forces/clipFlow.ts. */
const FLOW = { detail: 160, smooth: 0.01, steady: 2 };

function takePicture(
  { scene, space }: Stirring,
  cells: Cells,
  plane: MediumPlane,
  dial: MediumDial,
  taken: Taken,
): void {
  const picture = dial.picture('picture');
  if (!picture) return;
  const { builder } = dial;
  const { x, y } = cells.spot;
  const u = x.sub(0.5).mul(1 / space.columns);
  const v = y.sub(space.lines + 0.5).mul(-1 / space.lines);
  const tint = dial.number('pictureTint');
  const { width, height } = sampledSize(picture);
  const { colour } = pictureSample(builder, picture, pixelAt(u, width), pixelAt(v, height));
  const { content } = taken;
  content.red = content.red.add(colour.x.mul(tint));
  content.green = content.green.add(colour.y.mul(tint));
  content.blue = content.blue.add(colour.z.mul(tint));
  content.amount = content.amount.add(luminance(colour).mul(tint));
  if (picture.type !== 'moving' || dial.raw('pictureStir') === 0) return;
  const [right, up] = seenMotion(dial, picture, FLOW, u, v);
  const stir = dial.number('pictureStir');
  const speed = (part: Expr, size: number): Expr =>
    part
      .mul(plane.cell)
      .mul(size * scene.rate)
      .mul(stir);
  taken.x = taken.x.add(speed(right, space.columns));
  taken.y = taken.y.add(speed(up, space.lines));
  taken.drag = taken.drag.add(stir);
}

/** How soon the medium moves as the hand does, in 1/s. */
const GRASP = 30;

/** A hand at a place that dials say: it takes the medium along as it moves, and leaves its colour. */
function takeHand(
  cells: Cells,
  space: MediumSpace,
  plane: MediumPlane,
  dial: MediumDial,
  rate: number,
  taken: Taken,
): void {
  if (dial.raw('hand') === 0) return;
  const { builder } = dial;
  const { scene } = builder;
  const at = (key: 'handX' | 'handY', cellsAlong: number) => {
    const follow = scene.follow(dial.raw(key));
    const half = cellsAlong / 2;
    const place = dial.changing(key, (time) => follow(time) * half + half + 0.5);
    const way = dial.changing(`${key} way`, (time) => {
      return (follow(time + 0.5 / rate) - follow(time - 0.5 / rate)) * half * rate;
    });
    return { place, speed: way.mul(plane.cell) };
  };
  const [x, y] = [at('handX', space.columns), at('handY', space.lines)];
  const size = dial.number('handSize').div(plane.cell).max(1);
  const [dx, dy] = [cells.spot.x.sub(x.place).div(size), cells.spot.y.sub(y.place).div(size)];
  const weight = exp(dx.mul(dx).add(dy.mul(dy)).mul(-2)).mul(dial.number('hand'));
  const grasp = weight.mul(GRASP);
  taken.x = taken.x.add(x.speed.mul(grasp));
  taken.y = taken.y.add(y.speed.mul(grasp));
  taken.drag = taken.drag.add(grasp);
  const tint = dial.number('handTint').mul(weight);
  const colour = dial.colour('handColour');
  const { content } = taken;
  content.red = content.red.add(colour.x.mul(tint));
  content.green = content.green.add(colour.y.mul(tint));
  content.blue = content.blue.add(colour.z.mul(tint));
  content.amount = content.amount.add(tint);
}
