import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Mask, MaskShape } from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { Sketchpad } from './Sketchpad';
import type { Spot } from './useStroke';

interface Props {
  path: (string | number)[];
  size: { width: number; height: number };
}

/** Pixels from one corner of a drawn polygon to the next. */
const GRAIN = 14;

/** Shapes of a mask over the picture: grips move and widen them; a drawn line becomes a polygon. */
export function MaskShapes({ path, size }: Props) {
  const dispatch = useAppDispatch();
  const piece = usePiece();
  const value = path.reduce<unknown>(
    (place, key) => (place as Record<string | number, unknown> | undefined)?.[key],
    piece,
  );
  const mask = (value ?? []) as Mask;
  const put = (next: Mask): void => {
    dispatch(pieceActions.set({ path, value: next, label: 'Mask', merge: path.join('.') }));
  };
  const change = (i: number, shape: MaskShape): void => {
    put(mask.map((s, k) => (k === i ? shape : s)));
  };
  const settle = (): void => void dispatch(pieceActions.settled());
  const drawn = (line: readonly Spot[]): void => {
    if (line.length < 3) return;
    const part = (v: number): number => Math.round(v * 10000) / 10000;
    const points = line.flatMap(([x, y]) => [part(x / size.width), part(y / size.height)]);
    put([...mask, { shape: 'polygon', points }]);
    settle();
  };
  return (
    <>
      <Sketchpad
        label="Mask: draw a shape; Escape puts the tool away"
        size={size}
        grain={GRAIN}
        onStroke={drawn}
      />
      <svg
        width={size.width}
        height={size.height}
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
        aria-label="Mask shapes"
      >
        {mask.map((shape, i) => (
          <g key={i}>
            {shape.shape === 'ellipse' ? (
              <ellipse
                cx={shape.x * size.width}
                cy={shape.y * size.height}
                rx={shape.wide * size.height}
                ry={shape.high * size.height}
                transform={`rotate(${String(shape.turn)} ${String(shape.x * size.width)} ${String(shape.y * size.height)})`}
                {...LINE}
              />
            ) : (
              <polygon points={cornersOf(shape, size)} {...LINE} />
            )}
            {gripsOf(shape, size).map(({ name, at, moved }) => (
              <Grip
                key={name}
                label={`${name} of mask shape ${String(i + 1)}`}
                at={at}
                onMove={(x, y) => {
                  change(i, moved(x / size.width, y / size.height));
                }}
                onSettle={settle}
              />
            ))}
          </g>
        ))}
      </svg>
    </>
  );
}

const LINE = {
  fill: COLOURS.amber,
  fillOpacity: 0.06,
  stroke: COLOURS.amber,
  strokeDasharray: '5 3',
};

function cornersOf(
  shape: MaskShape & { shape: 'polygon' },
  { width, height }: Props['size'],
): string {
  return shape.points.map((v, i) => String(v * (i % 2 === 0 ? width : height))).join(' ');
}

interface GripSpec {
  name: string;
  at: Spot;
  /** The shape with this grip at a place, in parts of the picture. */
  moved: (x: number, y: number) => MaskShape;
}

function gripsOf(shape: MaskShape, { width, height }: Props['size']): GripSpec[] {
  if (shape.shape === 'polygon') {
    const count = shape.points.length / 2;
    const mean = (axis: number): number =>
      shape.points.reduce((sum, v, i) => sum + (i % 2 === axis ? v : 0), 0) / count;
    const [mx, my] = [mean(0), mean(1)];
    const moved = (x: number, y: number): MaskShape => ({
      ...shape,
      points: shape.points.map((v, i) => v + (i % 2 === 0 ? x - mx : y - my)),
    });
    return [{ name: 'Middle', at: [mx * width, my * height], moved }];
  }
  const { x, y, wide, high, turn } = shape;
  const angle = (turn * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const from = (px: number, py: number): [number, number] => [((px - x) * width) / height, py - y];
  return [
    {
      name: 'Middle',
      at: [x * width, y * height],
      moved: (nx, ny) => ({ ...shape, x: nx, y: ny }),
    },
    {
      name: 'Width and turn',
      at: [x * width + c * wide * height, y * height + s * wide * height],
      moved: (nx, ny) => {
        const [dx, dy] = from(nx, ny);
        const way = (Math.atan2(dy, dx) * 180) / Math.PI;
        return { ...shape, wide: Math.max(0.005, Math.hypot(dx, dy)), turn: way };
      },
    },
    {
      name: 'Height',
      at: [x * width - s * high * height, y * height + c * high * height],
      moved: (nx, ny) => {
        const [dx, dy] = from(nx, ny);
        return { ...shape, high: Math.max(0.005, Math.abs(dy * c - dx * s)) };
      },
    },
  ];
}

interface GripProps {
  label: string;
  at: Spot;
  onMove: (x: number, y: number) => void;
  onSettle: () => void;
}

function Grip({ label, at: [x, y], onMove, onSettle }: GripProps) {
  const drag = useRef<[number, number] | null>(null);
  const keys = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 20 : 2;
    const dx = { ArrowLeft: -step, ArrowRight: step }[event.key] ?? 0;
    const dy = { ArrowUp: -step, ArrowDown: step }[event.key] ?? 0;
    if (dx === 0 && dy === 0) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(x + dx, y + dy);
  };
  return (
    <circle
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={0}
      cx={x}
      cy={y}
      r={6}
      fill={COLOURS.ground}
      stroke={COLOURS.amber}
      strokeWidth={1.6}
      style={{ pointerEvents: 'all', cursor: 'grab', touchAction: 'none' }}
      onKeyDown={keys}
      onPointerDown={(event: PointerEvent) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = [x - event.clientX, y - event.clientY];
      }}
      onPointerMove={(event: PointerEvent) => {
        if (drag.current) onMove(event.clientX + drag.current[0], event.clientY + drag.current[1]);
      }}
      onPointerUp={() => {
        drag.current = null;
        onSettle();
      }}
    />
  );
}
