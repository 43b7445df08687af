import { Box } from '@mui/material';
import { useRef, type KeyboardEvent, type PointerEvent, type SVGAttributes } from 'react';
import { cameraAt, Scene } from '@vast-swarm/core/plan';
import { memo } from '@vast-swarm/core/stock';
import { project } from '@vast-swarm/core/play';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { Vector } from '@vast-swarm/core/feeds';
import { useReport } from '../../engine/EngineContext';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { Figure } from './Figure';
import { FlowBrush } from './FlowBrush';
import { FlowStrokes } from './FlowStrokes';
import { Followed } from './Followed';
import { add, gripOn, turned, type Handle } from './handles';
import { mapPlanes } from './mapPlanes';
import { MaskShapes } from './MaskShapes';
import { Pen } from './Pen';

interface Size {
  width: number;
  height: number;
}

const round = (v: number): number => Math.round(v * 1000) / 1000;

/** Outlines and handles of the selected part, and the tools that draw in the picture. */
export function Overlay({ size }: { size: Size }) {
  const piece = usePiece();
  const selection = useApp((s) => s.piece.selection);
  const { tool, handles: shown, following } = useApp((s) => s.tools);
  // One for all that read the piece.
  const scene = memo(piece, 'scene', () => new Scene(piece));
  const moves = piece.camera.dials.orbit !== 0 || JSON.stringify(piece.camera).includes('"feed"');
  const frame = useReport((r) => (moves ? (r?.frame ?? 0) : 0));
  const camera = cameraAt(scene, (frame + 1) / piece.frame.rate);
  const grips = shown && !tool ? [gripOn(piece, selection), mapPlanes(piece, selection)] : [];
  const force =
    selection?.list === 'forces' ? piece.forces.find((f) => f.id === selection.id) : undefined;
  const performer =
    selection?.list === 'performers'
      ? piece.performers.find((p) => p.id === selection.id)
      : undefined;
  const lines = grips.flatMap((grip) => grip?.lines ?? []);
  const handles = grips.flatMap((grip) => grip?.handles ?? []);
  const point = (p: Vector): [number, number] | null => {
    const at = project(camera, size, p);
    return at && [at[0], at[1]];
  };
  return (
    <>
      <svg
        width={size.width}
        height={size.height}
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
        aria-label="Handles"
      >
        {shown && !tool && force && <FlowStrokes {...{ force, camera, size }} />}
        {shown && !tool && performer && <Figure {...{ performer, camera, size }} />}
        {lines.map((line, i) => {
          const points = line.map(point);
          if (points.some((p) => p === null)) return null;
          return (
            <polyline
              key={i}
              points={points.map((p) => p!.map((v) => v.toFixed(1)).join()).join(' ')}
              fill="none"
              stroke={COLOURS.amber}
              strokeOpacity={0.55}
              strokeWidth={1.2}
            />
          );
        })}
        {handles.map((handle) => (
          <Grab
            key={`${handle.path.join('.')} ${handle.title}`}
            handle={handle}
            camera={camera}
            size={size}
          />
        ))}
      </svg>
      {tool?.kind === 'pen' && <Pen path={tool.path} camera={camera} size={size} />}
      {tool?.kind === 'brush' && <FlowBrush path={tool.path} camera={camera} size={size} />}
      {tool?.kind === 'mask' && <MaskShapes path={tool.path} size={size} />}
      {following && <Followed size={size} />}
    </>
  );
}

/** The place in the world that a handle is drawn at. */
function spotOf(handle: Handle, reach: number): Vector {
  const unit = (v: Vector): Vector => {
    const length = Math.hypot(...v) || 1;
    return v.map((c) => c / length) as Vector;
  };
  if (handle.kind === 'place') return handle.value;
  if (handle.kind === 'way') {
    return add(handle.centre, unit(handle.value).map((c) => c * reach) as Vector);
  }
  return add(handle.centre, turned([reach * 0.8, 0, 0], handle.value));
}

const unitOf = (v: Vector): Vector => {
  const length = Math.hypot(...v) || 1;
  return v.map((c) => c / length) as Vector;
};

/** The value of a handle that is taken so far over the picture, in pixels. */
function shifted(
  handle: Handle,
  from: Vector,
  [dx, dy]: readonly [number, number],
  camera: CameraPose,
  { zoom, reach }: { zoom: number; reach: number },
): Vector {
  if (handle.kind === 'turn') return [from[0] + dy * 0.5, from[1] + dx * 0.5, from[2]];
  const way = camera.right.map((r, i) => (r * dx - camera.up[i]! * dy) / zoom) as Vector;
  if (handle.kind === 'way') return unitOf(add(from.map((c) => c * reach) as Vector, way));
  // Places are kept in the part's own frame.
  return add(from, way).map((v, i) => v - handle.centre[i]!) as Vector;
}

const STEPS: Record<string, readonly [number, number] | undefined> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

function Grab({ handle, camera, size }: { handle: Handle; camera: CameraPose; size: Size }) {
  const dispatch = useAppDispatch();
  const drag = useRef<{ x: number; y: number; from: Vector } | null>(null);
  const middle = project(camera, size, handle.centre);
  // Ways and turns hang on arms of the same length on the screen.
  const reach = middle ? 70 / middle[2] : 1;
  const at = project(camera, size, spotOf(handle, reach));
  if (!at) return null;
  const start = handle.kind === 'way' ? unitOf(handle.value) : handle.value;
  const put = (from: Vector, by: readonly [number, number]): void => {
    const value = shifted(handle, from, by, camera, { zoom: at[2], reach }).map(round);
    const { path, title, write } = handle;
    const kept = write ? write(value as Vector) : value;
    dispatch(pieceActions.set({ path, value: kept, label: title, merge: path.join('.') }));
  };
  const common = {
    role: 'slider',
    tabIndex: 0,
    'aria-label': `${handle.title} handle`,
    'aria-valuenow': 0,
    'aria-valuetext': handle.value.map(round).join(', '),
    style: { pointerEvents: 'all' as const, cursor: 'grab', touchAction: 'none' },
    onKeyDown: (event: KeyboardEvent) => {
      const step = STEPS[event.key];
      if (!step) return;
      event.preventDefault();
      event.stopPropagation();
      const size = event.shiftKey ? 50 : 5;
      put(start, [step[0] * size, step[1] * size]);
    },
    onPointerDown: (event: PointerEvent) => {
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, y: event.clientY, from: start };
    },
    onPointerMove: (event: PointerEvent) => {
      const d = drag.current;
      if (d) put(d.from, [event.clientX - d.x, event.clientY - d.y]);
    },
    onPointerUp: () => {
      drag.current = null;
      dispatch(pieceActions.settled());
    },
  };
  return <Grip {...{ handle, at, middle, common }} room={size.width - at[0]} />;
}

interface GripProps {
  handle: Handle;
  /** Where it is on the picture, and where the part's own middle is. */
  at: Vector;
  middle: Vector | null;
  common: SVGAttributes<SVGElement>;
  /** Pixels to the right edge of the picture. */
  room: number;
}

/** A label needs so many pixels. */
const LABEL = 140;

/** A handle as it is drawn: a square for a place, a dot on an arm for a way or a turn. */
function Grip({ handle, at: [x, y], middle, common, room }: GripProps) {
  const inward = room < LABEL;
  return (
    <g>
      {handle.kind !== 'place' && middle && (
        <line
          x1={middle[0]}
          y1={middle[1]}
          x2={x}
          y2={y}
          stroke={COLOURS.amber}
          strokeOpacity={0.6}
          strokeDasharray={handle.kind === 'turn' ? '3 3' : undefined}
        />
      )}
      {handle.kind === 'place' ? (
        <rect
          {...common}
          x={x - 6}
          y={y - 6}
          width={12}
          height={12}
          transform={`rotate(45 ${String(x)} ${String(y)})`}
          fill={COLOURS.ground}
          fillOpacity={0.6}
          stroke={COLOURS.amber}
          strokeWidth={1.6}
        />
      ) : (
        <circle
          {...common}
          cx={x}
          cy={y}
          r={6}
          fill={handle.kind === 'turn' ? COLOURS.ground : COLOURS.amber}
          stroke={COLOURS.amber}
          strokeWidth={1.6}
        />
      )}
      <Box
        component="text"
        x={inward ? x - 10 : x + 10}
        // What is worked out of a value, as the plane of a map, may lie on the part's own.
        y={handle.write ? y + 18 : y - 8}
        textAnchor={inward ? 'end' : 'start'}
        sx={{ fill: COLOURS.amber, fontSize: 11, opacity: 0.85 }}
      >
        {handle.title.toLowerCase()}
      </Box>
    </g>
  );
}
