import { Vec3, type Expr } from '@vast-swarm/kernel';
import { luminance } from '../feeds/luminance';
import { MAP_PLANE, type ColourMapFeed, type MapChannel, type MapFeed } from '../feeds/map';
import type { BirthScope, KernelBuilder } from './builder';
import { partOf, type Name } from './names';
import type { ParticleInputs } from './particle';
import { pictureSample, pixelAt, sampledSize, type PictureSample } from './pictureSample';

/** The reader of dials that maps need. */
export interface MapReader {
  readonly builder: KernelBuilder;
  readonly particle: ParticleInputs | null;
  placeColour(): Vec3;
  keep(name: 'surface.x' | 'surface.y' | 'letter', find: (birth: BirthScope) => Expr): Expr;
}

/** A number that a map gives for the particle; `from` where there is nothing to look it up in. */
export function mapNumber(dial: MapReader, name: Name, feed: MapFeed): Expr {
  const { builder } = dial;
  const uniform = (part: string, value: number): Expr => builder.uniform(partOf(name, part), value);
  const from = uniform('from', feed.from);
  const sample = sampleOf(dial, name, feed);
  if (!sample) return from;
  const { low = 0, high = 1 } = feed;
  const scale = uniform('scale', (feed.to - feed.from) / (high - low || 1e-6));
  const value = channelOf(feed.channel ?? 'brightness', sample);
  const kept = value
    .max(uniform('low', Math.min(low, high)))
    .min(uniform('high', Math.max(low, high)));
  return kept.sub(uniform('zero', low)).mul(scale).add(from);
}

/** The linear light that a map gives for the particle; none where there is nothing to look it up in. */
export function mapColour(dial: MapReader, name: Name, feed: ColourMapFeed): Vec3 {
  const zero = dial.builder.graph.float(0);
  const sample = sampleOf(dial, name, feed);
  if (!sample) return new Vec3(zero, zero, zero);
  return sample.colour.scale(dial.builder.uniform(partOf(name, 'light'), feed.light ?? 1));
}

/**
 * A picture's brightness for formulas: where the particle was born on its emitter, or at a place, 0 to 1 from the
 * left and the top, again beyond it. 0 where there is nothing to look it up in.
 */
export function mapAt(dial: MapReader, id: string, at: readonly [Expr, Expr] | null): Expr {
  const { builder } = dial;
  const picture = builder.scene.shown(id);
  const place = picture && (at ?? bornOn(dial));
  if (!place) return builder.graph.float(0);
  const { width, height } = sampledSize(picture);
  const [x, y] = place.map((v) => inside(v, 'again')) as [Expr, Expr];
  return channelOf(
    'brightness',
    pictureSample(builder, picture, pixelAt(x, width), pixelAt(y, height)),
  );
}

/** Of straight light, so that what is half there is no darker. */
function channelOf(channel: MapChannel, { colour, opacity }: PictureSample): Expr {
  if (channel === 'alpha') return opacity;
  const straight = colour.scale(opacity.graph.float(1).div(opacity.max(1e-4)));
  const { x, y, z } = straight;
  const [most, least] = [x.max(y).max(z), x.min(y).min(z)];
  const apart = most.sub(least);
  switch (channel) {
    case 'brightness':
      return luminance(straight).mul(opacity);
    case 'red':
      return colour.x;
    case 'green':
      return colour.y;
    case 'blue':
      return colour.z;
    case 'saturation':
      return apart.div(most.max(1e-6));
    case 'hue': {
      // Sixths of a turn from red over green and blue (A. R. Smith, "Color gamut transform pairs", 1978).
      const by = apart.graph.float(1).div(apart.max(1e-6));
      const green = z.sub(x).mul(by).add(2);
      const blue = x.sub(y).mul(by).add(4);
      const red = y.sub(z).mul(by);
      const sixths = most.le(x).select(red, most.le(y).select(green, blue));
      const turn = sixths.mul(1 / 6);
      return turn.sub(turn.floor());
    }
  }
}

function sampleOf(
  dial: MapReader,
  name: Name,
  feed: MapFeed | ColourMapFeed,
): PictureSample | null {
  const { builder, particle } = dial;
  const g = builder.graph;
  if (feed.source === 'colour') {
    const colour = particle?.birthplace?.colour ?? dial.placeColour();
    return { colour, opacity: g.float(1) };
  }
  const picture = builder.scene.shown(feed.picture ?? '');
  const place = picture && placeOf(dial, name, feed);
  if (!place) return null;
  const { width, height } = sampledSize(picture);
  const [across, down] = feed.repeat ?? [1, 1];
  const shift = dial.particle?.repeat?.shift;
  const within = (at: Expr, part: string, times: number, axis: 0 | 1): Expr => {
    const placed = at.mul(builder.uniform(partOf(name, part), times));
    return inside(shift ? placed.add(shift[axis]) : placed, feed.edge ?? 'again');
  };
  return pictureSample(
    builder,
    picture,
    pixelAt(within(place[0], 'across', across, 0), width),
    pixelAt(within(place[1], 'down', down, 1), height),
  );
}

/** A coordinate brought to 0 to 1. */
function inside(at: Expr, edge: 'again' | 'mirrored' | 'edge'): Expr {
  if (edge === 'edge') return at.clamp(0, 1);
  if (edge === 'again') return at.sub(at.floor());
  const half = at.mul(0.5);
  const pair = half.sub(half.floor()).mul(2);
  return at.graph.float(1).sub(pair.sub(1).abs());
}

/** Along and around what the particle was born on; of all its repeats, where they run on. */
function bornOn(dial: MapReader): readonly [Expr, Expr] | null {
  const { particle } = dial;
  if (particle?.birthplace) return particle.birthplace.surface;
  if (!particle?.kept) return null;
  const born: [Expr, Expr] = [
    dial.keep('surface.x', ({ surface }) => surface[0]),
    dial.keep('surface.y', ({ surface }) => surface[1]),
  ];
  return particle.repeat?.surface(born) ?? born;
}

/** Where in the picture a particle is looked up, 0 to 1 from the left and from the top; null where it has no place. */
function placeOf(
  dial: MapReader,
  name: Name,
  { by, plane = MAP_PLANE }: MapFeed | ColourMapFeed,
): readonly [Expr, Expr] | null {
  const { builder, particle } = dial;
  if (!particle) return null;
  if (by === 'screen') {
    const middle = builder.graph.float(0.5);
    const now = particle.readings?.position;
    return now && builder.onScreen ? [...builder.onScreen(now)] : [middle, middle];
  }
  if (by !== 'plane') return bornOn(dial);
  const position = particle.birthplace?.position ?? particle.readings?.position;
  if (!position) return null;
  const [tx, ty] = plane.turn.map((degrees) => (degrees * Math.PI) / 180) as [number, number];
  const [cx, sx, cy, sy] = [Math.cos(tx), Math.sin(tx), Math.cos(ty), Math.sin(ty)];
  const vector = (part: string, value: [number, number, number]): Vec3 =>
    builder.vector(partOf(name, part), value);
  const offset = position.sub(vector('centre', plane.centre));
  const across = vector('right', [cy / plane.width, 0, -sy / plane.width]);
  const up = vector('up', [(sx * sy) / plane.height, cx / plane.height, (sx * cy) / plane.height]);
  return [offset.dot(across).add(0.5), builder.graph.float(0.5).sub(offset.dot(up))];
}
