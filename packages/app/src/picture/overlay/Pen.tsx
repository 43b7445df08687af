import { freshIdIn, type Piece } from '@vast-swarm/core/piece';
import type { CameraPose } from '@vast-swarm/core/kinds';
import type { StockEntry } from '@vast-swarm/core/stock';
import type { Vector } from '@vast-swarm/core/feeds';
import { noticed } from '../../store/noticeSlice';
import { pieceActions } from '../../store/pieceSlice';
import { store, useAppDispatch } from '../../store/store';
import { onPlane } from './plane';
import { Sketchpad } from './Sketchpad';
import type { Spot } from './useStroke';

interface Props {
  path: (string | number)[];
  camera: CameraPose;
  size: { width: number; height: number };
}

/** Distance in CSS pixels from one point of a line to the next. */
const GRAIN = 7;

/** The outline that the dial has now, where it was drawn in the piece. */
function drawnBefore(piece: Piece, path: Props['path']): StockEntry | undefined {
  let value: unknown = piece;
  for (const key of path) value = (value as Record<string | number, unknown>)[key];
  return piece.stock.find((s) => s.id === value && 'path' in s.source);
}

/** Draws lines on the plane z = 0 that the camera sees; each line is added to the outline. */
export function Pen({ path, camera, size }: Props) {
  const dispatch = useAppDispatch();
  const finish = (line: readonly Spot[]): void => {
    const points = line
      .map(([x, y]) => onPlane(camera, size, x, y, [0, 0, 0], [0, 0, 1]))
      .filter((p): p is Vector => p !== null);
    if (points.length < 2) {
      if (line.length > 1) {
        const message =
          'From here the camera does not see the plane that the pen draws on; turn it to the front.';
        dispatch(noticed({ key: 'pen', kind: 'note', message }));
      }
      return;
    }
    const [first, last] = [line[0]!, line.at(-1)!];
    const closed = line.length > 8 && Math.hypot(first[0] - last[0], first[1] - last[1]) < 14;
    const data = pathOf(points, closed);
    const piece = store.getState().piece.piece!;
    const before = drawnBefore(piece, path);
    const old = before && 'path' in before.source ? `${before.source.path} ` : '';
    const entry: StockEntry = {
      id: before?.id ?? freshIdIn(piece, 'stock', 'drawn'),
      name: before?.name ?? 'Drawn outline',
      type: 'outline',
      source: { path: old + data },
    };
    dispatch(pieceActions.stocked({ entry, path }));
  };
  return (
    <Sketchpad
      label="Pen: draw a line; Escape puts it away"
      size={size}
      grain={GRAIN}
      onStroke={finish}
    />
  );
}

/** A smooth path through points: half-way places joined by quadratic curves; SVG counts y down. */
function pathOf(points: Vector[], closed: boolean): string {
  const show = (v: number): string => String(Math.round(v * 1000) / 1000);
  const at = ([x, y]: Vector): string => `${show(x)} ${show(-y)}`;
  const middle = (a: Vector, b: Vector): Vector => a.map((v, i) => (v + b[i]!) / 2) as Vector;
  const curves = points
    .slice(1, -1)
    .map((p, i) => `Q${at(p)} ${at(middle(p, points[i + 2]!))}`)
    .join('');
  return `M${at(points[0]!)}${curves}L${at(points.at(-1)!)}${closed ? 'Z' : ''}`;
}
