import {
  Primitive,
  WebIO,
  type Accessor,
  type Document,
  type GLTF,
  type Node,
} from '@gltf-transform/core';
import { endingOf } from '../clip/travel';
import type { Cloud, Mesh, Motion } from '../types';
import { checkTriangles } from './checkTriangles';
import { StockError } from './error';
import { hasMotion, motionOfGltf } from './motion/gltfMotion';
import { joined, type Piece3d } from './weld';

/**
 * A glTF file (Khronos glTF 2.0) as one mesh, nodes where they stand; points alone are a cloud, and animated joints of
 * a skin a motion.
 */
export async function thingOfGltf(name: string, bytes: Uint8Array): Promise<Mesh | Cloud | Motion> {
  const faces: Piece3d[] = [];
  const points: Piece3d[] = [];
  try {
    const io = new WebIO();
    const document =
      endingOf(name) === 'glb'
        ? await io.readBinary(bytes)
        : await io.readJSON({ json: jsonOf(bytes), resources: {} });
    if (hasMotion(document)) return motionOfGltf(name, document);
    const drawn = nodesOf(document).flatMap((node) =>
      (node.getMesh()?.listPrimitives() ?? []).map((primitive) => ({ node, primitive })),
    );
    checkCount(name, drawn);
    for (const { node, primitive } of drawn) {
      const mode = primitive.getMode();
      if (mode in CORNERS) faces.push(placed(node, primitive));
      else if (mode === Primitive.Mode.POINTS) points.push(placed(node, primitive));
    }
    if (drawn.length > 0 && faces.length + points.length === 0) {
      throw new StockError(name, 'it has lines alone; meshes and points are read');
    }
  } catch (error) {
    if (error instanceof StockError) throw error;
    throw new StockError(name, `the glTF cannot be read (${(error as Error).message})`);
  }
  return faces.length > 0 ? joined(faces, true) : joined(points, false);
}

/** Corners of the triangle of a number, in a list, a strip or a fan: by the modes of the format (glTF 2.0, 3.7.2.1). */
const CORNERS: Readonly<Record<number, (k: number) => [number, number, number]>> = {
  4: (k) => [3 * k, 3 * k + 1, 3 * k + 2],
  // Every other one is turned, so that all face one way.
  5: (k) => [k, k + 1 + (k % 2), k + 2 - (k % 2)],
  6: (k) => [k + 1, k + 2, 0],
};

function trianglesOf(primitive: Primitive): number {
  const corners = (primitive.getIndices() ?? primitive.getAttribute('POSITION'))?.getCount() ?? 0;
  if (primitive.getMode() === Primitive.Mode.TRIANGLES) return Math.floor(corners / 3);
  return primitive.getMode() in CORNERS ? Math.max(0, corners - 2) : 0;
}

/** A small file can place one mesh a million times. */
function checkCount(name: string, drawn: readonly { primitive: Primitive }[]): void {
  const triangles = drawn.reduce((sum, { primitive }) => sum + trianglesOf(primitive), 0);
  checkTriangles(name, triangles);
}

/** The nodes that are seen: those of the scene that it opens with; all, where it has no scene. */
function nodesOf(document: Document): Node[] {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) return root.listNodes();
  const nodes: Node[] = [];
  scene.traverse((node) => void nodes.push(node));
  return nodes;
}

function jsonOf(bytes: Uint8Array): GLTF.IGLTF {
  const json = JSON.parse(new TextDecoder().decode(bytes)) as GLTF.IGLTF;
  if (json.buffers?.some((b) => b.uri && !b.uri.startsWith('data:'))) {
    throw new Error('its data stands in other files; save it as one GLB');
  }
  return json;
}

function placed(node: Node, primitive: Primitive): Piece3d {
  const positions = numbers(primitive.getAttribute('POSITION'), 3) ?? new Float32Array(0);
  const m = node.getWorldMatrix();
  const out = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    for (let axis = 0; axis < 3; axis++) {
      const part = (k: number): number => m[4 * k + axis]! * positions[i + k]!;
      out[i + axis] = part(0) + part(1) + part(2) + m[12 + axis]!;
    }
  }
  return {
    positions: out,
    index: indicesOf(primitive),
    colours: numbers(primitive.getAttribute('COLOR_0'), 3),
    coordinates: numbers(primitive.getAttribute('TEXCOORD_0'), 2),
  };
}

/** The first `size` numbers of each element, out of whatever form the file keeps them in. */
function numbers(accessor: Accessor | null, size: number): Float32Array | null {
  if (!accessor) return null;
  const out = new Float32Array(size * accessor.getCount());
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    out.set(element.slice(0, size), size * i);
  }
  return out;
}

/** Corners of its triangles; null for points. Whole numbers: single precision would lose those above 16 million. */
function indicesOf(primitive: Primitive): number[] | null {
  const corners = CORNERS[primitive.getMode()];
  if (!corners) return null;
  const accessor = primitive.getIndices();
  const vertex = (at: number): number => (accessor ? accessor.getScalar(at) : at);
  return Array.from({ length: trianglesOf(primitive) }, (_, k) => corners(k).map(vertex)).flat();
}
