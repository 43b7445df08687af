import type { Mesh } from '../types';
import { memo } from '../memo';
import { boundsOf } from '../points';

/** So many fit, with their place along the curve, into the whole numbers of double precision. */
export const MOST_TRIANGLES = 2 ** 23;

/** Numbers of a node: its box from low to high corner, the node behind its branch, its triangle or -1. */
export const NODE = 8;
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

/** Spreads ten bits so that two more fit between each: Morton 1966. */
function spread(v: number): number {
  let x = v & 1023;
  x = (x | (x << 16)) & 0x030000ff;
  x = (x | (x << 8)) & 0x0300f00f;
  x = (x | (x << 4)) & 0x030c30c3;
  return (x | (x << 2)) & 0x09249249;
}

class Builder {
  private readonly order: Int32Array;
  private readonly nodes: Float32Array;
  private readonly corners: Float32Array;
  private made = 0;

  constructor(private readonly mesh: Mesh) {
    this.order = this.mortonOrder();
    const count = Math.max(0, 2 * this.order.length - 1);
    this.nodes = new Float32Array(NODE * (count + 1));
    this.corners = new Float32Array(TRIANGLE * Math.max(1, this.order.length));
  }

  tree(): TriangleTree {
    if (this.order.length > 0) this.branch(0, this.order.length);
    return { nodes: this.nodes, count: this.made, triangles: this.corners };
  }

  /** Triangles along a curve that fills space, so that halves of it are near together. */
  private mortonOrder(): Int32Array {
    const { positions, triangles } = this.mesh;
    const [low, high] = boundsOf(positions);
    const count = triangles.length / 3;
    const keys = new Float64Array(count);
    for (let t = 0; t < count; t++) {
      let code = 0;
      for (let axis = 0; axis < 3; axis++) {
        const at = (c: number): number => positions[3 * triangles[3 * t + c]! + axis]!;
        const middle = (at(0) + at(1) + at(2)) / 3;
        const part = (middle - low[axis]!) / Math.max(1e-12, high[axis]! - low[axis]!);
        code += spread(Math.min(1023, Math.max(0, Math.floor(part * 1024)))) * 2 ** axis;
      }
      keys[t] = code * MOST_TRIANGLES + t;
    }
    keys.sort();
    return Int32Array.from(keys, (key) => key % MOST_TRIANGLES);
  }

  /** Writes the node over some of the order, and all below it. */
  private branch(begin: number, end: number): void {
    const at = this.made++;
    if (end - begin === 1) this.leaf(at, begin);
    else {
      const middle = (begin + end) >> 1;
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
