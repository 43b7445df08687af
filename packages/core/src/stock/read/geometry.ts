import type { BufferGeometry, Mesh as Mesh3d, Object3D, Points } from 'three';
import { endingOf } from '../clip/travel';
import type { Cloud, Mesh } from '../types';
import { checkObj } from './checkObj';
import { StockError } from './error';
import { joined, type Piece3d } from './weld';

function pieceOf(geometry: BufferGeometry): Piece3d {
  const values = (name: string): ArrayLike<number> | null =>
    geometry.hasAttribute(name) ? geometry.getAttribute(name).array : null;
  return {
    positions: values('position') ?? [],
    index: geometry.getIndex()?.array ?? null,
    colours: coloursOf(geometry),
    coordinates: coordinatesOf(geometry),
  };
}

/** Linear light; read one by one, since files keep it as bytes too. */
function coloursOf(geometry: BufferGeometry): Float32Array | null {
  if (!geometry.hasAttribute('color')) return null;
  const colour = geometry.getAttribute('color');
  return Float32Array.from({ length: 3 * colour.count }, (_, i) =>
    colour.getComponent(Math.floor(i / 3), i % 3),
  );
}

/** OBJ counts from the bottom; we from the top. */
function coordinatesOf(geometry: BufferGeometry): Float32Array | null {
  if (!geometry.hasAttribute('uv')) return null;
  const uv = geometry.getAttribute('uv');
  return Float32Array.from({ length: 2 * uv.count }, (_, i) => {
    const value = uv.getComponent(i >> 1, i & 1);
    return i & 1 ? 1 - value : value;
  });
}

/** OBJ and STL, read by the loaders of three. What has no faces is a cloud. */
export async function geometryOf(name: string, bytes: Uint8Array): Promise<Mesh | Cloud> {
  const buffer = bytes.slice().buffer;
  try {
    if (endingOf(name) === 'obj') return await objOf(name, bytes);
    const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js');
    return joined([pieceOf(new STLLoader().parse(buffer))], true);
  } catch (error) {
    if (error instanceof StockError) throw error;
    throw new StockError(
      name,
      `the ${endingOf(name).toUpperCase()} cannot be read (${(error as Error).message})`,
    );
  }
}

async function objOf(name: string, bytes: Uint8Array): Promise<Mesh | Cloud> {
  const text = new TextDecoder().decode(bytes);
  checkObj(name, text);
  const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js');
  const group = new OBJLoader().parse(text);
  const meshes: Piece3d[] = [];
  const points: Piece3d[] = [];
  group.traverse((object: Object3D) => {
    if ('isMesh' in object) meshes.push(pieceOf((object as Mesh3d).geometry));
    else if ('isPoints' in object) points.push(pieceOf((object as Points).geometry));
  });
  return meshes.length > 0 ? joined(meshes, true) : joined(points, false);
}
