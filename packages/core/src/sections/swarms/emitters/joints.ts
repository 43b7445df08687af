import { cos, sin, Vec3, type Expr } from '@vast-swarm/kernel';
import { choice, jointsDial, number, partDial } from '../../../language/dials';
import type { DialReader } from '../../../language/dialReader';
import { memo } from '../../../stock/memo';
import { boneRows, chosenBones, chosenJoints, type BoneRows } from '../../../stock/motion/chosen';
import { aliasOf, type Alias } from '../../../stock/places/alias';
import type { Performing } from '../../../stock/motion/performing';
import { emitter } from '../../define';
import type { Birthplace } from '../../kinds';
import { pickRow } from './order';
import { jointReader, jointsThere } from '../../../language/jointTrack';
import { frameAround } from './frame';
import { nowhere } from './mesh';

const dials = {
  performer: partDial('Performer', 'performers', 'Whose joints they start from.'),
  from: choice(
    'From',
    'bones',
    { joints: 'Joints', bones: 'Bones', surface: 'The body' },
    'Places of joints; along bones, evenly by length; over a body of capsules round them, evenly by area.',
  ),
  joints: jointsDial(
    'Which joints',
    'performer',
    'Those that count, and bones between them; none is all.',
  ),
  girth: number('Girth', 1, [0, 20], 'How thick the body is round its bones.', {
    when: { dial: 'from', is: ['surface'] },
  }),
  jitter: number('Jitter', 0, [0, 1000], 'How far round the place, at random.', { unit: 'm' }),
  share: number(
    'Takes along',
    0.5,
    [-10, 10],
    "The part of the joint's velocity that it starts with.",
  ),
  stays: choice(
    'Stays',
    'free',
    { free: 'Goes free', bound: 'Bound to its joint' },
    'Bound, it is where its joint is as long as it lives.',
  ),
};
type Reader = DialReader<typeof dials>;

/** Bones or joints to pick from, as rows, with the weight of each. */
interface Rows extends BoneRows {
  alias: Alias;
}

function rowsOf(performing: Performing, by: 'joints' | 'bones' | 'surface', names: string[]): Rows {
  return memo(performing, `rows ${by} ${names.join('\n')}`, () => {
    const bones =
      by === 'joints'
        ? chosenJoints(performing, names).map((j) => ({ from: j, to: j, radius: 0, length: 1 }))
        : chosenBones(performing, names);
    const weights = bones.map(({ length, radius }) =>
      by === 'surface' ? 2 * Math.PI * radius * (length + 2 * radius) : length,
    );
    return { alias: aliasOf(weights), ...boneRows(bones) };
  });
}

interface Spot {
  position: Vec3;
  normal: Vec3;
  tangent: Vec3;
  /** Along the bone and around it, 0 to 1. */
  surface: [Expr, Expr];
}

/** Where the particle's own place is, with both ends of its bone. */
function spotOn(dial: Reader, rows: Rows, row: Expr, a: Vec3, b: Vec3): Spot {
  const g = dial.graph;
  const way = b.sub(a);
  const length = way.length();
  const still = length.lt(1e-6);
  const up = new Vec3(g.float(0), g.float(1), g.float(0));
  const tangent = Vec3.select(still, up, way.unit());
  const { u: right, v: front } = frameAround(tangent);
  const around = dial.random('around');
  const angle = around.mul(2 * Math.PI);
  const out = right.scale(cos(angle)).add(front.scale(sin(angle)));
  const along = dial.random('along');
  if (dial.choice('from') !== 'surface') {
    return { position: a.add(way.scale(along)), normal: out, tangent, surface: [along, around] };
  }
  // A sphere has as much area between two heights as the cylinder round it (Archimedes): even along the whole axis.
  const radius = dial.block(rows.radius, row).mul(dial.number('girth'));
  const high = along.mul(length.add(radius.mul(2))).sub(radius);
  const within = high.clamp(0, length);
  const beyond = high.sub(within).div(radius.max(1e-9));
  const normal = out
    .scale(g.float(1).sub(beyond.mul(beyond)).max(0).sqrt())
    .add(tangent.scale(beyond));
  const position = a.add(tangent.scale(within)).add(normal.scale(radius));
  return { position, normal, tangent, surface: [along, around] };
}

/** Both ends of a particle's bone, at the end of the frame or before it. */
function endsOf(dial: Reader, performing: Performing, rows: Rows) {
  const row = pickRow(dial, rows.alias);
  const read = jointReader(dial, performing);
  const [from, to] = [dial.block(rows.from, row, 'i32'), dial.block(rows.to, row, 'i32')];
  return {
    row,
    at: (set: 'now' | 'before'): [Vec3, Vec3] => [read(from, set), read(to, set)],
  };
}

/** How far round its place a particle is. */
function jitterOf(dial: Reader): Vec3 {
  if (dial.raw('jitter') === 0) {
    const zero = dial.graph.float(0);
    return new Vec3(zero, zero, zero);
  }
  // Even by volume over a ball: the largest of three even numbers goes as the cube root.
  const far = ['jitter.a', 'jitter.b', 'jitter.c']
    .map((purpose) => dial.random(purpose))
    .reduce((a, b) => a.max(b));
  return dial.randomDirection('jitter').scale(far.mul(dial.number('jitter')));
}

export const joints = emitter({
  kind: 'joints',
  title: 'Joints',
  help: 'Particles start from the joints, the bones or the body of a performer, and can stay there.',
  icon: 'M12 3.5a1.6 1.6 0 1 0 .01 0M12 8v6M6.5 9.5L12 8l5.5 1.5M12 14l-3.5 6M12 14l3.5 6M4 12h.01M20 12h.01M6 20h.01M18 20h.01',
  dials,
  whyNoBirths(dials, piece) {
    const performer = piece.performer(dials.performer);
    if (!performer) return 'It is born of a performer, and none is chosen.';
    const { name, on, moves } = performer;
    if (!on) return `It is born of ${name}, who is switched off.`;
    return moves ? null : `It is born of ${name}, who has no motion: choose or record one.`;
  },
  build(dial): Birthplace {
    const performing = dial.performer('performer');
    if (!performing) return nowhere(dial);
    const rows = rowsOf(performing, dial.choice('from'), dial.raw('joints'));
    if (rows.radius.length === 0) return nowhere(dial);
    const { row, at } = endsOf(dial, performing, rows);
    const [now, before] = [at('now'), at('before')];
    const { born } = dial.particle!;
    const end = (i: 0 | 1): Vec3 => Vec3.mix(before[i], now[i], born!);
    const spot = spotOn(dial, rows, row, end(0), end(1));
    const [last, first] = [now, before].map(([a, b]) => spotOn(dial, rows, row, a, b));
    const velocity = last!.position.sub(first!.position).scale(dial.number('share').mul(dial.rate));
    const there = jointsThere(dial, performing);
    return { ...spot, position: spot.position.add(jitterOf(dial)), velocity, there };
  },
  hold(dial) {
    const performing = dial.performer('performer');
    if (!performing || dial.choice('stays') === 'free') return null;
    const rows = rowsOf(performing, dial.choice('from'), dial.raw('joints'));
    if (rows.radius.length === 0) return null;
    const { row, at } = endsOf(dial, performing, rows);
    return { place: spotOn(dial, rows, row, ...at('now')).position.add(jitterOf(dial)) };
  },
});
