import { ButtonBase } from '@mui/material';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { COLOURS } from '../ui/theme';

/** Milliseconds that it has to be held. */
const HELD = 333;

interface Props {
  label: string;
  pressed?: boolean;
  colour: string;
  onDone: () => void;
  children: ReactNode;
  /** Pixels. */
  width: number;
}

/** A button against accidents: held for a third of a second, by pointer or key, it acts. */
export function HoldButton({ label, pressed, colour, onDone, children, width }: Props) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const release = (): void => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    setHolding(false);
  };
  const press = (): void => {
    if (timer.current) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      release();
      onDone();
    }, HELD);
  };
  useEffect(() => release, []);
  return (
    <ButtonBase
      aria-label={label}
      aria-pressed={pressed}
      onPointerDown={press}
      onPointerUp={release}
      onPointerLeave={release}
      onKeyDown={(event) => {
        if (event.key === ' ' || event.key === 'Enter') press();
      }}
      onKeyUp={release}
      onBlur={release}
      sx={{
        position: 'relative',
        overflow: 'hidden',
        borderRadius: 1,
        fontFamily: 'inherit',
        border: `2px solid ${colour}`,
        color: pressed ? COLOURS.ground : colour,
        fontSize: 16,
        fontWeight: 600,
        bgcolor: pressed ? colour : 'transparent',
        '&::before': {
          content: '""',
          position: 'absolute',
          inset: 0,
          bgcolor: colour,
          opacity: 0.35,
          transformOrigin: 'left',
          transform: `scaleX(${holding ? '1' : '0'})`,
          transition: holding ? `transform ${String(HELD)}ms linear` : 'none',
        },
        width,
      }}
    >
      {children}
    </ButtonBase>
  );
}
