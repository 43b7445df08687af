import { Box } from '@mui/material';
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { COLOURS, MONO } from '../ui/theme';

/** Tells a fader its number, each time that it may be another. */
export interface Told<T> {
  read: () => T;
  subscribe: (listener: () => void) => () => void;
}

interface Props {
  name: string;
  unit: string;
  min: number;
  max: number;
  /** Pixels. */
  height: number;
  told: Told<number>;
  /** @param held whether it goes on being held */
  onSet: (value: number, held: boolean) => void;
  onLetGo: () => void;
  onReset: () => void;
}

/** With as many digits as its range has a use for. */
function shown(value: number, range: number): string {
  const digits = range >= 1000 ? 0 : range >= 50 ? 1 : range >= 5 ? 2 : 3;
  return value.toFixed(digits);
}

/** Milliseconds in which what was set is told. */
const TOLD_IN = 400;

/** Parts of the range that a key goes. */
const STEPS: Record<string, number> = {
  ArrowRight: 0.01,
  ArrowUp: 0.01,
  ArrowLeft: -0.01,
  ArrowDown: -0.01,
  PageUp: 0.1,
  PageDown: -0.1,
  Home: -Infinity,
  End: Infinity,
};

/**
 * A number between two ends, set by pressing and dragging anywhere on it. It moves at every frame, so what moves is
 * written straight on its elements.
 */
export function Fader(props: Props) {
  const { name, unit, min, max, height, told, onSet, onLetGo, onReset } = props;
  const range = max - min;
  const surface = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLDivElement>(null);
  const text = useRef<HTMLSpanElement>(null);
  const held = useRef(false);
  /** The number that a key set last: presses that follow go on from there, also before it is told. */
  const pressed = useRef({ value: 0, at: -Infinity });
  const show = (value: number): void => {
    const part = range > 0 ? Math.min(1, Math.max(0, (value - min) / range)) : 0;
    bar.current!.style.transform = `scaleX(${String(part)})`;
    const words = `${shown(value, range)}${unit && ` ${unit}`}`;
    if (text.current!.textContent === words) return;
    text.current!.textContent = words;
    surface.current!.setAttribute('aria-valuenow', String(value));
    surface.current!.setAttribute('aria-valuetext', words);
  };
  useEffect(() => {
    const tell = (): void => {
      if (!held.current) show(told.read());
    };
    tell();
    return told.subscribe(tell);
  });
  const set = (value: number, hold: boolean): void => {
    const inside = Math.min(max, Math.max(min, value));
    show(inside);
    onSet(inside, hold);
  };
  const pointed = ({ clientX, currentTarget }: PointerEvent): void => {
    const box = currentTarget.getBoundingClientRect();
    set(min + range * ((clientX - box.left) / box.width), true);
  };
  const keys = (event: KeyboardEvent): void => {
    const step = STEPS[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const by = Number.isFinite(step) ? step * range * (event.shiftKey ? 10 : 1) : step;
    const { value, at } = pressed.current;
    const now = performance.now();
    const next = Math.min(max, Math.max(min, (now - at < TOLD_IN ? value : told.read()) + by));
    pressed.current = { value: next, at: now };
    set(next, false);
  };
  const letGo = (): void => {
    if (!held.current) return;
    held.current = false;
    onLetGo();
  };
  return (
    <Box
      ref={surface}
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuemin={min}
      aria-valuemax={max}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
        pointed(event);
      }}
      onPointerMove={(event) => {
        if (held.current) pointed(event);
      }}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      onDoubleClick={onReset}
      onKeyDown={keys}
      sx={{
        position: 'relative',
        height,
        borderRadius: 0.75,
        overflow: 'hidden',
        bgcolor: COLOURS.raised,
        cursor: 'ew-resize',
        touchAction: 'none',
        display: 'flex',
        alignItems: 'center',
        px: 1,
        gap: 1,
        fontSize: height > 40 ? 16 : 13,
      }}
    >
      <Box
        ref={bar}
        sx={{
          position: 'absolute',
          inset: 0,
          transformOrigin: 'left',
          bgcolor: COLOURS.glass,
          opacity: 0.28,
          pointerEvents: 'none',
        }}
      />
      <Box sx={{ ...CUT, flex: 1, minWidth: 0, position: 'relative' }}>{name}</Box>
      <Box
        component="span"
        ref={text}
        sx={{ position: 'relative', fontFamily: MONO, fontVariantNumeric: 'tabular-nums' }}
      />
    </Box>
  );
}

const CUT = { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' } as const;
