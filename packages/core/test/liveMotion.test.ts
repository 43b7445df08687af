import { bvhOf, motionTable } from '@vast-swarm/core/formats';
import {
  castMember,
  LiveMotion,
  made,
  placesAt,
  readStock,
  type CastMember,
  type Motion,
  type Performing,
} from '@vast-swarm/core/stock';
import { kindOf } from '@vast-swarm/core/kinds';
import { makePart } from '@vast-swarm/core/piece';
import { Scene } from '@vast-swarm/core/plan';
import { smallPiece } from '../../../tests/support/pieces';

const bytes = (parts: Iterable<string>): Uint8Array =>
  new TextEncoder().encode([...parts].join(''));

const CAST: CastMember[] = [
  {
    name: 'Ada',
    joints: [-1, 0, 1, 1].map((parent, i) => ({ name: `joint ${String(i)}`, parent })),
  },
  {
    name: 'Bo, the "other"',
    joints: [-1, 0].map((parent, i) => ({ name: `j${String(i)}`, parent })),
  },
];

/** How they all stand in a frame. */
const poseAt = (frame: number): Float32Array =>
  Float32Array.from({ length: 18 }, (_, i) => Math.sin(1.7 * frame + 0.9 * i) * (1 + i / 7));

function performing(
  rate: number,
  dials: Record<string, unknown>,
  from: { live: LiveMotion } | { take: Motion },
): Performing {
  const part = makePart('performers', 'live', []);
  Object.assign(part.dials, { take: 'take', ...dials });
  const kind = kindOf('performers', 'live');
  const stock = (): Motion | undefined => ('take' in from ? from.take : undefined);
  return kind.performing(part.dials, {
    rate,
    stock,
    live: 'live' in from ? from.live : undefined,
  })!;
}

test.each([24, 25, 30, 50, 60])(
  'what was seen live is what the take gives, bit for bit, at %i frames a second',
  async (rate) => {
    const start = 7;
    const live = new LiveMotion(CAST, poseAt(start), rate, start);
    const dials = { scale: 1.3, facing: 40, across: 0.7, above: 0.2, thickness: 2 };
    const before = performing(rate, dials, { live });
    const seen: [number, Float32Array][] = [];
    for (let frame = start; frame < start + 50; frame++) {
      if (frame > start) live.append(poseAt(frame));
      // All that a frame may read: since the frame before, and as far ahead as signals look.
      for (let k = 0; k <= 8; k++) {
        const time = (frame + k / 8) / rate;
        seen.push([time, before.at(time)]);
      }
      seen.push([(frame + 1) / rate + 1 / 240, before.at((frame + 1) / rate + 1 / 240)]);
    }
    const take = (await readStock('take.csv', bytes(motionTable(live.end())))) as Motion;
    const after = performing(rate, { ...dials, start }, { take });
    expect(after.joints).toEqual(before.joints);
    expect(after.bones).toEqual(before.bones);
    for (const [time, places] of seen) expect([time, after.at(time)]).toEqual([time, places]);
    expect(new Set(seen.map(([, p]) => p.join())).size).toBeGreaterThan(100);
  },
);

test('it tells from when on it is another, and what reads a signal of it sees that', () => {
  const live = new LiveMotion(CAST, poseAt(0), 30, 10);
  expect(live.changedFrom(live.changes)).toBe(Infinity);
  live.append(poseAt(1));
  live.append(poseAt(2));
  // Between the first pose and the second.
  expect(live.changedFrom(1)).toBeCloseTo(11 / 30 + 2 / 240, 9);
  const piece = smallPiece((p) => {
    p.performers = [{ ...makePart('performers', 'live', []), id: 'them' }];
    const height = { ...makePart('signals', 'joint', []), id: 'height' };
    Object.assign(height.dials, {
      performer: 'them',
      joint: ['Ada joint 1'],
      measure: 'speed',
      to: 50,
    });
    p.signals = [height];
  });
  const scene = new Scene(piece, new Map(), new Map([['them', live]]));
  const at = 13 / 30;
  const speed = scene.signal('height', at);
  expect(speed).toBeGreaterThan(0);
  // What comes later changes nothing of what was measured.
  live.append(poseAt(50));
  expect(scene.signal('height', at)).toBe(speed);
});

test('who it hangs on is as was said, else as they stand; who would hang on themselves hang as they stand', () => {
  const places = Float32Array.of(0, 0, 0, 0, 1, 0, 0, 2, 0, 1, 2, 0);
  const names = ['a', 'b', 'c', 'd'];
  const parents = (bones: Record<string, string>): number[] =>
    castMember('Ada', names, bones, places).joints.map((j) => j.parent);
  expect(parents({ b: 'c', c: 'd' })).toEqual([-1, 2, 3, -1]);
  expect(parents({})).toEqual([-1, 0, 1, 2]);
  expect(parents({ a: 'b', b: 'a' })).toEqual([-1, 0, 1, 2]);
  expect(parents({ b: 'nobody', c: 'constructor' })).toEqual([-1, 0, 1, 2]);
});

test.each([
  ['0,A,b,0,0,0,a\n0,A,c,0,0,0,b', "line 2: there is no joint 'a'"],
  ['0,A,b,0,0,0,c\n0,A,c,0,0,0,b', "line 2: 'b' hangs on itself in the end"],
  ['0,A,b,0,0,0,b', "line 2: 'b' hangs on itself in the end"],
])('a table whose joints hang wrongly is refused: %s', async (rows, message) => {
  const text = `time,performer,joint,x,y,z,parent\n${rows}`;
  await expect(readStock('take.csv', bytes([text]))).rejects.toThrow(message);
});

/** Joints of a BVH file worked out from its text by plain matrices, by name. */
function forward(text: string): Map<string, number[][]> {
  const [head, motion] = text.split('MOTION\n') as [string, string];
  const frames = motion
    .trim()
    .split('\n')
    .slice(2)
    .map((l) => l.trim().split(/\s+/).map(Number));
  interface Node {
    name: string;
    parent: Node | null;
    offset: number[];
    channels: string[];
  }
  const nodes: Node[] = [];
  const open: (Node | null)[] = [];
  let next: Node | null = null;
  for (const line of head.split('\n').map((l) => l.trim().split(/\s+/))) {
    const [word, ...rest] = line;
    if (word === 'ROOT' || word === 'JOINT' || word === 'End') {
      next = {
        name: word === 'End' ? '' : rest[0]!,
        parent: open.at(-1) ?? null,
        offset: [],
        channels: [],
      };
      nodes.push(next);
    } else if (word === '{') open.push(next);
    else if (word === '}') open.pop();
    else if (word === 'OFFSET') next!.offset = rest.map(Number);
    else if (word === 'CHANNELS') next!.channels = rest.slice(1);
  }
  const turned = (m: number[][], axis: string, degrees: number): number[][] => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const t = {
      X: [
        [1, 0, 0],
        [0, c, -s],
        [0, s, c],
      ],
      Y: [
        [c, 0, s],
        [0, 1, 0],
        [-s, 0, c],
      ],
      Z: [
        [c, -s, 0],
        [s, c, 0],
        [0, 0, 1],
      ],
    }[axis]!;
    return m.map((row) => [0, 1, 2].map((j) => row.reduce((sum, v, k) => sum + v * t[k]![j]!, 0)));
  };
  const found = new Map<string, number[][]>();
  for (const numbers of frames) {
    const world = new Map<Node, { at: number[]; m: number[][] }>();
    let read = 0;
    for (const node of nodes) {
      const above = node.parent && world.get(node.parent)!;
      let m = above?.m ?? [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ];
      const at = m.map(
        (row, i) => (above?.at[i] ?? 0) + row.reduce((sum, v, k) => sum + v * node.offset[k]!, 0),
      );
      for (const channel of node.channels) {
        const value = numbers[read++]!;
        if (channel.endsWith('position')) at['XYZ'.indexOf(channel[0]!)]! += value;
        else m = turned(m, channel[0]!, value);
      }
      world.set(node, { at, m });
      if (node.name) found.set(node.name, [...(found.get(node.name) ?? []), at]);
    }
    expect(read).toBe(numbers.length);
  }
  return found;
}

test('a motion as BVH: each joint is where it was, for two independent readers, as far as bones are rigid', async () => {
  const motion = made('pierDancers') as Motion;
  for (const performer of motion.performers) {
    const count = performer.joints.length;
    const short = { ...performer, places: performer.places.slice(0, 3 * count * 200) };
    const times = motion.times.slice(0, 200);
    const text = [...bvhOf(short, times)].join('');
    const ours = forward(text);
    const read = (await readStock('take.bvh', bytes([text]))) as Motion;
    const [other] = read.performers;
    let worst = 0;
    for (let k = 0; k < 200; k += 7) {
      const places = new Float32Array(3 * other!.joints.length);
      placesAt(read, other!, k * read.times[1]!, places);
      performer.joints.forEach(({ name }, i) => {
        const word = name.replaceAll(' ', '_');
        const j = other!.joints.findIndex((o) => o.name === word);
        for (let axis = 0; axis < 3; axis++) {
          const wanted = short.places[3 * (k * count + i) + axis]!;
          expect(places[3 * j + axis]).toBeCloseTo(ours.get(word)![k]![axis]!, 4);
          worst = Math.max(worst, Math.abs(ours.get(word)![k]![axis]! - wanted));
        }
      });
    }
    expect(worst).toBeLessThan(RIGID);
    expect(read.times).toHaveLength(200);
    expect(read.times[199]).toBeCloseTo(times[199]!, 5);
  }
});
/** Metres by which bones of the made dancers are longer and shorter, added up along a limb. */
const RIGID = 0.02;

test('joints with several roots, without length, and alone are written as BVH that can be read', async () => {
  const performer = {
    name: 'odd',
    joints: [-1, 0, -1, 2].map((parent, i) => ({ name: `j ${String(i)}`, parent })),
    places: Float32Array.of(0, 0, 0, 0, 0, 0, 1, 0, 0, 1, 2, 0),
  };
  const read = (await readStock('odd.bvh', bytes(bvhOf(performer, new Float64Array(1))))) as Motion;
  const at = (name: string): number[] => {
    const { joints, places } = read.performers[0]!;
    const i = 3 * joints.findIndex((j) => j.name === name);
    return [...places.slice(i, i + 3)];
  };
  expect(at('j_3')).toEqual([1, 2, 0].map((v) => expect.closeTo(v, 5) as number));
  expect(at('j_1')).toEqual([0, 0, 0]);
  const alone = {
    name: 'alone',
    joints: [{ name: 'a', parent: -1 }],
    places: Float32Array.of(1, 2, 3),
  };
  await expect(readStock('a.bvh', bytes(bvhOf(alone, new Float64Array(1))))).resolves.toBeTruthy();
});
