import { Document, WebIO } from '@gltf-transform/core';
import { readStock, type Mesh, type Motion } from '@vast-swarm/core/stock';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

type Matrix = readonly number[];

/** Rows of a turn about one axis. */
function turn(axis: string, degrees: number): Matrix {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  if (axis === 'X') return [1, 0, 0, 0, c, -s, 0, s, c];
  if (axis === 'Y') return [c, 0, s, 0, 1, 0, -s, 0, c];
  return [c, -s, 0, s, c, 0, 0, 0, 1];
}

const row = (m: Matrix, i: number): Matrix => m.slice(3 * i, 3 * i + 3);
const dot = (a: Matrix, b: Matrix): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

function times(a: Matrix, b: Matrix): Matrix {
  return [0, 1, 2].flatMap((i) =>
    [0, 1, 2].map((j) => dot(row(a, i), [b[j]!, b[3 + j]!, b[6 + j]!])),
  );
}

const apply = (m: Matrix, v: Matrix): number[] => [0, 1, 2].map((i) => dot(row(m, i), v));

/** A chain with a branch: joints by name with their parents, offsets and the order of their turns. */
const JOINTS = [
  { name: 'root', parent: -1, offset: [0, 0, 0], order: 'ZXY' },
  { name: 'spine', parent: 0, offset: [1, 12, -2], order: 'XYZ' },
  { name: 'arm', parent: 1, offset: [9, 4, 0.5], order: 'YXZ' },
  { name: 'arm end', parent: 2, offset: [0, -11, 1], order: '' },
  { name: 'leg', parent: 0, offset: [-3, -20, 0], order: 'ZYX' },
  { name: 'leg end', parent: 4, offset: [0, -21, 4], order: '' },
];

/** What a channel has in a frame. */
const angle = (joint: number, channel: number, frame: number): number =>
  70 * Math.sin(1.3 * joint + 2.1 * channel + 0.37 * frame);
const place = (frame: number): number[] => [0.5 * frame, 90 + Math.cos(frame), -3 * frame];

function bvhOf(frames: number): string {
  const lines = ['HIERARCHY'];
  const write = (joint: number, depth: number): void => {
    const { name, parent, offset, order } = JOINTS[joint]!;
    const pad = '\t'.repeat(depth);
    const title = parent < 0 ? `ROOT ${name}` : order ? `JOINT ${name}` : 'End Site';
    lines.push(`${pad}${title}`, `${pad}{`, `${pad}\tOFFSET ${offset.join(' ')}`);
    const turns = Array.from(order, (axis) => `${axis}rotation`);
    const all = parent < 0 ? ['Xposition', 'Yposition', 'Zposition', ...turns] : turns;
    if (order) lines.push(`${pad}\tCHANNELS ${String(all.length)} ${all.join(' ')}`);
    JOINTS.forEach((j, i) => {
      if (j.parent === joint) write(i, depth + 1);
    });
    lines.push(`${pad}}`);
  };
  write(0, 0);
  lines.push('MOTION', `Frames: ${String(frames)}`, 'Frame Time: 0.0083333');
  for (let frame = 0; frame < frames; frame++) {
    const turns = JOINTS.flatMap((j, i) => Array.from(j.order, (_, c) => angle(i, c, frame)));
    lines.push([...place(frame), ...turns].map((v) => v.toFixed(6)).join(' '));
  }
  return lines.join('\r\n');
}

/** Where a joint is in a frame, worked out from the root by matrices. */
function forward(joint: number, frame: number): { at: number[]; turned: Matrix } {
  const { parent, offset, order } = JOINTS[joint]!;
  const own = Array.from(order).reduce<Matrix>(
    (m, axis, c) => times(m, turn(axis, angle(joint, c, frame))),
    [1, 0, 0, 0, 1, 0, 0, 0, 1],
  );
  if (parent < 0) return { at: place(frame), turned: own };
  const above = forward(parent, frame);
  const at = apply(above.turned, offset).map((v, i) => v + above.at[i]!);
  return { at, turned: times(above.turned, own) };
}

test('BVH: every joint is where a forward calculation has it, in all orders of turns', async () => {
  // More frames than are read in one go.
  const motion = (await readStock('walk.bvh', bytes(bvhOf(1300)))) as Motion;
  const [who] = motion.performers;
  expect(who!.joints.map((j) => [j.name, j.parent])).toEqual(JOINTS.map((j) => [j.name, j.parent]));
  expect(motion.times).toHaveLength(1300);
  expect(motion.times[10]).toBeCloseTo(0.083333, 9);
  for (const frame of [0, 1, 7, 999, 1000, 1001, 1299]) {
    JOINTS.forEach((_, joint) => {
      const found = who!.places.subarray(3 * (frame * JOINTS.length + joint)).subarray(0, 3);
      forward(joint, frame).at.forEach((v, axis) => {
        // A millionth of the 4,000 units that it reaches, in numbers of single precision.
        expect(Math.abs(found[axis]! - v)).toBeLessThan(Math.max(1e-4, 1e-6 * Math.abs(v)));
      });
    });
  }
});

const WHOLE = bvhOf(3);
const lineOf = (text: string, part: string): number =>
  text.split('\r\n').findIndex((l) => l.includes(part)) + 1;

test.each([
  ['no frames', WHOLE.replace('Frames: 3', 'Frames: 0'), /line \d+: there are no frames in it/],
  [
    'cut off',
    WHOLE.slice(0, WHOLE.lastIndexOf('\r\n')),
    /there are 2 of 3 frames; the file is cut off/,
  ],
  ['no motion', WHOLE.slice(0, WHOLE.indexOf('MOTION')), /it ends before its motion/],
  ['NaN', WHOLE.replace(/-?\d+\.\d+$/, 'NaN'), /'NaN' is no number/],
  [
    'a number too few',
    WHOLE.replace(/ -?\d+\.\d+$/, ''),
    /the frame has 14 numbers; its joints have 15 channels/,
  ],
  [
    'an unknown channel',
    WHOLE.replace('YXZ', '').replace('Yrotation', 'Wrotation'),
    /the channel 'Wrotation' is not known/,
  ],
  ['a bracket too few', WHOLE.replace('}\r\nMOTION', '\r\nMOTION'), /a bracket is missing/],
  ['a bad offset', WHOLE.replace('OFFSET 1 12 -2', 'OFFSET 1 12'), /an OFFSET has three numbers/],
  ['no time', WHOLE.replace('Frame Time: 0.0083333', 'Frame Time: 0'), /wanted is 'Frame Time:'/],
  ['another file', 'something else', /a BVH file begins with 'HIERARCHY'/],
  ['wrong count', WHOLE.replace('CHANNELS 6', 'CHANNELS 5'), /it says 5 channels and names 6/],
])('BVH with %s is refused with its line', async (_, text, message) => {
  await expect(readStock('bad.bvh', bytes(text))).rejects.toThrow(message);
});

test('the line that is told is the one in the file', async () => {
  const text = WHOLE.replace('OFFSET 9 4 0.5', 'OFFSET 9 four 0.5');
  const line = lineOf(text, 'four');
  await expect(readStock('bad.bvh', bytes(text))).rejects.toThrow(`bad.bvh: line ${String(line)}:`);
});

test('BVH: joints of no length, and many of them, are as good as others', async () => {
  const joint = (n: number): string =>
    n === 0
      ? 'End Site\n{\nOFFSET 0 0 0\n}\n'
      : `JOINT j${String(n)}\n{\nOFFSET 0 0 0\nCHANNELS 3 Zrotation Xrotation Yrotation\n${joint(n - 1)}}\n`;
  const head = 'HIERARCHY\nROOT hip\n{\nOFFSET 0 0 0\nCHANNELS 3 Xposition Yposition Zposition\n';
  const numbers = [1, 2, 3, ...new Array<number>(3 * 499).fill(10)].join(' ');
  const text = `${head}${joint(499)}}\nMOTION\nFrames: 1\nFrame Time: 0.1\n${numbers}\n`;
  const { performers } = (await readStock('many.bvh', bytes(text))) as Motion;
  expect(performers[0]!.joints).toHaveLength(501);
  expect([...performers[0]!.places.slice(-3)]).toEqual([1, 2, 3]);
});

test('a table of joints: any order of rows, gaps filled straight, bones between what is near', async () => {
  const rows: string[] = [];
  for (let k = 0; k <= 4; k++) {
    for (const [who, x] of [
      ['Ada', 0],
      ['Bo', 5],
    ] as const) {
      // The hand has no row at two of the times.
      const joints: [string, number, number][] = [
        ['hip', 0, 1],
        ['neck', 0.1 * k, 1.6],
        ['head', 0, 1.8],
      ];
      if (k !== 1 && k !== 2) joints.push(['hand', k, 1.5]);
      for (const [joint, dx, y] of joints)
        rows.push(`${String(2 + k / 2)},${who},${joint},${String(x + dx)},${String(y)},0`);
    }
  }
  const text = ['Time,Performer,Joint,X,Y,Z', ...rows.reverse()].join('\n');
  const motion = (await readStock('joints.csv', bytes(text))) as Motion;
  expect([...motion.times]).toEqual([0, 0.5, 1, 1.5, 2]);
  expect(motion.performers.map((p) => p.name).sort()).toEqual(['Ada', 'Bo']);
  const bo = motion.performers.find((p) => p.name === 'Bo')!;
  const at = (joint: string, k: number): number[] => {
    const i = bo.joints.findIndex((j) => j.name === joint);
    return [...bo.places.slice(3 * (4 * k + i), 3 * (4 * k + i) + 3)];
  };
  expect(at('neck', 3)).toEqual([Math.fround(5.3), Math.fround(1.6), 0]);
  expect(at('hand', 1)).toEqual([6, 1.5, 0]);
  expect(at('hand', 2)).toEqual([7, 1.5, 0]);
  // A tree: each hangs on another, one on none, and the head on the neck or the neck on the head.
  expect(bo.joints.filter((j) => j.parent < 0)).toHaveLength(1);
  const pairs = bo.joints.map((j) => [j.name, bo.joints[j.parent]?.name].sort().join(' '));
  expect(pairs).toContain('head neck');
  expect(pairs).toContain('hip neck');
});

test.each([
  ['0,Ada,hip,0,one,0', /line 2: 'one' is no number/],
  ['0,Ada,hip,0,1', /line 2: '' is no number/],
  ['0,Ada,,0,1,0', /line 2: the joint has no name/],
  ['', /there is no joint in it/],
])('a table of joints with the row %p is refused', async (row, message) => {
  const text = `time,performer,joint,x,y,z\n${row}`;
  await expect(readStock('bad.csv', bytes(text))).rejects.toThrow(message);
});

/** Two joints under a node that stands aside, skinned; the first is animated by `animate`. */
async function skinned(
  animate?: (document: Document, joint: ReturnType<Document['createNode']>) => void,
): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const hand = document.createNode('hand').setTranslation([2, 0, 0]);
  const arm = document.createNode('arm').setTranslation([0, 1, 0]).addChild(hand);
  const aside = document
    .createNode('aside')
    .setTranslation([10, 0, 0])
    .setScale([2, 2, 2])
    .addChild(arm);
  const points = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer);
  const mesh = document
    .createMesh()
    .addPrimitive(document.createPrimitive().setAttribute('POSITION', points));
  const skin = document.createSkin('Cy').addJoint(arm).addJoint(hand);
  const body = document.createNode('body').setMesh(mesh).setSkin(skin);
  document.createScene().addChild(aside).addChild(body);
  animate?.(document, arm);
  return new WebIO().writeBinary(document);
}

function channel(
  document: Document,
  node: ReturnType<Document['createNode']>,
  path: 'rotation' | 'translation',
  how: 'LINEAR' | 'STEP' | 'CUBICSPLINE',
  input: number[],
  output: number[],
): void {
  const buffer = document.getRoot().listBuffers()[0]!;
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', values: number[]) =>
    document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer);
  const sampler = document
    .createAnimationSampler()
    .setInput(accessor('SCALAR', input))
    .setOutput(accessor(path === 'rotation' ? 'VEC4' : 'VEC3', output))
    .setInterpolation(how);
  const target = document
    .createAnimationChannel()
    .setTargetNode(node)
    .setTargetPath(path)
    .setSampler(sampler);
  document.createAnimation('dance').addSampler(sampler).addChannel(target);
}

/** Where the hand is at a second. */
function handAt({ times, performers }: Motion, second: number): number[] {
  const k = times.findIndex((t) => Math.abs(t - second) < 1e-6);
  return [...performers[0]!.places.slice(6 * k + 3, 6 * k + 6)];
}

test('glTF: joints of a skin turn evenly between keys, under whatever they hang on', async () => {
  const half = Math.SQRT1_2;
  const file = await skinned((document, arm) => {
    // A quarter turn about z in a second.
    channel(document, arm, 'rotation', 'LINEAR', [0, 1], [0, 0, 0, 1, 0, 0, half, half]);
  });
  const motion = (await readStock('dance.glb', file)) as Motion;
  expect(motion.performers[0]!.name).toBe('Cy');
  expect(motion.performers[0]!.joints).toEqual([
    { name: 'arm', parent: -1 },
    { name: 'hand', parent: 0 },
  ]);
  expect(motion.times).toHaveLength(61);
  for (const second of [0, 0.25, 0.5, 0.75, 1]) {
    const angle = (second * Math.PI) / 2;
    const exact = [10 + 4 * Math.cos(angle), 2 + 4 * Math.sin(angle), 0];
    handAt(motion, second).forEach((v, i) => {
      expect(v).toBeCloseTo(exact[i]!, 5);
    });
  }
});

test.each([
  ['STEP', [0, 1, 0, 5, 1, 0], [0, 0, 0, 1]],
  // Values with tangents of 0 on both sides: 3 t² - 2 t³ of the way.
  ['CUBICSPLINE', [0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 5, 1, 0, 0, 0, 0], [0, 0.15625, 0.5, 1]],
] as const)('glTF: %s keys are read as such', async (how, output, parts) => {
  const file = await skinned((document, arm) => {
    channel(document, arm, 'translation', how, [0, 1], [...output]);
  });
  const motion = (await readStock('dance.glb', file)) as Motion;
  [0, 0.25, 0.5, 1].forEach((second, i) => {
    expect(handAt(motion, second)[0]).toBeCloseTo(10 + 2 * (5 * parts[i]! + 2), 4);
  });
});

test('glTF: a skin that nothing moves is a mesh, as before', async () => {
  const thing = (await readStock('still.glb', await skinned())) as Mesh;
  expect(thing.type).toBe('mesh');
});
