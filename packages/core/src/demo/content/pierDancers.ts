import type { Joint, Motion, Performer } from '../../stock/types';

const [RATE, SECONDS] = [60, 16];

type Place = readonly [number, number, number];

const SIDES = ['left', 'right'] as const;
const TRUNK = [
  ['hips', ''],
  ['spine', 'hips'],
  ['neck', 'spine'],
  ['head', 'neck'],
] as const;
const LIMBS = [
  ['shoulder', 'neck'],
  ['elbow', 'shoulder'],
  ['hand', 'elbow'],
  ['hip', 'hips'],
  ['knee', 'hip'],
  ['ankle', 'knee'],
  ['toe', 'ankle'],
] as const;

const NAMES = [
  ...TRUNK.map(([name]) => name as string),
  ...SIDES.flatMap((side) => LIMBS.map(([name]) => `${side} ${name}`)),
];

function jointsOf(): Joint[] {
  const at = (name: string): number => NAMES.indexOf(name);
  return [
    ...TRUNK.map(([name, parent]) => ({ name, parent: at(parent) })),
    ...SIDES.flatMap((side) =>
      LIMBS.map(([name, parent]) => {
        const own = at(`${side} ${parent}`);
        return { name: `${side} ${name}`, parent: own >= 0 ? own : at(parent) };
      }),
    ),
  ];
}

function add(a: Place, b: Place, times = 1): Place {
  return [a[0] + b[0] * times, a[1] + b[1] * times, a[2] + b[2] * times];
}

function unit(a: Place): Place {
  const length = Math.hypot(...a) || 1;
  return [a[0] / length, a[1] / length, a[2] / length];
}

/** The joint between two others, each so far from it, on the side that a direction points to. */
function between(a: Place, c: Place, ab: number, bc: number, bend: Place): Place {
  const way = add(c, a, -1);
  const far = Math.min(Math.hypot(...way), (ab + bc) * 0.999);
  const along = unit(way);
  const part = (far * far + ab * ab - bc * bc) / (2 * far);
  const dot = along.reduce((sum, v, i) => sum + v * bend[i]!, 0);
  const side = unit(add(bend, along, -dot));
  return add(add(a, along, part), side, Math.sqrt(Math.max(0, ab * ab - part * part)));
}

/** One of two who dance round each other, at a part of a round, 0 to 1: all closes, and nothing jumps. */
function poseAt(round: number, who: number): Place[] {
  const wave = (times: number, late = 0): number =>
    Math.sin(2 * Math.PI * (times * round - late + 0.31 * who));
  // Round each other, near and far, each turned to where they go and to the other in turns.
  const angle = 2 * Math.PI * (round + who / 2);
  const from = 0.95 + 0.28 * wave(2);
  const base: Place = [1.15 * from * Math.cos(angle), 0, 0.7 * from * Math.sin(angle)];
  const facing = angle + Math.PI / 2 + 0.7 * wave(4, 0.1) + 2 * Math.PI * 2 * round;
  const ahead: Place = [Math.cos(facing), 0, Math.sin(facing)];
  const right: Place = [-Math.sin(facing), 0, Math.cos(facing)];
  const low = 0.09 * (1 + wave(8, 0.2));
  const hips = add(add(base, [0, 0.98 - low, 0]), right, 0.06 * wave(8));
  const lean = add(add([0, 1, 0], ahead, 0.12 + 0.16 * wave(4, 0.3)), right, 0.2 * wave(8, 0.15));
  const spine = add(hips, unit(lean), 0.27);
  const neck = add(spine, unit(add(lean, ahead, 0.1)), 0.29);
  const head = add(neck, unit(add(add(lean, ahead, 0.25), right, 0.25 * wave(4))), 0.24);
  const limbs = [-1, 1].flatMap((side, k) => {
    const shoulder = add(add(neck, right, 0.19 * side), [0, -0.05, 0]);
    // From hanging to high over the head, one arm after the other.
    const lift = 0.35 + 0.95 * wave(4, 0.27 * k) + 0.25 * wave(8, 0.4);
    const swing = 0.9 * wave(8, 0.5 * k);
    const out = add(add([0, Math.sin(lift), 0], right, side * Math.cos(lift)), ahead, 0.5 * swing);
    const elbow = add(shoulder, unit(out), 0.3);
    const bent = add(add(out, [0, 0.55 + 0.5 * wave(8, 0.3 + 0.5 * k), 0]), ahead, 0.6);
    const hand = add(elbow, unit(bent), 0.33);
    const hip = add(hips, right, 0.1 * side);
    const step = wave(16, 0.5 * k);
    const up = Math.max(0, wave(16, 0.5 * k + 0.25)) ** 2;
    const foot = add(add(base, right, (0.13 + 0.1 * low) * side), ahead, 0.26 * step);
    const ankle = add(foot, [0, 0.09 + 0.3 * up * (0.6 + 0.4 * wave(4, 0.2 * k)), 0]);
    const knee = between(hip, ankle, 0.46, 0.46, add(ahead, right, 0.25 * side));
    const toe = add(add(ankle, ahead, 0.15), [0, -0.06 + 0.02 * up, 0]);
    return [shoulder, elbow, hand, hip, knee, ankle, toe];
  });
  return [hips, spine, neck, head, ...limbs];
}

/** Two who dance round each other on the pier; the end leads over into the beginning. */
export function pierDancers(): Motion {
  const count = RATE * SECONDS + 1;
  const joints = jointsOf();
  const performers = ['Ada', 'Bo'].map((name, who): Performer => {
    const places = new Float32Array(3 * joints.length * count);
    for (let k = 0; k < count; k++) {
      places.set(poseAt(k / (count - 1), who).flat(), 3 * joints.length * k);
    }
    return { name, joints, places };
  });
  return {
    type: 'motion',
    times: Float64Array.from({ length: count }, (_, i) => i / RATE),
    performers,
  };
}
