import { curlNoise, mix, Vec3, type Expr } from '@vast-swarm/kernel';
import type { DialReader } from '../../../language/dialReader';
import { rangeOf } from '../../../feeds/feeds';
import { spacingOf } from '../../../stock/places/spacing';
import { matched, sample } from '../../../stock/places/match';
import type { StockData } from '../../../stock/types';
import { choice, number, stockDial } from '../../../language/dials';
import { NOTHING_CHOSEN } from './nothingChosen';
import { placeInTurn } from './order';
import { nowhere } from './mesh';
import { emitter } from '../../define';

const NUMBERS = [1, 2, 3, 4] as const;

const shape = (n: number) =>
  stockDial(
    `Shape ${String(n)}`,
    ['mesh', 'picture', 'cloud', 'outline'],
    'A shape on the way; those left empty are passed over.',
  );
const size = (n: number) =>
  number(`Scale ${String(n)}`, 1, [0.0001, 10_000], 'Scale of the shape.', {
    drag: 'log',
    when: { dial: `shape${String(n)}`, not: '' },
  });
const shapes = { shape1: shape(1), shape2: shape(2), shape3: shape(3), shape4: shape(4) };
const sizes = { size1: size(1), size2: size(2), size3: size(3), size4: size(4) };

const dials = {
  ...shapes,
  amount: number(
    'Amount',
    0,
    [0, NUMBERS.length - 1],
    '0 the first shape, 1 the second, and so on.',
  ),
  stagger: number('Stagger', 0.3, [0, 0.95], 'How much later the last start than the first.'),
  detour: number('Detour', 0.3, [0, 1000], 'How far swirls lead off the straight way.', {
    unit: 'm',
  }),
  swirl: number('Swirl size', 1, [0.001, 1000], 'Size of those swirls.', { unit: 'm' }),
  places: number('Places', 20_000, [1, 1_000_000], 'Places on each shape.', { whole: true }),
  hold: choice(
    'Held',
    'exactly',
    { exactly: 'Exactly', softly: 'Softly', free: 'Not after birth' },
    'Softly, forces lead particles off their places.',
  ),
  stiffness: number('Stiffness', 4, [0.01, 100], 'How soon a place is found again.', {
    unit: '1/s',
    when: { dial: 'hold', is: ['softly'] },
  }),
  ...sizes,
};
type Reader = DialReader<typeof dials>;

/** How far along its way a particle is: 0 at the first shape, 1 at the second, and so on. */
export function morphAmount(dial: Reader, count: number): Expr {
  const g = dial.graph;
  const last = dial.constant('last', Math.max(1, count - 1));
  const amount = dial.number('amount').max(0).min(last);
  const stagger = dial.number('stagger');
  const low = amount.floor().min(last.sub(1));
  const part = amount.sub(low);
  // Each pair's way is run in its own time: late ones start when the first have gone a bit.
  const late = dial.random('late').mul(stagger);
  const own = part.sub(late).div(g.float(1).sub(stagger).max(1e-3)).clamp(0, 1);
  // Eased at both ends; 0 and 1 stay exact.
  return low.add(own.mul(own).mul(g.float(3).sub(own.mul(2))));
}

function shapesOf(dial: Reader): StockData[] {
  return NUMBERS.map((n) => dial.stock(`shape${n}`)).filter((s) => s !== undefined);
}

interface Spot {
  place: Vec3;
  colour: Vec3 | null;
  letter: Expr | null;
}

function spotOf(own: Reader, found: StockData[]): Spot {
  const g = own.graph;
  const places = own.plain('places');
  const all = matched(found, places);
  const index = placeInTurn(own, places);
  const letters = all.letters.find((l) => l !== null);
  const letter = letters ? own.block(letters, index) : null;
  // Its dials may go by the letter, in whichever order the shapes come.
  const dial = letter ? own.onLetter(letter) : own;
  const amount = morphAmount(dial, found.length);
  const scales = found.map((_, i) => dial.number(`size${NUMBERS[i]!}`));
  const read = (kind: 'shapes' | 'colours', k: number): Vec3 => {
    const part = (axis: number): Expr => dial.block(all[kind][k]![axis]!, index);
    return new Vec3(part(0), part(1), part(2));
  };
  const low = amount.floor();
  const t = amount.sub(low);
  const way = (points: Vec3[]): Vec3 => {
    // The shape at the whole number below, then the one above it; ends come out exactly.
    let [from, to] = [points[0]!, points[Math.min(1, points.length - 1)]!];
    for (let k = 1; k < points.length; k++) {
      const there = low.ge(k);
      const next = points[Math.min(k + 1, points.length - 1)]!;
      [from, to] = [Vec3.select(there, points[k]!, from), Vec3.select(there, next, to)];
    }
    const part = (i: number): Expr => {
      const between = mix(from.parts[i]!, to.parts[i]!, t);
      return t.ge(1).select(to.parts[i]!, between);
    };
    return new Vec3(part(0), part(1), part(2));
  };
  const place = way(found.map((_, k) => read('shapes', k).scale(scales[k]!)));
  const coloured = all.colours.some((c) => c !== null);
  const white = new Vec3(g.float(1), g.float(1), g.float(1));
  const colour = coloured ? way(all.colours.map((c, k) => (c ? read('colours', k) : white))) : null;
  return { place: detoured(dial, place, t), colour, letter };
}

/** Off the straight way by curl noise, most in the middle and not at all at the ends. */
function detoured(dial: Reader, place: Vec3, t: Expr): Vec3 {
  if (dial.raw('detour') === 0) return place;
  const g = dial.graph;
  const weight = t.mul(g.float(1).sub(t)).mul(4).mul(dial.number('detour'));
  const point = place.scale(g.float(1).div(dial.number('swirl')));
  const phase = { cos: g.float(1), sin: g.float(0) };
  const sum = { octaves: g.int(2), persistence: g.float(0.5) };
  return place.add(curlNoise(point, dial.seed('detour'), phase, sum).scale(weight));
}

export const morph = emitter({
  kind: 'morph',
  title: 'Morph',
  help: 'Particles hold places on several shapes and travel between them.',
  icon: 'M4 5h6v6H4zM17 13a4 4 0 1 0 .01 0M11 11l3 3',
  dials,
  shownWhole: true,
  places({ places, shape1, size1 }, stock) {
    const first = stock(shape1);
    if (!first) return null;
    return {
      count: places,
      spacing: () => spacingOf(sample(first, places).points) * rangeOf(size1)[1],
      coloured: 'colours' in first || first.type === 'picture',
    };
  },
  whyNoBirths: ({ shape1 }) => (shape1 ? null : NOTHING_CHOSEN),
  build(dial) {
    const found = shapesOf(dial);
    if (found.length === 0) return nowhere(dial);
    const { place, colour, letter } = spotOf(dial, found);
    const normal = dial.randomDirection('normal');
    return {
      position: place,
      normal,
      ...(colour ? { colour } : {}),
      ...(letter ? { letter } : {}),
    };
  },
  hold(dial) {
    const found = shapesOf(dial);
    const held = dial.choice('hold');
    if (found.length === 0 || held === 'free') return null;
    // The amount at the end of the step, which is what the frame shows.
    const { place } = spotOf(dial.atMoment(1), found);
    return held === 'exactly' ? { place } : { place, softness: dial.number('stiffness') };
  },
  colour(dial) {
    const found = shapesOf(dial);
    return found.length > 0 ? spotOf(dial, found).colour : null;
  },
});
