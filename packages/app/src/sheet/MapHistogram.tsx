import { Box } from '@mui/material';
import { useMemo, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import type { MapChannel } from '@vast-swarm/core/feeds';
import type { Part } from '@vast-swarm/core/piece';
import type { Picture } from '@vast-swarm/core/stock';
import { useStockData } from '../stock/useStockData';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { PictureCanvas } from '../ui/PictureCanvas';
import { useMoving } from '../answers/useMoving';
import { useSeen } from '../answers/useSeen';
import { BINS, histogramOf } from './histogram';

const [W, H] = [176, 40];
/** Size of the source as it is shown beside it. */
const [WIDE, HIGH] = [71, 40];
/** Milliseconds from look to look at what moves. */
const EVERY = 400;

interface Limits {
  label: string;
  channel: MapChannel;
  low: number;
  high: number;
  onLow: (value: number) => void;
  onHigh: (value: number) => void;
  onSettle: () => void;
}

/** The source of a map, with the limits of what counts on its histogram. */
export function MapHistogram({ picture, ...limits }: Limits & { picture: string }) {
  const part = usePiece().pictures.find((p) => p.id === picture);
  return part ? <OfMoving part={part} {...limits} /> : <OfStock id={picture} {...limits} />;
}

function OfStock({ id, ...limits }: Limits & { id: string }) {
  const data = useStockData(usePiece(), id);
  return data?.type === 'picture' ? <Drawn picture={data} {...limits} /> : null;
}

function OfMoving({ part, ...limits }: Limits & { part: Part }) {
  const picture = useSeen(useMoving(part), EVERY);
  return picture && <Drawn picture={picture} {...limits} />;
}

function Drawn({ picture, ...limits }: Limits & { picture: Picture }) {
  const chart = useRef<SVGSVGElement>(null);
  const { channel, low, high } = limits;
  const bars = useMemo(() => histogramOf(picture, channel), [picture, channel]);
  const [from, to] = [Math.min(low, high), Math.max(low, high)];
  return (
    <Box sx={{ display: 'flex', gap: '6px', my: '3px' }}>
      <PictureCanvas picture={picture} width={WIDE} height={HIGH} />
      <svg
        ref={chart}
        width={W}
        height={H}
        role="group"
        aria-label={`${limits.label}, how often each value is there`}
        style={{ background: COLOURS.ground, overflow: 'visible' }}
      >
        {Array.from(bars, (v, i) => (
          <rect
            key={i}
            x={(i * W) / BINS}
            width={W / BINS - 0.6}
            // The root shows what is rare too.
            y={H - Math.sqrt(v) * (H - 3)}
            height={Math.sqrt(v) * (H - 3)}
            fill={(i + 0.5) / BINS >= from && (i + 0.5) / BINS <= to ? COLOURS.glass : COLOURS.line}
          />
        ))}
        <Limit {...limits} chart={chart} which="least" value={low} onChange={limits.onLow} />
        <Limit {...limits} chart={chart} which="most" value={high} onChange={limits.onHigh} />
      </svg>
    </Box>
  );
}

interface LimitProps extends Limits {
  chart: RefObject<SVGSVGElement | null>;
  which: 'least' | 'most';
  value: number;
  onChange: (value: number) => void;
}

/** A limit that is dragged where it stands. */
function Limit({ chart, label, which, value, onChange, onSettle }: LimitProps) {
  const held = useRef(false);
  const put = (v: number): void => {
    onChange(Math.round(1000 * Math.min(1, Math.max(0, v))) / 1000);
  };
  const x = value * W;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${label}, ${which} that counts, on the histogram`}
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={value}
      style={{ cursor: 'ew-resize', touchAction: 'none' }}
      onKeyDown={(event: KeyboardEvent) => {
        const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
        if (!way) return;
        event.preventDefault();
        put(value + way * (event.shiftKey ? 0.1 : 0.01));
        onSettle();
      }}
      onPointerDown={(event: PointerEvent) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = true;
      }}
      onPointerMove={(event: PointerEvent) => {
        if (!held.current) return;
        put((event.clientX - chart.current!.getBoundingClientRect().left) / W);
      }}
      onPointerUp={() => {
        held.current = false;
        onSettle();
      }}
    >
      <rect x={x - 6} y={0} width={12} height={H} fill="transparent" />
      <line x1={x} x2={x} y1={0} y2={H} stroke={COLOURS.amber} strokeWidth={1.4} />
      <circle cx={x} cy={which === 'least' ? H : 0} r={4} fill={COLOURS.amber} />
    </g>
  );
}
