import type { Mesh } from '../types';
import { reportProgress } from '../../progress';
import { memo } from '../memo';

/** Nodes go by whole numbers of single precision: two for each triangle. */
export const MOST_TRIANGLES = 2 ** 23;

/** Numbers of a node: its box from low to high corner, the node behind its branch, its triangle or -1. */
export const NODE = 8;
/** So many nodes are made between two words of how far it is. */
const EVERY = 4096;
/** Numbers of a triangle: a corner, and the ways from it to the other two. */
export const TRIANGLE = 9;

/**
 * The triangles of a mesh in a tree of boxes, written out so that it is walked forward without a
 * memory: a node's first child stands behind it, and each node knows where its branch ends.
 */
export interface TriangleTree {
  /** NODE numbers each; one more at the end, to be read and not used. */
  nodes: Float32Array;
  count: number;
  triangles: Float32Array;
}

export function triangleTree(mesh: Mesh): TriangleTree {
  return memo(mesh, 'triangle tree', () => new Builder(mesh).tree());
}

class Builder {
  private readonly order: Int32Array;
  /** Three numbers a triangle: the middle of its box. */
  private readonly middles: Float32Array;
  private readonly nodes: Float32Array;
  private readonly corners: Float32Array;
  private made = 0;

  constructor(private readonly mesh: Mesh) {
    const triangles = mesh.triangles.length / 3;
    this.order = Int32Array.from({ length: triangles }, (_, t) => t);
    this.middles = this.middlesOf();
    this.nodes = new Float32Array(NODE * (Math.max(0, 2 * triangles - 1) + 1));
    this.corners = new Float32Array(TRIANGLE * Math.max(1, triangles));
  }

  tree(): TriangleTree {
    if (this.order.length > 0) this.branch(0, this.order.length);
    return { nodes: this.nodes, count: this.made, triangles: this.corners };
  }

  private middlesOf(): Float32Array {
    const { positions, triangles } = this.mesh;
    const middles = new Float32Array(triangles.length);
    for (let i = 0; i < triangles.length; i++) {
      const [first, axis] = [i - (i % 3), i % 3];
      const at = (c: number): number => positions[3 * triangles[first + c]! + axis]!;
      middles[i] = (Math.min(at(0), at(1), at(2)) + Math.max(at(0), at(1), at(2))) / 2;
    }
    return middles;
  }

  /** Writes the node over some of the order, and all below it. */
  private branch(begin: number, end: number): void {
    const at = this.made++;
    if (at % EVERY === 0) reportProgress('the tree of a mesh', at / (this.nodes.length / NODE));
    if (end - begin === 1) this.leaf(at, begin);
    else {
      const middle = this.halved(begin, end);
      const [one, other] = [this.made, this.made + 2 * (middle - begin) - 1];
      this.branch(begin, middle);
      this.branch(middle, end);
      for (let i = 0; i < 3; i++) {
        const [a, b] = [NODE * one + i, NODE * other + i];
        this.nodes[NODE * at + i] = Math.min(this.nodes[a]!, this.nodes[b]!);
        this.nodes[NODE * at + 3 + i] = Math.max(this.nodes[a + 3]!, this.nodes[b + 3]!);
      }
      this.nodes[NODE * at + 7] = -1;
    }
    this.nodes[NODE * at + 6] = this.made;
  }

  /**
   * Brings those of a part of the order to its front that lie in the lower half of the space they take, along
   * its longest side, and tells where the others begin: on either side there is one at least.
   */
  private halved(begin: number, end: number): number {
    const { order, middles } = this;
    const [low, high] = [
      [Infinity, Infinity, Infinity],
      [-Infinity, -Infinity, -Infinity],
    ];
    for (let i = begin; i < end; i++) {
      for (let axis = 0; axis < 3; axis++) {
        const v = middles[3 * order[i]! + axis]!;
        low[axis] = Math.min(low[axis]!, v);
        high[axis] = Math.max(high[axis]!, v);
      }
    }
    const sides = high.map((h, axis) => h - low[axis]!);
    const axis = sides.indexOf(Math.max(...sides));
    const cut = (low[axis]! + high[axis]!) / 2;
    let to = begin;
    for (let i = begin; i < end; i++) {
      const t = order[i]!;
      if (middles[3 * t + axis]! > cut) continue;
      order[i] = order[to]!;
      order[to++] = t;
    }
    // All in one place: any half of them.
    return to === begin || to === end ? (begin + end) >> 1 : to;
  }

  private leaf(at: number, place: number): void {
    const { positions, triangles } = this.mesh;
    const t = this.order[place]!;
    for (let axis = 0; axis < 3; axis++) {
      const [a, b, c] = [0, 1, 2].map((k) => positions[3 * triangles[3 * t + k]! + axis]!) as [
        number,
        number,
        number,
      ];
      this.nodes[NODE * at + axis] = Math.min(a, b, c);
      this.nodes[NODE * at + 3 + axis] = Math.max(a, b, c);
      this.corners.set([a], TRIANGLE * place + axis);
      this.corners.set([b - a], TRIANGLE * place + 3 + axis);
      this.corners.set([c - a], TRIANGLE * place + 6 + axis);
    }
    this.nodes[NODE * at + 7] = place;
  }
}
