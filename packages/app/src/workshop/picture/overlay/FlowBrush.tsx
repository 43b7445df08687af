import {
  project,
  type CameraPose,
  type DialValues,
  type Strokes,
  type Vector,
} from '@vast-swarm/core';
import { useStockData } from '../../../stock/useStockData';
import { noticed } from '../../../store/noticeSlice';
import { pieceActions } from '../../../store/pieceSlice';
import { store, useApp, useAppDispatch, usePiece } from '../../../store/store';
import { COLOURS } from '../../../theme';
import { add, turned } from './handles';
import { onPlane } from './plane';
import { onMesh } from './surface';
import { Sketchpad } from './Sketchpad';
import type { Spot } from './useStroke';

interface Props {
  path: (string | number)[];
  camera: CameraPose;
  size: { width: number; height: number };
}

const GRAIN = 8;

/** Brushes directions onto the plane of a painted flow; what has been brushed is shown as lines. */
export function FlowBrush({ path, camera, size }: Props) {
  const dispatch = useAppDispatch();
  const piece = usePiece();
  const brush = useApp((s) => s.tools.brush);
  const dials: DialValues = piece.forces[path[1] as number]?.dials ?? {};
  const plain = (key: string, otherwise: number): number =>
    typeof dials[key] === 'number' ? dials[key] : otherwise;
  const vector = (key: string): Vector => {
    const parts = (dials[key] ?? [0, 0, 0]) as unknown[];
    return parts.map((p) => (typeof p === 'number' ? p : 0)) as Vector;
  };
  const [centre, turn] = [vector('centre'), vector('turn')];
  const [width, height] = [plain('width', 4), plain('height', 2.25)];
  const flat: Vector = [turn[0], turn[1], 0];
  const across = turned([1, 0, 0], flat);
  const up = turned([0, 1, 0], flat);
  const normal = turned([0, 0, 1], flat);
  const strokes = (dials.strokes ?? []) as Strokes;

  /** Parts of the plane's width and height, from the left and the top. */
  const unit = ([x, y]: Spot): Spot | null => {
    const p = onPlane(camera, size, x, y, centre, normal);
    if (!p) return null;
    const offset = p.map((c, i) => c - centre[i]!);
    const dot = (v: Vector): number => offset.reduce((s, c, i) => s + c * v[i]!, 0);
    return [dot(across) / width + 0.5, 0.5 - dot(up) / height];
  };
  const world = (u: number, v: number): Vector =>
    add(
      centre,
      across.map((a, i) => a * (u - 0.5) * width + up[i]! * (0.5 - v) * height) as Vector,
    );
  const surface = dials.over === 'surface';
  const data = useStockData(piece, surface ? (dials.mesh as string) : '');
  const mesh = data?.type === 'mesh' ? data : null;
  const lay = (stroke: Strokes[number]): void => {
    const value = [...strokes, stroke].slice(-500);
    dispatch(pieceActions.set({ path, value, label: 'Brush a stroke' }));
  };
  /** On a surface the stroke keeps to what of it the camera sees. */
  const finishOnSurface = (line: readonly Spot[]): void => {
    const round = (v: number): number => Math.round(v * 1e4) / 1e4;
    const places = mesh
      ? line.flatMap(([x, y]) => onMesh(camera, size, x, y, mesh, centre)?.map(round) ?? [])
      : [];
    if (places.length < 6) {
      const message = mesh
        ? 'The stroke did not run over the mesh.'
        : 'Choose the mesh that the brush is drawn over.';
      dispatch(noticed({ key: 'brush', kind: 'note', message }));
      return;
    }
    const { radius, strength } = store.getState().tools.brush;
    lay({ places: places.slice(0, 6000), radius: radius * width, strength });
  };
  const finishOnPlane = (line: readonly Spot[]): void => {
    const round = (v: number): number => Math.round(Math.min(2, Math.max(-1, v)) * 1e4) / 1e4;
    const points = line.flatMap((p) => unit(p)?.map(round) ?? []);
    if (points.length < 4) return;
    const { radius, strength } = store.getState().tools.brush;
    lay({ points: points.slice(0, 4000), radius, strength });
  };
  /** The stroke's points in the world. */
  const wayOf = (stroke: Strokes[number]): Vector[] => {
    if ('points' in stroke) {
      const { points } = stroke;
      const count = points.length / 2;
      return Array.from({ length: count }, (_, i) => world(points[2 * i]!, points[2 * i + 1]!));
    }
    const { places } = stroke;
    const place = (i: number): Vector => [places[3 * i]!, places[3 * i + 1]!, places[3 * i + 2]!];
    return Array.from({ length: places.length / 3 }, (_, i) => add(place(i), centre));
  };
  const shown = strokes.map((stroke) =>
    wayOf(stroke)
      .map((p) => project(camera, size, p))
      .filter((p) => p !== null),
  );
  const radius = (project(camera, size, centre)?.[2] ?? 0) * brush.radius * width;
  return (
    <Sketchpad
      label="Flow brush: draw where particles shall flow; Escape puts it away"
      size={size}
      grain={GRAIN}
      onStroke={surface ? finishOnSurface : finishOnPlane}
    >
      {(line) => (
        <>
          <defs>
            <marker
              id="flow-tip"
              viewBox="0 0 8 8"
              refX={6}
              refY={4}
              markerWidth={7}
              markerHeight={7}
              orient="auto"
            >
              <path d="M0 0L8 4L0 8z" fill={COLOURS.glass} />
            </marker>
          </defs>
          {shown.map((points, i) => (
            <polyline
              key={i}
              points={points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ')}
              fill="none"
              stroke={COLOURS.glass}
              strokeOpacity={0.7}
              strokeWidth={1.5}
              markerEnd="url(#flow-tip)"
            />
          ))}
          {line.slice(-1).map((middle) => (
            <circle
              key="brush"
              cx={middle[0]}
              cy={middle[1]}
              r={radius}
              fill="none"
              stroke={COLOURS.amber}
              strokeOpacity={0.5}
            />
          ))}
        </>
      )}
    </Sketchpad>
  );
}
