import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Mesh } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';
import { wayThrough } from './plane';

/** Trees of boxes by mesh, so that a ray asks few triangles. */
const trees = new WeakMap<Mesh, MeshBVH>();

function treeOf(mesh: Mesh): MeshBVH {
  let tree = trees.get(mesh);
  if (!tree) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
    // The tree puts the triangles in an order of its own.
    geometry.setIndex(new BufferAttribute(mesh.triangles.slice(), 1));
    tree = new MeshBVH(geometry);
    trees.set(mesh, tree);
  }
  return tree;
}

/** The place of a mesh, in its own frame, that a spot of the picture shows; null beside it. */
export function onMesh(
  camera: CameraPose,
  size: { width: number; height: number },
  x: number,
  y: number,
  mesh: Mesh,
  centre: Vector,
): Vector | null {
  const way = wayThrough(camera, size, x, y);
  const from = camera.eye.map((e, i) => e - centre[i]!);
  const ray = new Ray(new Vector3(...from), new Vector3(...way).normalize());
  const nearest = treeOf(mesh).raycastFirst(ray, DoubleSide);
  return nearest ? nearest.point.toArray() : null;
}
