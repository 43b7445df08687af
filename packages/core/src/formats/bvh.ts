import { Euler, Quaternion, Vector3 } from 'three';
import type { Performer } from '../stock/types';

/** A joint of the file: `own` is the number of the one it stands for, and `towards` the one it points at. */
interface Node {
  name: string;
  own: number;
  towards: number;
  offset: Vector3;
  children: Node[];
}

/**
 * A performer as a BVH file (Biovision; M. Meredith and S. Maddock, "Motion Capture File Formats Explained", 2001), y up.
 * Bones are rigid there: each has its mean length, and points where it points. A joint turns towards what hangs on it
 * first; for each other that hangs on it there is one more joint in the same place, called `joint_to_other`. Roots but the
 * first hang on that.
 *
 * @param times seconds, as evenly apart as frames are
 * @returns the text in parts
 */
export function* bvhOf({ joints, places }: Performer, times: Float64Array): Generator<string> {
  const count = joints.length;
  const place = (k: number, joint: number): Vector3 =>
    new Vector3().fromArray(places, 3 * (k * count + joint));
  const [root, ...loose] = [...joints.keys()].filter((j) => joints[j]!.parent < 0);
  const parents = joints.map(({ parent }, j) => (loose.includes(j) ? root! : parent));
  const offset = (joint: number): Vector3 => {
    const parent = parents[joint]!;
    if (parent < 0) return new Vector3();
    let length = 0;
    for (let k = 0; k < times.length; k++) {
      length += place(k, joint).distanceTo(place(k, parent)) / times.length;
    }
    return place(0, joint).sub(place(0, parent)).setLength(length);
  };
  const node = (own: number): Node => {
    const { name } = joints[own]!;
    const [first = -1, ...others] = [...joints.keys()].filter((j) => parents[j] === own);
    const more = others.map((other): Node => {
      const beside = `${name} to ${joints[other]!.name}`;
      return { name: beside, own, towards: other, offset: new Vector3(), children: [node(other)] };
    });
    const children = [...(first < 0 ? [] : [node(first)]), ...more];
    return { name, own, towards: first, offset: offset(own), children };
  };
  const tree = node(root!);
  yield `HIERARCHY\n${hierarchy(tree, '')}`;
  const step = times.length > 1 ? times.at(-1)! / (times.length - 1) : 1 / 30;
  yield `MOTION\nFrames: ${String(times.length)}\nFrame Time: ${step.toFixed(9)}\n`;
  for (let k = 0; k < times.length; k++) {
    const turns = channels(tree, new Quaternion(), (joint) => place(k, joint));
    const numbers = [...place(k, root!).toArray(), ...turns];
    yield `${numbers.map((v) => Number(v.toFixed(6))).join(' ')}\n`;
  }
}

/** Names of BVH have no spaces. */
const word = (name: string): string => name.trim().replace(/\s+/g, '_') || 'joint';

function hierarchy({ name, offset, children }: Node, indent: string): string {
  const root = indent === '';
  const inner = `${indent}  `;
  const put = ({ x, y, z }: Vector3): string =>
    `OFFSET ${[x, y, z].map((v) => v.toFixed(6)).join(' ')}\n`;
  const moves = root ? '6 Xposition Yposition Zposition' : '3';
  const below =
    children.length > 0
      ? children.map((child) => hierarchy(child, inner)).join('')
      : `${inner}End Site\n${inner}{\n${inner}  ${put(new Vector3())}${inner}}\n`;
  return (
    `${indent}${root ? 'ROOT' : 'JOINT'} ${word(name)}\n${indent}{\n${inner}${put(offset)}` +
    `${inner}CHANNELS ${moves} Zrotation Xrotation Yrotation\n${below}${indent}}\n`
  );
}

/** The turns of a joint and of all below it, in the order of the hierarchy, in degrees. */
function channels(node: Node, turned: Quaternion, place: (joint: number) => Vector3): number[] {
  const { own, towards, children } = node;
  const turn = new Quaternion();
  const rest = children.find((c) => c.own === towards)?.offset;
  if (rest) {
    const way = place(towards).sub(place(own)).applyQuaternion(turned.clone().invert());
    if (way.lengthSq() > 0 && rest.lengthSq() > 0) {
      turn.setFromUnitVectors(rest.clone().normalize(), way.normalize());
    }
  }
  const { x, y, z } = new Euler().setFromQuaternion(turn, 'ZXY');
  const below = turned.clone().multiply(turn);
  const all = children.flatMap((child) => channels(child, below, place));
  return [...[z, x, y].map((v) => (v * 180) / Math.PI), ...all];
}
