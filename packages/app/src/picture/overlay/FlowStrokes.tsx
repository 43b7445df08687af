import { useMemo } from 'react';
import {
  flowSize,
  flowTrack,
  kindOf,
  type CameraPose,
  type FlowOptions,
} from '@vast-swarm/core/kinds';
import { project } from '@vast-swarm/core/play';
import type { Part } from '@vast-swarm/core/piece';
import type { Vector } from '@vast-swarm/core/feeds';
import { usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { useMoving } from '../../answers/useMoving';
import { useSeen } from '../../answers/useSeen';
import { add, plain, turned } from './handles';

interface Size {
  width: number;
  height: number;
}

/** Milliseconds from look to look. */
const EVERY = 160;
/** Strokes across the picture; as many down as its shape gives. */
const ACROSS = 24;
/** A stroke is as long as its motion in so many frames. */
const FRAMES = 3;
/** Slower, in pixels of the screen a frame, is not drawn. */
const LEAST = 0.15;

/** The motion that a force reads in a clip, as strokes over the picture while its sheet is open. */
export function FlowStrokes({ force, ...view }: { force: Part; camera: CameraPose; size: Size }) {
  const { pictures } = usePiece();
  const sees = kindOf('forces', force.kind).sees?.(force.dials);
  const part = pictures.find((p) => p.id === sees?.picture);
  return sees && part ? <Strokes {...{ force, part, options: sees.options, ...view }} /> : null;
}

interface Props {
  force: Part;
  part: Part;
  options: FlowOptions;
  camera: CameraPose;
  size: Size;
}

function Strokes({ force, part, options, camera, size }: Props) {
  const moving = useMoving(part);
  const { detail, smooth, steady } = options;
  const track = useMemo(() => {
    const found = moving && flowTrack(moving, { detail, smooth, steady });
    return (
      found && {
        stateAt: (frame: number) => found.blockAt(frame),
        at: (block: number) => found.read(block),
      }
    );
  }, [moving, detail, smooth, steady]);
  const flow = useSeen(track, EVERY);
  if (!moving || !flow) return null;
  const { width, height } = flowSize(moving, detail);
  const {
    centre,
    turn,
    width: wide,
    height: high,
  } = kindOf('forces', force.kind).plane!(force.dials);
  const [middle, angles] = [plain(centre), plain(turn)];
  if (!middle || !angles || typeof wide !== 'number' || typeof high !== 'number') return null;
  const at = (u: number, v: number): Vector | null => {
    const place = turned([(u - 0.5) * wide, (0.5 - v) * high, 0], [angles[0], angles[1], 0]);
    return project(camera, size, add(place, middle));
  };
  const rows = Math.max(1, Math.round((ACROSS * height) / width));
  const strokes: string[] = [];
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < ACROSS; i++) {
      const [u, v] = [(i + 0.5) / ACROSS, (j + 0.5) / rows];
      const cell = Math.floor(v * height) * width + Math.floor(u * width);
      const [right, up] = [flow[cell]!, flow[width * height + cell]!];
      const [from, to] = [at(u, v), at(u + right * FRAMES, v - up * FRAMES)];
      if (!from || !to) continue;
      const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
      if (Math.hypot(dx, dy) < LEAST * FRAMES) continue;
      const [x, y] = [from[0], from[1]].map((n) => n.toFixed(1)) as [string, string];
      strokes.push(`M${x} ${y}l${dx.toFixed(1)} ${dy.toFixed(1)}`);
    }
  }
  return (
    <path
      d={strokes.join('')}
      aria-label="Motion that is seen"
      role="img"
      stroke={COLOURS.glass}
      strokeOpacity={0.85}
      strokeWidth={1.4}
      strokeLinecap="round"
      fill="none"
    />
  );
}
