import { Box } from '@mui/material';
import { useEffect, useMemo, useRef } from 'react';
import { useEngine } from '../engine/EngineContext';
import { usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { useSignal } from '../answers/useSignal';
import { showAmount } from '../fields/amount';

const POINTS = 160;
const W = 320;

interface Props {
  id: string;
  label: string;
  height: number;
  /** The dial's value for one of the signal. */
  map?: (value: number) => number;
}

/** A signal over the piece's time, with where it is now as a dot and a number. */
export function SignalCurve({ id, label, height, map }: Props) {
  const piece = usePiece();
  const engine = useEngine();
  const dot = useRef<SVGCircleElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const { rate, length } = piece.frame;
  const seconds = length / rate;
  const at = useSignal(id);
  const curve = useMemo(() => {
    const values = Array.from({ length: POINTS + 1 }, (_, i) => at((seconds * i) / POINTS));
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const span = high - low || 1;
    const y = (v: number): number => height - 4 - ((v - low) / span) * (height - 8);
    const d = values
      .map((v, i) => `${i ? 'L' : 'M'}${((i * W) / POINTS).toFixed(1)} ${y(v).toFixed(1)}`)
      .join('');
    return { d, y };
  }, [at, seconds, height]);

  useEffect(() => {
    const put = (): void => {
      const time = Math.max(0, engine.report?.frame ?? 0) / rate;
      const value = at(time);
      dot.current!.setAttribute('cx', ((time / seconds) * W).toFixed(1));
      dot.current!.setAttribute('cy', curve.y(value).toFixed(1));
      number.current!.textContent = showAmount(map ? map(value) : value);
    };
    put();
    return engine.subscribe(put);
  }, [engine, at, rate, seconds, curve, map]);

  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, minWidth: 0 }}>
      <svg
        role="img"
        aria-label={`${label} over time`}
        viewBox={`0 0 ${String(W)} ${String(height)}`}
        preserveAspectRatio="none"
        style={{ flex: 1, minWidth: 0, height, overflow: 'visible' }}
      >
        <path
          d={curve.d}
          fill="none"
          stroke={COLOURS.glass}
          strokeWidth={1.3}
          vectorEffect="non-scaling-stroke"
        />
        <circle ref={dot} r={3} fill={COLOURS.amber} />
      </svg>
      <Box
        component="span"
        ref={number}
        sx={{ fontFamily: MONO, fontSize: 11.5, color: COLOURS.glass, minWidth: '6ch' }}
      />
    </Box>
  );
}
