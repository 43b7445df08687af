import { memo, useMemo, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react';
import type { Key, Keys } from '@vast-swarm/core/feeds';
import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { useHolding } from '../ui/useHolding';
import { useSignal } from '../answers/useSignal';
import { useStrip } from './StripContext';
import { keysAtTime, withKey } from '../store/keyEdits';
import { Lane } from './Lane';
import { RowName } from './RowName';

const HEIGHT = 36;
const POINTS = 240;

/** A row for each signal: its curve over the piece's time, and the keys of keyframes. */
export function KeyRows() {
  const signals = useApp((s) => s.piece.piece!.signals);
  return signals.map((signal, at) => <Row key={signal.id} signal={signal} at={at} />);
}

const NONE: Keys = [];

/** The keys of a signal, by the type of its dial; none of one that has no such dial. */
function keysOf({ kind, dials }: Part): Keys {
  const specs = Object.entries(kindOf('signals', kind).dials);
  const [key] = specs.find(([, { type }]) => type === 'keys') ?? [];
  return key === undefined ? NONE : (dials[key] as Keys);
}

interface RowProps {
  signal: Part;
  at: number;
}

/** A signal over the piece's time, and how its values stand in the row. */
interface Curve {
  /** The d of an SVG path, 100 wide. */
  d: string;
  y: (value: number) => number;
  /** The value at a part of the height, from 0 below to 1 above. */
  valueAt: (part: number) => number;
}

function curveOf(
  at: (time: number) => number,
  keys: Keys,
  [from, to]: readonly [number, number],
): Curve {
  const values = Array.from({ length: POINTS + 1 }, (_, i) =>
    at(from + ((to - from) * i) / POINTS),
  );
  const all = [...values, ...keys.map((k) => k.value)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const span = high - low || 1;
  const y = (v: number): number => HEIGHT - 6 - ((v - low) / span) * (HEIGHT - 12);
  const d = values
    .map((v, i) => `${i ? 'L' : 'M'}${((100 * i) / POINTS).toFixed(2)} ${y(v).toFixed(1)}`)
    .join('');
  return { d, y, valueAt: (part) => low + span * Math.min(1.2, Math.max(-0.2, part)) };
}

/** Changes of a signal's keys. */
function useKeyChanges(signal: Part, at: number, keys: Keys) {
  const dispatch = useAppDispatch();
  const put = (next: Keys): void => {
    const path = ['signals', at, 'dials', 'keys'];
    dispatch(pieceActions.set({ path, value: next, label: 'Keys', merge: `keys.${signal.id}` }));
  };
  return {
    put,
    change: (i: number, part: Partial<Key>): void => {
      const [before, after] = [keys[i - 1]?.at ?? 0, keys[i + 1]?.at ?? 3600];
      const next = { ...keys[i]!, ...part };
      // Keys keep their order: one does not go past its neighbours.
      const inside = Math.min(after, Math.max(before, Math.max(0, next.at)));
      const round = (v: number): number => Math.round(v * 1e3) / 1e3;
      const moved = { ...next, at: round(inside), value: round(next.value) };
      put(keys.map((k, n) => (n === i ? moved : k)));
    },
    settle: () => void dispatch(pieceActions.settled()),
  };
}

const Row = memo(function Row({ signal, at }: RowProps) {
  const { view, rate, percent, frameAt, snap } = useStrip();
  const chosen = useApp(
    (s) => s.piece.selection?.list === 'signals' && s.piece.selection.id === signal.id,
  );
  const keys = keysOf(signal);
  const value = useSignal(signal.id);
  const [from, to] = [view.from / rate, view.to / rate];
  const curve = useMemo(() => curveOf(value, keys, [from, to]), [value, keys, from, to]);
  const { put, change, settle } = useKeyChanges(signal, at, keys);
  const placeOf = (event: MouseEvent): Pick<Key, 'at' | 'value'> => {
    const { top } = event.currentTarget.getBoundingClientRect();
    const part = 1 - (event.clientY - top - 6) / (HEIGHT - 12);
    return { at: snap(frameAt(event), event) / rate, value: curve.valueAt(part) };
  };
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((i, event) => {
    event.stopPropagation();
    change(i, placeOf(event));
  }, settle);
  return (
    <Lane height={HEIGHT} name={<RowName list="signals" part={signal} chosen={chosen} />}>
      <div
        ref={surface}
        role="group"
        aria-label={`${signal.name} over time`}
        onDoubleClick={(event) => {
          if (signal.kind !== 'keyframes') return;
          const { at: time } = placeOf(event);
          put(withKey(keys, { at: time, value: keysAtTime(keys, time) }));
          settle();
        }}
        {...handlers}
        style={{ position: 'absolute', inset: 0 }}
      >
        <svg
          viewBox={`0 0 100 ${String(HEIGHT)}`}
          preserveAspectRatio="none"
          aria-hidden
          style={{ width: '100%', height: HEIGHT, display: 'block' }}
        >
          <path
            d={curve.d}
            fill="none"
            stroke={chosen ? COLOURS.amber : COLOURS.glass}
            strokeWidth={1.3}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {keys.map((key, i) => (
          <KeyMark
            key={i}
            label={`${signal.name}, key ${String(i + 1)}`}
            mark={key}
            chosen={chosen}
            left={`calc(${percent(key.at * rate)} - 5px)`}
            top={curve.y(key.value) - 5}
            onHold={(pointer) => {
              hold(i, pointer);
            }}
            onMove={(part) => {
              change(i, part);
            }}
            onRemove={() => {
              if (keys.length > 1) put(keys.filter((_, n) => n !== i));
            }}
          />
        ))}
      </div>
    </Lane>
  );
});

interface MarkProps {
  label: string;
  mark: Key;
  chosen: boolean;
  left: string;
  top: number;
  /** It is taken hold of by a pointer. */
  onHold: (pointer: number) => void;
  onMove: (part: Partial<Key>) => void;
  onRemove: () => void;
}

/** A key that can be dragged, moved by the arrow keys, and removed. */
function KeyMark({ label, mark, chosen, left, top, onHold, onMove, onRemove }: MarkProps) {
  const press = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 1 : 0.1;
    const moves: Record<string, Partial<Key> | undefined> = {
      ArrowLeft: { at: mark.at - step },
      ArrowRight: { at: mark.at + step },
      ArrowUp: { value: mark.value + step },
      ArrowDown: { value: mark.value - step },
    };
    const move = moves[event.key];
    if (move) onMove(move);
    else if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={mark.value}
      aria-valuetext={`${String(mark.value)} at ${String(mark.at)} s`}
      onPointerDown={(event: PointerEvent) => {
        event.stopPropagation();
        onHold(event.pointerId);
      }}
      onKeyDown={press}
      style={{
        position: 'absolute',
        width: 10,
        height: 10,
        cursor: 'grab',
        left,
        top,
        backgroundColor: chosen ? COLOURS.amber : COLOURS.glass,
        clipPath: 'polygon(50% 0, 100% 50%, 50% 100%, 0 50%)',
      }}
    />
  );
}
