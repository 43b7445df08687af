import simplify from 'simplify-js';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { maskBorders } from '@vast-swarm/core/plan';
import type { Mask, MaskShape } from '@vast-swarm/core/feeds';
import { useStockData } from '../../stock/useStockData';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { maskGrips, type MaskGrip } from './maskGrips';
import { Sketchpad } from './Sketchpad';
import type { Spot } from './useStroke';

interface Props {
  path: (string | number)[];
  size: { width: number; height: number };
}

/** Pixels from one point of a drawn line to the next, and how near its polygon keeps to it. */
const [GRAIN, EXACT] = [4, 2.5];

/** Shapes of a mask over the picture: grips move and shape them; a drawn line becomes a polygon. */
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
  const settle = (): void => void dispatch(pieceActions.settled());
  const drawn = (line: readonly Spot[]): void => {
    const corners = simplify(
      line.map(([x, y]) => ({ x, y })),
      EXACT,
      true,
    );
    if (corners.length < 3) return;
    const part = (v: number): number => Math.round(v * 10000) / 10000;
    const points = corners.flatMap(({ x, y }) => [part(x / size.width), part(y / size.height)]);
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
            <Border shape={shape} size={size} />
            {maskGrips(shape, size).map((grip) => (
              <Grip
                key={grip.name}
                grip={grip}
                of={`mask shape ${String(i + 1)}`}
                size={size}
                onChange={(next) => {
                  put(mask.map((s, k) => (k === i ? next : s)));
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

function Border({ shape, size }: { shape: MaskShape; size: Props['size'] }) {
  const data = useStockData(usePiece(), shape.shape === 'outline' ? shape.outline : '');
  const outline = data?.type === 'outline' ? data : null;
  const borders = maskBorders(shape, () => outline, size.width / size.height);
  const at = (v: number): string => (v * size.height).toFixed(1);
  return (
    <path
      d={borders.map((b) => `M${b.map(([x, y]) => `${at(x)} ${at(y)}`).join('L')}Z`).join('')}
      fill={COLOURS.amber}
      fillOpacity={0.06}
      fillRule="evenodd"
      stroke={COLOURS.amber}
      strokeDasharray="5 3"
    />
  );
}

interface GripProps {
  grip: MaskGrip;
  of: string;
  size: Props['size'];
  onChange: (shape: MaskShape) => void;
  onSettle: () => void;
}

function Grip({ grip, of, size, onChange, onSettle }: GripProps) {
  const drag = useRef<Spot | null>(null);
  const [x, y] = grip.at;
  const isCorner = grip.name.startsWith('Corner');
  const move = (nx: number, ny: number): void => {
    onChange(grip.moved(nx / size.width, ny / size.height));
  };
  const keys = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 20 : 2;
    const dx = { ArrowLeft: -step, ArrowRight: step }[event.key] ?? 0;
    const dy = { ArrowUp: -step, ArrowDown: step }[event.key] ?? 0;
    const removes = event.key === 'Delete' || event.key === 'Backspace';
    if (dx === 0 && dy === 0 && !(removes && grip.removed)) return;
    event.preventDefault();
    event.stopPropagation();
    if (removes) onChange(grip.removed!);
    else move(x + dx, y + dy);
  };
  return (
    <circle
      role="slider"
      tabIndex={0}
      aria-label={`${grip.name} of ${of}`}
      aria-valuenow={Math.round(x)}
      aria-valuetext={`${x.toFixed(0)}, ${y.toFixed(0)} pixels${grip.removed ? '; Delete removes it' : ''}`}
      cx={x}
      cy={y}
      r={isCorner ? 4 : 6}
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
        if (drag.current) move(event.clientX + drag.current[0], event.clientY + drag.current[1]);
      }}
      onPointerUp={() => {
        drag.current = null;
        onSettle();
      }}
    />
  );
}
