import { Box, MenuItem, Select, Stack } from '@mui/material';
import { useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import { EASES, shapeAt, type Ease, type Shape } from '@vast-swarm/core/feeds';
import { COLOURS } from '../ui/theme';
import { useHolding } from '../ui/useHolding';
import { NumberField } from '../fields/NumberField';

interface Props {
  label: string;
  shape: Shape;
  onChange: (shape: Shape) => void;
  onSettle: () => void;
  rate: number;
}

const W = 150;
const H = 34;
const FRACTION = { min: 0, max: 1, unit: '' };

/** The path of a shape in a box of the given size. */
function shapePath(shape: Shape, width: number, height: number): string {
  const steps = 60;
  const at = (i: number): string => {
    const x = i / steps;
    return `${(x * width).toFixed(1)} ${((1 - shapeAt(shape, x)) * height).toFixed(1)}`;
  };
  return `M${Array.from({ length: steps + 1 }, (_, i) => at(i)).join('L')}`;
}

type Point = Shape[number];

/** The point of the box that the pointer is over. */
function placeOf({ currentTarget, clientX, clientY }: MouseEvent): Point {
  const box = currentTarget.getBoundingClientRect();
  const clamp = (v: number): number => Math.min(1, Math.max(0, v));
  return {
    x: clamp((clientX - box.left) / box.width),
    y: clamp(1 - (clientY - box.top) / box.height),
  };
}

/** A shape with a point put somewhere else: between its neighbours, within the box. */
function withPoint(shape: Shape, i: number, part: Partial<Point>): Shape {
  const low = shape[i - 1]?.x ?? 0;
  const high = shape[i + 1]?.x ?? 1;
  const next = { ...shape[i]!, ...part };
  const round = (v: number): number => Math.round(v * 1000) / 1000;
  const moved = { ...next, x: round(Math.min(high, Math.max(low, next.x))), y: round(next.y) };
  return shape.map((p, k) => (k === i ? moved : p));
}

/**
 * A shape over life, edited in place: drag points, double-click to add one, Delete to remove it.
 * The chosen point is also typed in numbers, with the ease of the way to the next.
 */
export function ShapeEditor({ label, shape, onChange, onSettle, rate }: Props) {
  const [chosen, setChosen] = useState<number | null>(null);
  const change = (i: number, part: Partial<Point>): void => {
    onChange(withPoint(shape, i, part));
  };
  const { surface, hold, handlers } = useHolding<SVGSVGElement>((i, event) => {
    change(i, placeOf(event));
  }, onSettle);
  const add = (event: MouseEvent): void => {
    const place = placeOf(event);
    const at = shape.findIndex((p) => p.x > place.x);
    const index = at < 0 ? shape.length : at;
    onChange([...shape.slice(0, index), place, ...shape.slice(index)]);
    onSettle();
    setChosen(index);
  };
  const remove = (i: number): void => {
    if (shape.length <= 2) return;
    onChange(shape.filter((_, k) => k !== i));
    onSettle();
    setChosen(null);
  };
  const point = chosen === null ? undefined : shape[chosen];
  return (
    <Box>
      <svg
        ref={surface}
        role="group"
        aria-label={`${label} over life`}
        viewBox={`0 0 ${String(W)} ${String(H)}`}
        preserveAspectRatio="none"
        {...handlers}
        onDoubleClick={add}
        style={{
          width: '100%',
          height: H,
          overflow: 'visible',
          display: 'block',
          touchAction: 'none',
        }}
      >
        <Line shape={shape} />
        {shape.map((p, i) => (
          <PointMark
            key={i}
            label={`${label}, point ${String(i + 1)}`}
            point={p}
            chosen={chosen === i}
            onChoose={() => {
              setChosen(i);
            }}
            onHold={(pointer) => {
              hold(i, pointer);
            }}
            onMove={(part) => {
              change(i, part);
            }}
            onRemove={() => {
              remove(i);
            }}
          />
        ))}
      </svg>
      {point && (
        <PointNumbers
          {...{ label, point, rate, onSettle }}
          onChange={(part) => {
            change(chosen!, part);
          }}
        />
      )}
    </Box>
  );
}

function Line({ shape }: { shape: Shape }) {
  return (
    <>
      <path
        d={`${shapePath(shape, W, H)}L${String(W)} ${String(H)}L0 ${String(H)}Z`}
        fill={COLOURS.glass}
        opacity={0.13}
      />
      <path
        d={shapePath(shape, W, H)}
        fill="none"
        stroke={COLOURS.glass}
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
    </>
  );
}

interface MarkProps {
  label: string;
  point: Point;
  chosen: boolean;
  onChoose: () => void;
  /** It is taken hold of by a pointer. */
  onHold: (pointer: number) => void;
  onMove: (part: Partial<Point>) => void;
  onRemove: () => void;
}

function PointMark({ label, point, chosen, onChoose, onHold, onMove, onRemove }: MarkProps) {
  const keys = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 0.1 : 0.01;
    const moves: Record<string, Partial<Point> | undefined> = {
      ArrowLeft: { x: point.x - step },
      ArrowRight: { x: point.x + step },
      ArrowUp: { y: Math.min(1, point.y + step) },
      ArrowDown: { y: Math.max(0, point.y - step) },
    };
    const move = moves[event.key];
    if (move) {
      event.preventDefault();
      onMove(move);
    } else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
  };
  return (
    <circle
      cx={point.x * W}
      cy={(1 - point.y) * H}
      r={4}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuenow={point.y}
      aria-valuetext={`${String(point.y)} at ${String(point.x)}`}
      fill={chosen ? COLOURS.amber : COLOURS.sheet}
      stroke={chosen ? COLOURS.amber : COLOURS.glass}
      strokeWidth={1.5}
      style={{ cursor: 'grab' }}
      onPointerDown={(event: PointerEvent) => {
        onHold(event.pointerId);
        onChoose();
      }}
      onFocus={onChoose}
      onKeyDown={keys}
    />
  );
}

interface NumbersProps extends Pick<Props, 'label' | 'rate' | 'onSettle'> {
  point: Point;
  onChange: (part: Partial<Point>) => void;
}

/** The chosen point in numbers. */
function PointNumbers({ label, point, rate, onChange, onSettle }: NumbersProps) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', mt: '3px' }}>
      {(['x', 'y'] as const).map((axis) => (
        <NumberField
          key={axis}
          label={`${label}, ${axis === 'x' ? 'part of life' : 'factor'}`}
          value={point[axis]}
          spec={FRACTION}
          rate={rate}
          width={44}
          onChange={(v) => {
            onChange({ [axis]: v });
          }}
          onSettle={onSettle}
        />
      ))}
      <EaseSelect
        label={`${label}, way to the next point`}
        ease={point.ease}
        onChange={(ease) => {
          onChange({ ease });
          onSettle();
        }}
      />
    </Stack>
  );
}

export function EaseSelect(props: {
  label: string;
  ease: Ease | undefined;
  onChange: (ease: Ease) => void;
}) {
  return (
    <Select
      variant="standard"
      disableUnderline
      value={props.ease ?? 'smooth'}
      onChange={(e) => {
        props.onChange(e.target.value);
      }}
      inputProps={{ 'aria-label': props.label }}
      sx={{ fontSize: 12, ml: 0.5, '& .MuiSelect-select': { py: 0 } }}
    >
      {EASES.map((ease) => (
        <MenuItem key={ease} value={ease}>
          {ease}
        </MenuItem>
      ))}
    </Select>
  );
}
