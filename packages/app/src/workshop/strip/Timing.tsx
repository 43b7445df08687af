import { Box } from '@mui/material';
import {
  useEffect,
  useMemo,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { birthsIn, type Swarm } from '@vast-swarm/core';
import { useEngine } from '../../engine/EngineContext';
import { useApp } from '../../store/store';
import { COLOURS, MONO } from '../../theme';
import { KeyRows } from './KeyRows';
import { SoundRows } from './SoundRows';

/** Distance of ruler marks: the shortest round number of frames that leaves room for a label. */
function spacing(length: number): number {
  const least = length / 12;
  const size = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  return [1, 2, 5, 10].map((k) => k * size).find((s) => s >= least) ?? size * 10;
}

/** What the strip shows of a swarm, in seconds. */
type Span = Pick<Swarm, 'id' | 'name' | 'on'> &
  Record<'start' | 'end' | 'burst' | 'burstAt' | 'burstEvery', number> & {
    /** Whether it is born from start to end, or in bursts only. */
    steady: boolean;
  };

function spanOf({ id, name, on, dials }: Swarm): Span {
  const dial = (key: string): number => dials[key] as number;
  const { rate, burst } = birthsIn(dials);
  const span = { id, name, on, start: dial('start'), end: dial('end'), steady: rate !== 0 };
  if (dials.when === 'once') return { ...span, burst: 1, burstAt: span.start, burstEvery: 0 };
  return { ...span, burst, burstAt: dial('burstAt'), burstEvery: dial('burstEvery') };
}

/** Most bursts that are marked. */
const MOST_BURSTS = 200;

/** Seconds of a swarm's bursts, up to the end of the piece. */
function burstsOf({ burst, burstAt, burstEvery }: Span, end: number): number[] {
  if (burst === 0) return [];
  if (burstEvery === 0) return [burstAt];
  const count = Math.min(MOST_BURSTS, Math.floor((end - burstAt) / burstEvery) + 1);
  return Array.from({ length: Math.max(0, count) }, (_, i) => burstAt + i * burstEvery);
}

/** Where a frame stands on the strip. */
type Percent = (frame: number) => string;

/** Frames along the top, a bar for the births of each swarm; press anywhere to go there. */
export function Timing() {
  const { length, rate } = useApp((s) => s.piece.piece!.frame);
  const last = length - 1;
  const percent: Percent = (f) => `${String((100 * Math.max(0, f)) / Math.max(1, last))}%`;
  return (
    <Box sx={{ px: 2, pt: 1, pb: 1.5, height: '100%', overflowY: 'auto' }}>
      <TimeSlider last={last} rate={rate}>
        <Ruler length={length} percent={percent} />
        <SwarmRows last={last} rate={rate} percent={percent} />
        <SoundRows last={last} />
        <KeyRows seconds={last / rate} />
      </TimeSlider>
    </Box>
  );
}

interface SliderProps {
  last: number;
  rate: number;
  children: ReactNode;
}

/** The strip itself: a slider over all rows, with the playhead over them. */
function TimeSlider({ last, rate, children }: SliderProps) {
  const engine = useEngine();
  const strip = useRef<HTMLDivElement>(null);
  const playhead = useRef<HTMLDivElement>(null);
  // At every frame: written straight on the elements, since React would take too long.
  useEffect(() => {
    const put = (): void => {
      const now = Math.max(0, engine.report?.frame ?? 0);
      playhead.current!.style.left = `${String((100 * now) / Math.max(1, last))}%`;
      strip.current!.setAttribute('aria-valuenow', String(now));
      const seconds = (now / rate).toFixed(2);
      strip.current!.setAttribute('aria-valuetext', `frame ${String(now)}, ${seconds} seconds`);
    };
    put();
    return engine.subscribe(put);
  }, [engine, last, rate]);
  const scrub = (event: PointerEvent): void => {
    const box = strip.current!.getBoundingClientRect();
    const part = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
    engine.seek(Math.round(part * last));
  };
  const keys = (event: KeyboardEvent): void => {
    const to = frameOfKey(event, engine.place, last);
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    engine.seek(to);
  };
  return (
    <Box
      ref={strip}
      role="slider"
      tabIndex={0}
      aria-label="Time"
      aria-valuemin={0}
      aria-valuemax={last}
      aria-valuenow={0}
      onKeyDown={keys}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        scrub(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons & 1) scrub(event);
      }}
      sx={{ position: 'relative', cursor: 'col-resize', touchAction: 'none', ml: '92px' }}
    >
      {children}
      <Box
        ref={playhead}
        sx={{
          ...{ position: 'absolute', top: 0, bottom: 0, width: '1.5px' },
          ...{ bgcolor: COLOURS.amber, pointerEvents: 'none' },
        }}
      />
    </Box>
  );
}

/** The frame that a key leads to from the present one. */
function frameOfKey({ key, shiftKey }: KeyboardEvent, now: number, last: number) {
  const step = shiftKey ? 10 : 1;
  const to: Record<string, number | undefined> = {
    ArrowLeft: Math.max(0, now - step),
    ArrowRight: Math.min(last, now + step),
    Home: 0,
    End: last,
  };
  return to[key];
}

function Ruler({ length, percent }: { length: number; percent: Percent }) {
  const every = spacing(length);
  const marks = Array.from({ length: Math.floor((length - 1) / every) + 1 }, (_, i) => i * every);
  return (
    <Box sx={{ position: 'relative', height: 22, borderBottom: `1px solid ${COLOURS.line}` }}>
      {marks.map((f) => (
        <Box
          key={f}
          sx={{
            ...{ position: 'absolute', left: percent(f), bottom: 0, pl: '3px' },
            ...{ fontFamily: MONO, fontSize: 11, color: COLOURS.faint },
            borderLeft: `1px solid ${COLOURS.line}`,
          }}
        >
          {f}
        </Box>
      ))}
    </Box>
  );
}

interface RowsProps {
  last: number;
  rate: number;
  percent: Percent;
}

function SwarmRows(props: RowsProps) {
  // Only what the strip shows: most dragged dials change nothing of it.
  const shown = useApp((s) => JSON.stringify(s.piece.piece!.swarms.map(spanOf)));
  const swarms = useMemo(() => JSON.parse(shown) as Span[], [shown]);
  const selected = useApp((s) => s.piece.selection);
  if (swarms.length === 0) {
    return (
      <Box sx={{ color: COLOURS.faint, fontSize: 12.5, pt: 1 }}>
        Each swarm will have a bar here that shows when its particles are born.
      </Box>
    );
  }
  return swarms.map((swarm) => {
    const chosen = selected?.id === swarm.id && selected.list === 'swarms';
    return <SwarmRow key={swarm.id} swarm={swarm} chosen={chosen} {...props} />;
  });
}

/** When a swarm's particles are born: a bar, and a mark for each burst. */
function SwarmRow({
  swarm,
  chosen,
  last,
  rate,
  percent,
}: RowsProps & { swarm: Span; chosen: boolean }) {
  const begin = percent(Math.min(last, swarm.start * rate));
  const end = percent(Math.min(last, swarm.end * rate));
  return (
    <Box sx={{ position: 'relative', height: 22 }}>
      <Box
        sx={{
          ...{ position: 'absolute', left: -92, width: 86, top: 3 },
          ...{ fontSize: 12, color: chosen ? COLOURS.amber : COLOURS.faint },
          ...{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
        }}
      >
        {swarm.name}
      </Box>
      {swarm.steady && (
        <Box
          sx={{
            ...{ position: 'absolute', top: 6, height: 10, borderRadius: 0.5 },
            ...{ left: begin, width: `calc(${end} - ${begin})` },
            bgcolor: chosen ? COLOURS.amber : COLOURS.glass,
            opacity: swarm.on ? 0.55 : 0.15,
          }}
        />
      )}
      {burstsOf(swarm, last / rate).map((at) => (
        <Box
          key={at}
          sx={{
            ...{ position: 'absolute', top: 4, left: `calc(${percent(at * rate)} - 4px)` },
            ...{ width: 9, height: 14, bgcolor: COLOURS.amber },
            clipPath: 'polygon(50% 0, 100% 50%, 50% 100%, 0 50%)',
          }}
        />
      ))}
    </Box>
  );
}
