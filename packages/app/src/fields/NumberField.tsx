import { Tooltip } from '@mui/material';
import { useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { NumberDial, VectorDial } from '@vast-swarm/core/kinds';
import { readAmount, showAmount } from './amount';

interface Props {
  label: string;
  value: number;
  spec: Pick<NumberDial | VectorDial, 'min' | 'max' | 'unit'> & Pick<NumberDial, 'whole' | 'drag'>;
  rate: number;
  onChange: (value: number) => void;
  /** The change is over: the next one is a step of its own to undo. */
  onSettle: () => void;
  onReset?: () => void;
  width?: number | string;
  hideUnit?: boolean;
}

/** How far one pixel of sideways dragging goes, as a part of the value's own size. */
const PER_PIXEL = 0.006;

type Spec = Props['spec'];

/** A number within the limits, as it is kept. */
function kept(spec: Spec, value: number): number {
  const inside = Math.min(spec.max, Math.max(spec.min, value));
  return spec.whole ? Math.round(inside) : Number(inside.toPrecision(6));
}

/** How far one press of an arrow key goes. */
function stepOf(spec: Spec, value: number): number {
  const size = Math.max(Math.abs(value), spec.drag === 'log' ? 0 : Math.min(spec.max, 10) * 0.05);
  if (spec.whole) return Math.max(1, Math.round(size * 0.01));
  return 10 ** Math.floor(Math.log10(Math.max(size * 0.01, 1e-4) * 5));
}

const factorOf = (event: { shiftKey: boolean; altKey: boolean }): number =>
  event.shiftKey ? 10 : event.altKey ? 0.1 : 1;

/** Sideways dragging changes the number; a press without a drag is for typing. */
function useDragging(
  input: RefObject<HTMLInputElement | null>,
  { value, spec, onSettle }: Pick<Props, 'value' | 'spec' | 'onSettle'>,
  put: (value: number) => void,
) {
  const drag = useRef<{ x: number; from: number; moved: boolean } | null>(null);
  return {
    onPointerDown: (event: PointerEvent): void => {
      if (document.activeElement === input.current || event.button !== 0) return;
      event.preventDefault();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, from: value, moved: false };
    },
    onPointerMove: (event: PointerEvent): void => {
      const d = drag.current;
      if (!d) return;
      const dx = event.clientX - d.x;
      if (!d.moved && Math.abs(dx) < 3) return;
      d.moved = true;
      const way = dx * PER_PIXEL * factorOf(event);
      if (spec.drag === 'log' && d.from > 0) put(d.from * Math.exp(way * 2));
      else {
        const size = Math.max(Math.abs(d.from), Math.min(spec.max - spec.min, 20) * 0.1);
        put(d.from + way * size);
      }
    },
    onPointerUp: (event: PointerEvent): void => {
      const d = drag.current;
      drag.current = null;
      if (!d) return;
      event.currentTarget.releasePointerCapture(event.pointerId);
      if (d.moved) onSettle();
      else {
        input.current?.select();
        input.current?.focus();
      }
    },
  };
}

/**
 * One number: typed (with units and sums), dragged sideways, or stepped with the arrow keys (Shift
 * by ten, Alt by a tenth). Double-click resets.
 */
export function NumberField(props: Props) {
  const { label, value, spec, rate, onChange, onSettle, onReset, width = 74, hideUnit } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const wrong = typed !== null && readAmount(typed, spec.unit, rate) === null;
  const put = (next: number): void => {
    const rounded = kept(spec, next);
    if (rounded !== value) onChange(rounded);
  };
  const dragging = useDragging(input, props, put);
  const commit = (): void => {
    if (typed === null) return;
    const amount = readAmount(typed, spec.unit, rate);
    if (amount !== null) put(amount);
    setTyped(null);
    onSettle();
  };
  const keys = (event: KeyboardEvent): void => {
    const up = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (up) {
      event.preventDefault();
      setTyped(null);
      put(value + up * stepOf(spec, value) * factorOf(event));
    } else if (event.key === 'Enter') {
      commit();
      input.current?.select();
    } else if (event.key === 'Escape') {
      setTyped(null);
      input.current?.blur();
    }
  };
  const field = (
    <div
      {...dragging}
      className="numberField"
      onDoubleClick={onReset}
      style={{ width, flexShrink: width === '100%' ? 1 : 0 }}
    >
      <input
        ref={input}
        type="text"
        value={typed ?? showAmount(value, spec.whole)}
        onChange={(e) => {
          setTyped(e.target.value);
        }}
        onBlur={commit}
        onKeyDown={keys}
        aria-label={label}
        aria-invalid={wrong}
        inputMode="decimal"
      />
      {!hideUnit && spec.unit && <span>{spec.unit}</span>}
    </div>
  );
  if (!wrong) return field;
  return (
    <Tooltip open title={`A number, a sum, or a number with ${spec.unit || 'no unit'} is wanted`}>
      {field}
    </Tooltip>
  );
}
