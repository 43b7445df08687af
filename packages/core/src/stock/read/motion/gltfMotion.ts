import type { Animation, AnimationSampler, Document, Node, Skin } from '@gltf-transform/core';
import { Matrix4, Quaternion, Vector3 } from 'three';
import type { Motion, Performer } from '../../types';
import { motionOf } from './motionOf';

/** Samples a second of what is found between keys. */
const RATE = 60;

/** Whether a glTF file is somebody's motion: joints of a skin that are animated. */
export function hasMotion(document: Document): boolean {
  const root = document.getRoot();
  return root.listSkins().length > 0 && root.listAnimations().some((a) => moves(a));
}

function moves(animation: Animation): boolean {
  return animation.listChannels().some((c) => c.getTargetPath() !== 'weights');
}

/**
 * The joints of the skins of a glTF file as its first animation moves them (Khronos glTF 2.0, 3.11): a performer for
 * each skin that does not share its joints with one before it, in metres, y up.
 */
export function motionOfGltf(name: string, document: Document): Motion {
  const root = document.getRoot();
  const animation = root.listAnimations().find(moves)!;
  const tracks = tracksOf(animation);
  const end = Math.max(...tracks.map((t) => t.times.at(-1) ?? 0));
  const count = Math.max(1, Math.round(end * RATE)) + 1;
  const times = Float64Array.from({ length: count }, (_, i) => (i * end) / (count - 1));
  const seen = new Set<Node>();
  const skins = root.listSkins().filter((skin) => {
    const joints = skin.listJoints();
    const fresh = joints.some((j) => !seen.has(j));
    joints.forEach((j) => seen.add(j));
    return fresh && joints.length > 0;
  });
  const performers = skins.map((skin, i) => performerOf(skin, i));
  times.forEach((time, k) => {
    const worlds = worldsAt(tracks, time);
    performers.forEach(({ places, joints }, i) => {
      skins[i]!.listJoints().forEach((node, j) => {
        places.set(worlds(node).elements.slice(12, 15), 3 * (k * joints.length + j));
      });
    });
  });
  return motionOf(name, times, performers);

  function performerOf(skin: Skin, i: number): Performer {
    const nodes = skin.listJoints();
    const joints = nodes.map((node, j) => {
      let parent = node.getParentNode();
      while (parent && !nodes.includes(parent)) parent = parent.getParentNode();
      return {
        name: node.getName() || `joint ${String(j + 1)}`,
        parent: parent ? nodes.indexOf(parent) : -1,
      };
    });
    const who = skin.getName() || `performer ${String(i + 1)}`;
    return { name: who, joints, places: new Float32Array(3 * joints.length * count) };
  }
}

interface Track {
  node: Node;
  path: 'translation' | 'rotation' | 'scale';
  times: Float32Array;
  at: (time: number) => number[];
}

function tracksOf(animation: Animation): Track[] {
  return animation.listChannels().flatMap((channel): Track[] => {
    const [node, sampler, path] = [
      channel.getTargetNode(),
      channel.getSampler(),
      channel.getTargetPath(),
    ];
    if (!node || !sampler || path === null || path === 'weights') return [];
    const input = sampler.getInput()!;
    const times = Float32Array.from({ length: input.getCount() }, (_, i) => input.getScalar(i));
    return [{ node, path, times, at: samplerOf(sampler, times, path === 'rotation') }];
  });
}

/** Value of a sampler at a time (glTF 2.0, appendix C). */
function samplerOf(
  sampler: AnimationSampler,
  times: Float32Array,
  turns: boolean,
): (time: number) => number[] {
  const [output, how] = [sampler.getOutput()!, sampler.getInterpolation()];
  const cubic = how === 'CUBICSPLINE';
  const key = (index: number): number[] => output.getElement(index, []);
  return (time) => {
    const last = times.length - 1;
    const clamped = Math.min(Math.max(time, times[0]!), times[last]!);
    let k = 0;
    while (k < last - 1 && times[k + 1]! <= clamped) k += 1;
    const span = last > 0 ? times[k + 1]! - times[k]! : 0;
    const t = span > 0 ? (clamped - times[k]!) / span : 0;
    const value = (i: number): number[] => key(cubic ? 3 * i + 1 : i);
    if (t === 0) return value(k);
    if (how === 'STEP') return value(t >= 1 ? k + 1 : k);
    const [a, b] = [value(k), value(k + 1)];
    if (cubic) {
      const [out, into] = [key(3 * k + 2), key(3 * (k + 1))];
      const [t2, t3] = [t * t, t * t * t];
      const all = a.map(
        (v, i) =>
          (2 * t3 - 3 * t2 + 1) * v +
          span * (t3 - 2 * t2 + t) * out[i]! +
          (3 * t2 - 2 * t3) * b[i]! +
          span * (t3 - t2) * into[i]!,
      );
      return turns ? new Quaternion().fromArray(all).normalize().toArray() : all;
    }
    if (!turns) return a.map((v, i) => v + (b[i]! - v) * t);
    return new Quaternion().fromArray(a).slerp(new Quaternion().fromArray(b), t).toArray();
  };
}

/** Where nodes are at a time, each found once. */
function worldsAt(tracks: readonly Track[], time: number): (node: Node) => Matrix4 {
  const moved = new Map<Node, Partial<Record<Track['path'], number[]>>>();
  for (const { node, path, at } of tracks) {
    moved.set(node, { ...moved.get(node), [path]: at(time) });
  }
  const found = new Map<Node, Matrix4>();
  const world = (node: Node): Matrix4 => {
    const known = found.get(node);
    if (known) return known;
    const own = moved.get(node);
    const matrix = own
      ? new Matrix4().compose(
          new Vector3().fromArray(own.translation ?? node.getTranslation()),
          new Quaternion().fromArray(own.rotation ?? node.getRotation()),
          new Vector3().fromArray(own.scale ?? node.getScale()),
        )
      : new Matrix4().fromArray(node.getMatrix());
    const parent = node.getParentNode();
    if (parent) matrix.premultiply(world(parent));
    found.set(node, matrix);
    return matrix;
  };
  return world;
}
