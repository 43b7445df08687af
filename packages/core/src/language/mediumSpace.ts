import type { Vector } from '../feeds/feeds';

/** Content of a medium in the middles of its cells: light and amount. */
export const CONTENT = ['red', 'green', 'blue', 'amount'] as const;
export type Content = (typeof CONTENT)[number];
/** State of a medium from frame to frame: velocity in m/s on the faces to the left and below, and its content. */
export const KEPT = ['u', 'v', ...CONTENT] as const;

/** Where the plane of a medium is at a time: world frame, metres; unit vectors. */
export interface MediumPose {
  centre: Vector;
  right: Vector;
  up: Vector;
  /** Away from its front. */
  forward: Vector;
  /** Side of a cell. */
  cell: number;
  /** How far from the plane it is stirred and carries. */
  reach: number;
  /** Of one that fills the frame: metres from the eye to the plane. */
  distance: number;
}

/** A medium as the rest of the piece sees it: its cells, and where they are. */
export interface MediumSpace {
  type: 'medium';
  id: string;
  columns: number;
  lines: number;
  /** Numbers in a row of its planes, and in a plane; see plan/media/levels.ts. */
  stride: number;
  words: number;
  edges: 'closed' | 'open' | 'wrap';
  /** It fills the frame, and things are where they are seen from an eye that they shrink away from. */
  seen: boolean;
  /** It fills the frame. */
  fillsFrame: boolean;
  pose: (time: number) => MediumPose;
}

/** The buffer of a medium's plane, for all that reads it from outside. */
export function mediumBuffer(medium: string, name: string): string {
  return `medium/${medium}/${name}`;
}
