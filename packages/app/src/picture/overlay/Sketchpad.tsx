import { Box } from '@mui/material';
import type { KeyboardEvent, ReactNode } from 'react';
import { useAppDispatch } from '../../store/store';
import { toolActions } from '../../store/toolSlice';
import { COLOURS } from '../../ui/theme';
import { useStroke, type Spot } from './useStroke';

interface Props {
  label: string;
  size: { width: number; height: number };
  /** Pixels from one point of a line to the next. */
  grain: number;
  onStroke: (line: readonly Spot[]) => void;
  /** More to be drawn; gets the line in the making. */
  children?: (line: readonly Spot[]) => ReactNode;
}

/** Lies over the picture while something is drawn in it; Escape puts the tool away. */
export function Sketchpad({ label, size, grain, onStroke, children }: Props) {
  const dispatch = useAppDispatch();
  const { line, events } = useStroke(grain, onStroke);
  return (
    <Box
      role="application"
      aria-label={label}
      tabIndex={0}
      onKeyDown={(event: KeyboardEvent) => {
        if (event.key === 'Escape') dispatch(toolActions.toolChosen(null));
      }}
      {...events}
      sx={{ position: 'absolute', inset: 0, cursor: 'crosshair', touchAction: 'none' }}
    >
      <svg width={size.width} height={size.height} aria-hidden>
        {children?.(line)}
        <polyline
          points={line.map((p) => p.join()).join(' ')}
          fill="none"
          stroke={COLOURS.amber}
          strokeWidth={2}
        />
      </svg>
    </Box>
  );
}
