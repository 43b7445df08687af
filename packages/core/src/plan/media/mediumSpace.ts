import { kindOf } from '../../sections';
import { fluidDials } from '../../sections/media/dials';
import type { FrameFeed, Vector, VectorFeed } from '../../feeds/feeds';
import { valuesOf } from '../../language/dials';
import type { MediumPose, MediumSpace } from '../../language/mediumSpace';
import type { Part, Piece } from '../../piece/types';
import { cameraAt, type Seen } from '../look/cameraAt';
import { rotationRows } from '../look/rotation';
import { cellsFor, levelOf } from './levels';

/** Where the cells of a medium are: on a plane of their own, or square to the camera where that looks at. */
export function mediumSpace(world: Seen, { id, dials }: Part): MediumSpace {
  const values = valuesOf(fluidDials, dials);
  const { frame, camera } = world.piece;
  const fillsFrame = values.fills === 'frame';
  const aspect = fillsFrame ? frame.width / frame.height : values.aspect;
  const { columns, lines } = cellsFor(values.lines, aspect, values.edges);
  const { stride, words } = levelOf(columns, lines);
  const { perspective } = kindOf('cameras', camera.kind);
  const find = fillsFrame
    ? (time: number) => overFrame(world, time, lines)
    : (time: number) => onPlane(world, time, { ...values, columns });
  const reach = (time: number): number => world.number(values.reach, time);
  return {
    type: 'medium',
    id,
    columns,
    lines,
    stride,
    words,
    edges: values.edges,
    fillsFrame,
    seen: fillsFrame && perspective,
    pose: latest((time) => ({ ...find(time), reach: reach(time) })),
  };
}

const PLACE = Object.entries(fluidDials)
  .filter(([, spec]) => spec.group === fluidDials.fills.group)
  .map(([key]) => key);

/** All that a medium's space is made of beside signals, as plain values. */
export function placeOfMedium({ camera, frame }: Piece, { id, on, dials }: Part): unknown[] {
  const { width, height } = frame;
  return [id, on, PLACE.map((key) => dials[key]), camera, width / height];
}

/** Keeps what was found for the last argument: a kernel asks for many parts of one pose. */
function latest<T>(find: (time: number) => T): (time: number) => T {
  let last: { time: number; found: T } | null = null;
  return (time) => {
    if (last?.time !== time) last = { time, found: find(time) };
    return last.found;
  };
}

type Pose = Omit<MediumPose, 'reach'>;

function overFrame(world: Seen, time: number, lines: number): Pose {
  const { eye, right, up, forward, distance, focal, perspective } = cameraAt(world, time);
  const height = (perspective ? distance : 1) / focal;
  const centre = eye.map((e, i) => e + forward[i]! * distance) as Vector;
  return { centre, right, up, forward, distance, cell: height / lines };
}

interface OnPlane {
  centre: VectorFeed;
  turn: VectorFeed;
  width: FrameFeed;
  columns: number;
}

function onPlane(world: Seen, time: number, { centre, turn, width, columns }: OnPlane): Pose {
  const rows = rotationRows(world.vector(turn, time));
  const axis = (i: 0 | 1 | 2, sign: 1 | -1): Vector => rows.map((row) => sign * row[i]) as Vector;
  const [right, up, forward] = [axis(0, 1), axis(1, 1), axis(2, -1)];
  const cell = world.number(width, time) / columns;
  return { centre: world.vector(centre, time), right, up, forward, distance: 0, cell };
}
