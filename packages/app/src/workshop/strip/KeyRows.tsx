import { Box } from '@mui/material';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { Scene, type Key, type Keys, type Part } from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { keysAtTime, withKey } from './keyEdits';

const HEIGHT = 36;
const POINTS = 240;

/** A row for each signal: its curve over the piece's time, and the keys of keyframes. */
export function KeyRows({ seconds }: { seconds: number }) {
  const piece = usePiece();
  const scene = new Scene(piece);
  return piece.signals.map((signal, at) => (
    <Row key={signal.id} signal={signal} at={at} seconds={seconds} scene={scene} />
  ));
}

interface RowProps {
  signal: Part;
  at: number;
  seconds: number;
  scene: Scene;
}

function Row({ signal, at, seconds, scene }: RowProps) {
  const dispatch = useAppDispatch();
  const chosen = useApp(
    (s) => s.piece.selection?.list === 'signals' && s.piece.selection.id === signal.id,
  );
  const box = useRef<HTMLDivElement>(null);
  const dragging = useRef<number | null>(null);
  const values = Array.from({ length: POINTS + 1 }, (_, i) =>
    scene.signal(signal.id, (seconds * i) / POINTS),
  );
  const keys = signal.kind === 'keyframes' ? (signal.dials.keys as Keys) : [];
  const all = [...values, ...keys.map((k) => k.value)];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const span = high - low || 1;
  const y = (v: number): number => HEIGHT - 6 - ((v - low) / span) * (HEIGHT - 12);
  const d = values
    .map((v, i) => `${i ? 'L' : 'M'}${((100 * i) / POINTS).toFixed(2)} ${y(v).toFixed(1)}`)
    .join('');

  const put = (next: Keys): void => {
    const path = ['signals', at, 'dials', 'keys'];
    dispatch(pieceActions.set({ path, value: next, label: 'Keys', merge: `keys.${signal.id}` }));
  };
  const change = (i: number, part: Partial<Key>): void => {
    const [before, after] = [keys[i - 1]?.at ?? 0, keys[i + 1]?.at ?? 3600];
    const next = { ...keys[i]!, ...part };
    // Keys keep their order: one does not go past its neighbours.
    const inside = Math.min(after, Math.max(before, Math.max(0, next.at)));
    const round = (v: number): number => Math.round(v * 1e3) / 1e3;
    put(
      keys.map((k, n) => (n === i ? { ...next, at: round(inside), value: round(next.value) } : k)),
    );
  };
  const placeOf = (event: { clientX: number; clientY: number }): Pick<Key, 'at' | 'value'> => {
    const frame = box.current!.getBoundingClientRect();
    const part = 1 - (event.clientY - frame.top - 6) / (HEIGHT - 12);
    return {
      at: (seconds * (event.clientX - frame.left)) / frame.width,
      value: low + span * Math.min(1.2, Math.max(-0.2, part)),
    };
  };
  const move = (event: PointerEvent): void => {
    if (dragging.current === null) return;
    event.stopPropagation();
    change(dragging.current, placeOf(event));
  };
  const press = (event: KeyboardEvent, i: number): void => {
    const key = keys[i]!;
    const step = event.shiftKey ? 1 : 0.1;
    const moves: Record<string, Partial<Key>> = {
      ArrowLeft: { at: key.at - step },
      ArrowRight: { at: key.at + step },
      ArrowUp: { value: key.value + step },
      ArrowDown: { value: key.value - step },
    };
    if (moves[event.key]) change(i, moves[event.key]!);
    else if ((event.key === 'Delete' || event.key === 'Backspace') && keys.length > 1) {
      put(keys.filter((_, n) => n !== i));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      ref={box}
      role="group"
      aria-label={`${signal.name} over time`}
      onDoubleClick={(event) => {
        if (signal.kind !== 'keyframes') return;
        const { at: time } = placeOf(event);
        put(withKey(keys, { at: time, value: keysAtTime(keys, time) }));
        dispatch(pieceActions.settled());
      }}
      onPointerMove={move}
      onPointerUp={() => {
        if (dragging.current !== null) dispatch(pieceActions.settled());
        dragging.current = null;
      }}
      sx={{ position: 'relative', height: HEIGHT, borderTop: `1px solid ${COLOURS.line}` }}
    >
      <Box
        component="button"
        onClick={() => dispatch(pieceActions.selected({ list: 'signals', id: signal.id }))}
        onPointerDown={(event: PointerEvent) => {
          event.stopPropagation();
        }}
        sx={{
          ...{ position: 'absolute', left: -92, width: 86, top: 8, fontSize: 12, p: 0 },
          ...{ color: chosen ? COLOURS.amber : COLOURS.faint, background: 'none', border: 0 },
          ...{ textAlign: 'left', fontFamily: 'inherit', cursor: 'pointer', overflow: 'hidden' },
          ...{ textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
        }}
      >
        {signal.name}
      </Box>
      <svg
        viewBox={`0 0 100 ${String(HEIGHT)}`}
        preserveAspectRatio="none"
        aria-hidden
        style={{ width: '100%', height: HEIGHT, display: 'block' }}
      >
        <path
          d={d}
          fill="none"
          stroke={chosen ? COLOURS.amber : COLOURS.glass}
          strokeWidth={1.3}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {keys.map((key, i) => (
        <Box
          key={i}
          role="slider"
          tabIndex={0}
          aria-label={`${signal.name}, key ${String(i + 1)}`}
          aria-valuenow={key.value}
          aria-valuetext={`${String(key.value)} at ${String(key.at)} s`}
          onPointerDown={(event: PointerEvent) => {
            event.stopPropagation();
            box.current!.setPointerCapture(event.pointerId);
            dragging.current = i;
          }}
          onKeyDown={(event: KeyboardEvent) => {
            press(event, i);
          }}
          sx={{
            ...{ position: 'absolute', width: 10, height: 10, cursor: 'grab' },
            left: `calc(${String((100 * key.at) / Math.max(1e-6, seconds))}% - 5px)`,
            top: y(key.value) - 5,
            bgcolor: chosen ? COLOURS.amber : COLOURS.glass,
            clipPath: 'polygon(50% 0, 100% 50%, 50% 100%, 0 50%)',
          }}
        />
      ))}
    </Box>
  );
}
