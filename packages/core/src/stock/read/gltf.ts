import { Primitive, WebIO, type Accessor, type GLTF, type Node } from '@gltf-transform/core';
import type { Cloud, Mesh, Motion } from '../types';
import { StockError } from './error';
import { hasMotion, motionOfGltf } from './motion/gltfMotion';
import { joined, type Piece3d } from './weld';

/**
 * A glTF file (Khronos glTF 2.0) as one mesh, nodes where they stand; points alone are a cloud, and animated joints of
 * a skin a motion.
 */
export async function thingOfGltf(
  name: string,
  bytes: Uint8Array,
  binary: boolean,
): Promise<Mesh | Cloud | Motion> {
  const faces: Piece3d[] = [];
  const points: Piece3d[] = [];
  try {
    const io = new WebIO();
    const document = binary
      ? await io.readBinary(bytes)
      : await io.readJSON({ json: jsonOf(bytes), resources: {} });
    if (hasMotion(document)) return motionOfGltf(name, document);
    for (const node of document.getRoot().listNodes()) {
      for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
        const mode = primitive.getMode();
        if (mode === Primitive.Mode.TRIANGLES) faces.push(placed(node, primitive));
        else if (mode === Primitive.Mode.POINTS) points.push(placed(node, primitive));
      }
    }
  } catch (error) {
    if (error instanceof StockError) throw error;
    throw new StockError(name, `the glTF cannot be read (${(error as Error).message})`);
  }
  return faces.length > 0 ? joined(faces, true) : joined(points, false);
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
    index: primitive.getIndices() && indicesOf(primitive),
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

/** Counted in whole numbers: single precision would lose those above 16 million. */
function indicesOf(primitive: Primitive): number[] {
  const accessor = primitive.getIndices()!;
  return Array.from({ length: accessor.getCount() }, (_, i) => accessor.getScalar(i));
}
