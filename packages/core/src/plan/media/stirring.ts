import { exp, Vec3, type Expr } from '@vast-swarm/kernel';
import { kindOf } from '../../catalogue';
import type { Effect, ForceKind } from '../../catalogue/kinds';
import { scaled } from '../../catalogue/forces/region';
import { seenMotion } from '../../catalogue/forces/seenMotion';
import { luminance } from '../../feeds/luminance';
import type { KernelBuilder } from '../../language/builder';
import type { DialReader } from '../../language/dialReader';
import type { PlanKernel } from '../../language/frame';
import { MediumPlane } from '../../language/mediumPlane';
import type { MediumSpace } from '../../language/mediumSpace';
import { FRAME, Owner } from '../../language/names';
import { pictureSample, sampledSize } from '../../language/pictureSample';
import { influenceOf } from '../../piece/influence';
import type { Part, Piece } from '../../piece/types';
import type { fluidDials } from '../../catalogue/media/dials';
import { fieldReading } from '../fields/fieldCells';
import { integrals } from '../motion/integrals';
import { zoneEffect } from '../motion/contact/zone';
import { mediumReader, partReader } from '../readers';
import type { Scene, SceneBuilder } from '../scene';
import { ownVelocity } from './advection';
import { cellParticle } from './cellParticle';
import { Cells } from './cells';
import { CONTENT } from './levels';
import { faceMask } from './pressure';

/** Sums of what swarms leave in cells: how many particles, by how near they are, with their velocity and light. */
export const LEFT = ['count', 'u', 'v', 'red', 'green', 'blue'] as const;

type Dial = DialReader<typeof fluidDials>;

/** What a medium takes up in the middle of a cell: as what a force does to a particle. */
interface Taken {
  /** Acceleration along the plane, m/s². */
  x: Expr;
  y: Expr;
  /** 1/s. */
  drag: Expr;
  /** Light and amount a second. */
  content: Record<(typeof CONTENT)[number], Expr>;
}

export interface Stirring {
  scene: Scene;
  space: MediumSpace;
  part: Part;
  builder: SceneBuilder;
  walls: boolean;
  /** Whether swarms leave something in it, and whether their light counts. */
  swarms: boolean;
}

/** Forces that a medium feels: those that do not look at neighbours, which it has none of, and not its own. */
export function forcesOn(piece: Piece, medium: string): Part[] {
  return piece.forces.filter((force) => {
    const kind: ForceKind = kindOf('forces', force.kind);
    const own = kind.rides?.(force.dials) === medium;
    return force.on && influenceOf(piece, force.id, medium) !== 0 && !kind.sight && !own;
  });
}

/** Whether some force carries a medium beside its own velocity. */
export function isCarried(piece: Piece, medium: string): boolean {
  return forcesOn(piece, medium).some((f) => kindOf('forces', f.kind).carries?.(f.dials) ?? false);
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
  const taken: Taken = {
    ...{ x: g.float(0), y: g.float(0), drag: dial.number('slowing') },
    content: { red: g.float(0), green: g.float(0), blue: g.float(0), amount: g.float(0) },
  };
  feelForces(about, cells, plane, step, taken);
  if (about.swarms) takeSwarms(cells, dial, taken);
  takePicture(about, cells, plane, dial, taken);
  takeHand(cells, space, plane, dial, scene.rate, taken);
  if (dial.raw('swirl') !== 0) swirl(cells, plane, space, dial, taken);
  const { keep, one } = integrals(step, taken.drag.max(0));
  const free = about.walls ? cells.load('free') : g.float(1);
  for (const axis of ['x', 'y'] as const) {
    const next = velocity[axis].mul(keep!).add(taken[axis].mul(one));
    g.store(`change.${axis}`, next.sub(velocity[axis]).mul(free), cells.inside);
  }
  const fading = integrals(step, dial.number('fading'));
  for (const name of CONTENT) {
    const kept = cells.load(name).mul(fading.keep!);
    const own = space.edges === 'open' ? kept : kept.mul(g.load(`gain.${name}`, g.int(0)));
    const next = own.add(taken.content[name].mul(fading.one));
    g.store(name, free.gt(0.5).select(next, 0), cells.inside);
  }
  return builder;
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
    ...{ position, start: position, velocity, step, age: g.float(0) },
    time: builder.uniform(FRAME.own('time'), (f) => f.time),
    home: () => position,
    near: () => {
      throw new Error('A medium has no neighbours');
    },
  };
  const felt = ({ id }: Part): Expr =>
    builder.uniform(new Owner('influence', id).own('felt'), influenceOf(piece, id, space.id));
  const effects: Effect[] = forcesOn(piece, space.id).map((force) => {
    const kind: ForceKind = kindOf('forces', force.kind);
    const reader = partReader(builder, 'forces', force, particle);
    const field = () => fieldReading(builder, force, kind.field!, reader);
    return scaled(kind.build(reader, { ...moving, field }), felt(force));
  });
  for (const zone of zonesOf(piece, space.id)) {
    effects.push(scaled(zoneEffect(builder, zone, particle, moving).effect, felt(zone)));
  }
  let carry: Vec3 | null = null;
  for (const effect of effects) {
    if (effect.push) {
      const { x, y } = plane.along(effect.push);
      [taken.x, taken.y] = [taken.x.add(x), taken.y.add(y)];
    }
    if (effect.drag) taken.drag = taken.drag.add(effect.drag);
    if (effect.carry) carry = carry ? carry.add(effect.carry) : effect.carry;
  }
  if (!isCarried(piece, space.id)) return;
  const along = plane.along((carry ?? velocity.scale(0)).scale(g.float(scene.rate)));
  g.store('carry.x', along.x, cells.inside);
  g.store('carry.y', along.y, cells.inside);
}

function zonesOf(piece: Piece, medium: string): Part[] {
  return piece.colliders.filter(
    (c) => c.on && c.dials.acts === 'zone' && influenceOf(piece, c.id, medium) !== 0,
  );
}

/** Towards the velocity of the particles there, as soon as there are many and they are near. */
function takeSwarms(cells: Cells, dial: Dial, taken: Taken): void {
  const left = (name: (typeof LEFT)[number]): Expr => cells.load(`left.${name}`);
  const stir = dial.number('stir');
  taken.x = taken.x.add(left('u').mul(stir));
  taken.y = taken.y.add(left('v').mul(stir));
  taken.drag = taken.drag.add(left('count').mul(stir));
  const tint = dial.number('tint');
  const { content } = taken;
  for (const name of ['red', 'green', 'blue'] as const) {
    content[name] = content[name].add(left(name).mul(tint));
  }
  content.amount = content.amount.add(left('count').mul(dial.number('give')));
}

/** How the motion of a picture is found; see catalogue/forces/clipFlow.ts. */
const FLOW = { detail: 160, smooth: 0.01, steady: 2 };

/** The motion seen in a picture on a medium, where it takes some up. */
export function pictureFlow(scene: Scene, { dials }: Part) {
  const picture = scene.picture(dials.picture as string);
  return picture?.type === 'moving' && dials.pictureStir !== 0 ? { picture, options: FLOW } : null;
}

function takePicture(
  { scene, space, part }: Stirring,
  cells: Cells,
  plane: MediumPlane,
  dial: Dial,
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
  const pixel = (at: Expr, size: number): Expr => at.mul(size).clamp(0.5, size - 0.5);
  const { colour } = pictureSample(builder, picture, pixel(u, width), pixel(v, height));
  const { content } = taken;
  content.red = content.red.add(colour.x.mul(tint));
  content.green = content.green.add(colour.y.mul(tint));
  content.blue = content.blue.add(colour.z.mul(tint));
  content.amount = content.amount.add(luminance(colour).mul(tint));
  const flow = pictureFlow(scene, part);
  if (!flow) return;
  const [right, up] = seenMotion(dial, flow.picture, flow.options, u, v);
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
  dial: Dial,
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

/** Part of a medium's height that eddies are kept at, so that more lines do not change how strongly. */
const EDDY = 1 / 256;

/**
 * Vorticity confinement: a push round the places where it turns most (J. Steinhoff, D. Underhill 1994; R. Fedkiw,
 * J. Stam, H. W. Jensen, "Visual Simulation of Smoke", 2001).
 */
function swirl(
  cells: Cells,
  plane: MediumPlane,
  space: MediumSpace,
  dial: Dial,
  taken: Taken,
): void {
  const g = cells.graph;
  const turn = (dx: number, dy: number): Expr => cells.around('curl', dx, dy).abs();
  const across = turn(1, 0).sub(turn(-1, 0));
  const up = turn(0, 1).sub(turn(0, -1));
  const steep = across.mul(across).add(up.mul(up)).sqrt();
  const by = steep.gt(1e-6).select(g.float(1).div(steep.max(1e-6)), 0);
  const size = plane.cell.mul(space.lines * EDDY);
  const push = dial.number('swirl').mul(size).mul(cells.load('curl')).mul(by);
  taken.x = taken.x.add(up.mul(push));
  taken.y = taken.y.sub(across.mul(push));
}

/** How much the medium turns in the middle of each cell, in 1/s; nothing at edges that do not go round. */
export function curlKernel(builder: KernelBuilder, space: MediumSpace): PlanKernel {
  const cells = new Cells(builder, space.edges);
  const g = builder.graph;
  const { cell } = new MediumPlane(builder, space);
  const both = (name: 'u' | 'v', dx: number, dy: number): Expr => {
    const next = name === 'u' ? cells.around(name, dx + 1, dy) : cells.around(name, dx, dy + 1);
    return cells.around(name, dx, dy).add(next);
  };
  const turn = both('v', 1, 0)
    .sub(both('v', -1, 0))
    .sub(both('u', 0, 1))
    .add(both('u', 0, -1));
  const { column, columns, line, lines } = cells;
  const inner = column.gt(1).and(column.lt(columns)).and(line.gt(1)).and(line.lt(lines));
  const value = turn.mul(0.25).div(cell);
  g.store('curl', space.edges === 'wrap' ? value : inner.select(value, 0), cells.inside);
  return builder;
}

/** Faster than this nothing flows, in m/s. */
const FASTEST = 1000;

/** Brings changes to the faces; closed ones move as the wall that closes them. */
export function faceKernel(builder: KernelBuilder, space: MediumSpace, walls: boolean): PlanKernel {
  const cells = new Cells(builder, space.edges);
  const g = builder.graph;
  for (const [name, axis] of [
    ['u', 'x'],
    ['v', 'y'],
  ] as const) {
    const [dx, dy] = axis === 'x' ? [-1, 0] : [0, -1];
    const both = (plane: string): [Expr, Expr] => [
      cells.around(plane, 0, 0),
      cells.around(plane, dx, dy),
    ];
    const [here, other] = both(`change.${axis}`);
    const next = cells.load(name).add(here.add(other).mul(0.5));
    // What is no number comes to rest.
    const sound = next.eq(next).select(next.max(-FASTEST).min(FASTEST), 0);
    let closed: Expr = g.float(0);
    if (walls) {
      const [solid, beside] = both('solid');
      const [own, others] = both(`wall.${axis}`);
      closed = solid.gt(0.5).select(own, beside.gt(0.5).select(others, closed));
    }
    const open = cells.load(`open.${axis}`).gt(0.5);
    g.store(name, open.select(sound, closed), faceMask(cells, axis));
  }
  return builder;
}
