import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import type { DialReader } from '../../../language/dialReader';
import { memo } from '../../../stock/memo';
import { aliasOf, type Alias } from '../../../stock/places/alias';
import { lettersOfSegments } from '../../../stock/places/letters';
import { evenPlaces, lengthOf, segmentsOf } from '../../../stock/places/along';
import type { Outline } from '../../../stock/types';
import { choice, number, stockDial } from '../../../language/dials';
import { emitter } from '../../define';
import { NOTHING_CHOSEN } from './nothingChosen';
import { pickRow, placeInTurn } from './order';

const dials = {
  outline: stockDial(
    'Outline',
    ['outline'],
    'The line: from an SVG file, drawn with the pen, or words.',
  ),
  size: number('Scale', 1, [0.0001, 10_000], 'Of the line.', {
    varies: 'never',
    drag: 'log',
  }),
  placing: choice(
    'Placing',
    'random',
    { random: 'At random', even: 'Evenly' },
    'Evenly divides the line by its length.',
  ),
  places: number('Places', 200, [1, 100_000], 'Places along the line when placed evenly.', {
    whole: true,
    when: { dial: 'placing', is: ['even'] },
  }),
  extrude: number('Depth', 0, [0, 1000], 'Spreads the line into a wall, along z.', { unit: 'm' }),
  pace: number('Creeping', 0, [-1000, 1000], 'Speed along the line while it lives.', {
    unit: 'm/s',
    varies: 'birth',
  }),
};
type Reader = DialReader<typeof dials>;

/** Segments by their lengths: those of a short curve are shorter. */
function segmentsByLength(outline: Outline): Alias {
  return memo(outline, 'segments by length', () => aliasOf(segmentsOf(outline).length));
}

/** The place on the outline, in segments from its beginning, where the particle is born. */
function startOf(dial: Reader, outline: Outline): Expr {
  if (dial.choice('placing') === 'random') {
    const row = pickRow(dial, segmentsByLength(outline));
    return row.toFloat().add(dial.random('place'));
  }
  const places = dial.plain('places');
  return dial.block(evenPlaces(outline, places), placeInTurn(dial, places));
}

/** The number of the segment that a place on the outline is in. */
function segmentAt(dial: Reader, outline: Outline, at: Expr): Expr {
  const last = dial.constant('lastSegment', segmentsOf(outline).count - 1, 'i32');
  return at.floor().toInt().max(0).min(last);
}

interface Spot {
  position: Vec3;
  tangent: Vec3;
}

/** Reads the outline at a place in segments. */
function spotAt(dial: Reader, outline: Outline, at: Expr): Spot {
  const segments = segmentsOf(outline);
  const segment = segmentAt(dial, outline, at);
  const t = at.sub(segment.toFloat());
  const sample = dial.block(segments.sample, segment, 'i32');
  const ends = segments.points.map((values) => {
    const read = (i: Expr): Expr => dial.block(values, i);
    return [read(sample), read(sample.add(1))] as const;
  });
  const point = (axis: number): Expr => mix(ends[axis]![0], ends[axis]![1], t);
  const way = (axis: number): Expr => ends[axis]![1].sub(ends[axis]![0]);
  return {
    position: new Vec3(point(0), point(1), point(2)),
    tangent: new Vec3(way(0), way(1), way(2)).unit(),
  };
}

/** Where a particle that creeps has come to after `seconds`; it goes round, or begins again. */
function creptTo(dial: Reader, outline: Outline, start: Expr, seconds: Expr): Expr {
  const segments = segmentsOf(outline);
  const segment = segmentAt(dial, outline, start);
  const read = (field: 'first' | 'curveCount' | 'length'): Expr =>
    dial.block(segments[field], segment);
  const [first, count] = [read('first'), read('curveCount')];
  const way = dial.number('pace').mul(seconds).div(read('length').max(1e-9));
  const along = start.sub(first).add(way);
  const turns = along.div(count).floor();
  return along.sub(turns.mul(count)).clamp(0, count.sub(1e-3)).add(first);
}

export const outline = emitter({
  kind: 'outline',
  title: 'Outline',
  help: 'Particles start on a drawn line, and can creep along it.',
  icon: 'M4 18c0-8 5-2 8-7s-4-7 0-7s8 4 8 9s-4 7-8 6',
  dials,
  places({ outline: chosen, placing, places, size }, stock) {
    const line = stock(chosen);
    if (line?.type !== 'outline' || placing !== 'even') return null;
    return {
      count: places,
      spacing: () => (lengthOf(line) * size) / places,
      coloured: false,
    };
  },
  whyNoBirths: ({ outline: chosen }) => (chosen ? null : NOTHING_CHOSEN),
  build(dial) {
    const g = dial.graph;
    const zero = g.float(0);
    const line = dial.stock('outline');
    if (line?.type !== 'outline') {
      const none = new Vec3(zero, zero, zero);
      return { position: none, normal: none, there: zero.gt(0) };
    }
    const start = startOf(dial, line);
    const { position, tangent } = spotAt(dial, line, start);
    const deep = dial.random('depth');
    const depth = deep.sub(0.5).mul(dial.number('extrude'));
    const scaled = position.scale(dial.plain('size'));
    // In the plane of the line, to its right; lines that go along z have none of their own.
    const side = new Vec3(tangent.y, tangent.x.neg(), zero);
    const flat = side.dot(side).gt(1e-8);
    const out = side.unit();
    const normal = new Vec3(flat.select(out.x, g.float(1)), flat.select(out.y, zero), zero);
    const place = new Vec3(scaled.x, scaled.y, scaled.z.add(depth));
    // Segments are about equally long.
    const along = start.mul(dial.constant('whole', 1 / segmentsOf(line).count));
    const letters = lettersOfSegments(line);
    return {
      position: place,
      normal,
      tangent,
      surface: [along, deep],
      ...(letters ? { letter: dial.block(letters, segmentAt(dial, line, start)) } : {}),
    };
  },
  hold(dial, { age, step }) {
    const line = dial.stock('outline');
    if (line?.type !== 'outline' || dial.raw('pace') === 0) return null;
    const start = startOf(dial, line);
    const size = dial.plain('size');
    const at = (seconds: Expr): Vec3 =>
      spotAt(dial, line, creptTo(dial, line, start, seconds.div(size))).position;
    const from = age.max(0);
    return { carry: at(from.add(step)).sub(at(from)).scale(size) };
  },
});
