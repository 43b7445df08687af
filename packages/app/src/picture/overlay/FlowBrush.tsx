import { project } from '@vast-swarm/core/play';
import type { CameraPose, DialValues } from '@vast-swarm/core/kinds';
import type { Strokes, Vector } from '@vast-swarm/core/feeds';
import { useStockData } from '../../stock/useStockData';
import { noticed } from '../../store/noticeSlice';
import { pieceActions } from '../../store/pieceSlice';
import { store, useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { add, turned } from './handles';
import { onPlane } from './plane';
import { Sketchpad } from './Sketchpad';
import type { Spot } from './useStroke';

interface Props {
  path: (string | number)[];
  camera: CameraPose;
  size: { width: number; height: number };
}

const GRAIN = 8;
/** Strokes that a flow may have. */
const MOST = 500;
/** Metres: the largest radius of a stroke. */
const WIDEST = 100;

/** Where a flow stands in the world: its plane, and what is brushed on it. */
interface FlowPlace {
  centre: Vector;
  width: number;
  /** Parts of the plane's width and height, from the left and the top, at a spot of the picture. */
  unit: (spot: Spot) => Spot | null;
  /** A stroke's points in the world. */
  wayOf: (stroke: Strokes[number]) => Vector[];
}

function placeOfFlow(dials: DialValues, camera: CameraPose, size: Props['size']): FlowPlace {
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
  const world = (u: number, v: number): Vector =>
    add(
      centre,
      across.map((a, i) => a * (u - 0.5) * width + up[i]! * (0.5 - v) * height) as Vector,
    );
  return {
    centre,
    width,
    unit: ([x, y]) => {
      const p = onPlane(camera, size, x, y, centre, turned([0, 0, 1], flat));
      if (!p) return null;
      const offset = p.map((c, i) => c - centre[i]!);
      const dot = (v: Vector): number => offset.reduce((s, c, i) => s + c * v[i]!, 0);
      return [dot(across) / width + 0.5, 0.5 - dot(up) / height];
    },
    wayOf: (stroke) => {
      if ('points' in stroke) {
        const { points } = stroke;
        const count = points.length / 2;
        return Array.from({ length: count }, (_, i) => world(points[2 * i]!, points[2 * i + 1]!));
      }
      const { places } = stroke;
      const at = (i: number): Vector => [places[3 * i]!, places[3 * i + 1]!, places[3 * i + 2]!];
      return Array.from({ length: places.length / 3 }, (_, i) => add(at(i), centre));
    },
  };
}

/** Lays what was drawn over the picture as a stroke: on the flow's plane, or over a mesh. */
function useLaying({ path, camera, size }: Props, dials: DialValues, flow: FlowPlace) {
  const dispatch = useAppDispatch();
  const piece = usePiece();
  const surface = dials.over === 'surface';
  const data = useStockData(piece, surface ? (dials.mesh as string) : '');
  const mesh = data?.type === 'mesh' ? data : null;
  const lay = (stroke: Strokes[number]): void => {
    const all = [...((dials.strokes ?? []) as Strokes), stroke];
    dispatch(pieceActions.set({ path, value: all.slice(-MOST), label: 'Brush a stroke' }));
    if (all.length <= MOST) return;
    const message = `A flow has ${String(MOST)} strokes at the most: the oldest was taken away.`;
    dispatch(noticed({ key: 'brush', kind: 'note', message, action: 'undo' }));
  };
  /** On a surface the stroke keeps to what of it the camera sees. */
  const onSurface = async (line: readonly Spot[]): Promise<void> => {
    // What finds the places is large, and seldom wanted.
    const { onMesh } = await import('./surface');
    const round = (v: number): number => Math.round(v * 1e4) / 1e4;
    const places = mesh
      ? line.flatMap(([x, y]) => onMesh(camera, size, x, y, mesh, flow.centre)?.map(round) ?? [])
      : [];
    if (places.length < 6) {
      const message = mesh
        ? 'The stroke did not run over the mesh.'
        : 'Choose the mesh that the brush is drawn over.';
      dispatch(noticed({ key: 'brush', kind: 'note', message }));
      return;
    }
    const { radius, strength } = store.getState().tools.brush;
    lay({ places: places.slice(0, 6000), radius: Math.min(WIDEST, radius * flow.width), strength });
  };
  const onFlat = (line: readonly Spot[]): void => {
    const round = (v: number): number => Math.round(Math.min(2, Math.max(-1, v)) * 1e4) / 1e4;
    const points = line.flatMap((p) => flow.unit(p)?.map(round) ?? []);
    if (points.length < 4) return;
    const { radius, strength } = store.getState().tools.brush;
    lay({ points: points.slice(0, 4000), radius, strength });
  };
  return surface ? (line: readonly Spot[]) => void onSurface(line) : onFlat;
}

/** Brushes directions onto the plane of a painted flow; what has been brushed is shown as lines. */
export function FlowBrush(props: Props) {
  const { path, camera, size } = props;
  const piece = usePiece();
  const brush = useApp((s) => s.tools.brush);
  const dials: DialValues = piece.forces[path[1] as number]?.dials ?? {};
  const flow = placeOfFlow(dials, camera, size);
  const lay = useLaying(props, dials, flow);
  const shown = ((dials.strokes ?? []) as Strokes).map((stroke) =>
    flow
      .wayOf(stroke)
      .map((p) => project(camera, size, p))
      .filter((p) => p !== null),
  );
  const radius = (project(camera, size, flow.centre)?.[2] ?? 0) * brush.radius * flow.width;
  return (
    <Sketchpad
      label="Flow brush: draw where particles shall flow; Escape puts it away"
      size={size}
      grain={GRAIN}
      onStroke={lay}
    >
      {(line) => (
        <>
          <Tip />
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

/** The end of a stroke, where it goes. */
function Tip() {
  const size = { refX: 6, refY: 4, markerWidth: 7, markerHeight: 7 };
  return (
    <defs>
      <marker id="flow-tip" viewBox="0 0 8 8" orient="auto" {...size}>
        <path d="M0 0L8 4L0 8z" fill={COLOURS.glass} />
      </marker>
    </defs>
  );
}
