import { Box } from '@mui/material';
import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import {
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import { shallowEqual } from 'react-redux';
import { useEngine } from '../engine/EngineContext';
import { useApp } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { IconAction } from '../ui/IconAction';
import { beatsIn, hasTempo } from './beats';
import { ROWS } from './rows';
import { StripContext, useStrip, type Strip } from './StripContext';
import { panned, snapped, spacing, wholeOf, withFrame, zoomed, type View } from './view';

/** Room before the rows for their names. */
const NAMES = 92;
/** Pixels from which a beat draws what is dragged. */
const REACH = 6;
/** One turn of a wheel. */
const TURN = 1.25;

/** Frames along the top, a row for each swarm, sound and signal; press anywhere to go there. */
export function Timing() {
  const { length, rate } = useApp((s) => s.piece.piece!.frame);
  const last = length - 1;
  const [chosen, setView] = useState<View | null>(null);
  const view = useMemo(() => {
    const whole = wholeOf(last);
    // A piece that was made shorter is seen as far as it goes.
    return chosen && chosen.to <= whole.to ? chosen : whole;
  }, [chosen, last]);
  const strip = useStripOf(view, last, rate);
  return (
    <Box sx={{ px: 2, pt: 1, pb: 1.5, height: '100%', overflowY: 'auto', overflowX: 'hidden' }}>
      <StripContext value={strip}>
        <TimeSlider onView={setView}>
          <Ruler />
          {ROWS.map(([list, Rows]) => (
            <Rows key={list} />
          ))}
        </TimeSlider>
      </StripContext>
    </Box>
  );
}

function useStripOf(view: View, last: number, rate: number): Strip {
  const paced = useApp((s) => s.piece.piece!.signals.filter(hasTempo), shallowEqual);
  return useMemo(() => {
    const length = view.to - view.from;
    const beats = beatsIn(paced, rate, view);
    const part = (frame: number): number => (frame - view.from) / length;
    return {
      view,
      last,
      rate,
      beats,
      part,
      percent: (frame) => `${String(100 * part(frame))}%`,
      frameAt({ clientX, currentTarget }) {
        const box = currentTarget.getBoundingClientRect();
        return view.from + (length * (clientX - box.left)) / box.width;
      },
      snap(frame, { altKey, currentTarget }) {
        const { width } = currentTarget.getBoundingClientRect();
        return altKey ? frame : snapped(frame, beats, (REACH * length) / width);
      },
    };
  }, [view, last, rate, paced]);
}

/** Nearer and further by the wheel with Ctrl, to and fro by the wheel across or with Shift. */
function useWheel(strip: Strip, onView: (view: View) => void) {
  const surface = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = surface.current!;
    const wheel = (event: WheelEvent): void => {
      const { view, last, frameAt } = strip;
      const across = event.shiftKey ? event.deltaY || event.deltaX : event.deltaX;
      if (event.ctrlKey || event.metaKey) {
        const around = frameAt({ clientX: event.clientX, currentTarget: element });
        onView(zoomed(view, event.deltaY < 0 ? TURN : 1 / TURN, around, last));
      } else if (across !== 0) {
        const { width } = element.getBoundingClientRect();
        onView(panned(view, (across * (view.to - view.from)) / width, last));
      } else return;
      event.preventDefault();
    };
    // Otherwise the browser would make the whole page larger.
    element.addEventListener('wheel', wheel, { passive: false });
    return () => {
      element.removeEventListener('wheel', wheel);
    };
  }, [strip, onView]);
  return surface;
}

/**
 * A line across the strip, on a canvas that is one pixel high: what a browser would have to lay out and paint at every
 * frame for an element that moves costs more than a small piece.
 *
 * @param at 0 to 1 from left to right, or null where it is not in view
 */
function drawPlayhead(canvas: HTMLCanvasElement, at: number | null): void {
  const wide = Math.round(canvas.clientWidth * devicePixelRatio);
  if (canvas.width !== wide) canvas.width = wide;
  const context = canvas.getContext('2d')!;
  context.clearRect(0, 0, wide, 1);
  context.fillStyle = COLOURS.amber;
  if (at !== null) context.fillRect(at * wide, 0, 1.5 * devicePixelRatio, 1);
}

/** The strip itself: a slider over all rows, with beats behind them and the playhead over them. */
function TimeSlider({ onView, children }: { onView: (view: View) => void; children: ReactNode }) {
  const engine = useEngine();
  const strip = useStrip();
  const { view, last, rate } = strip;
  const surface = useWheel(strip, onView);
  const playhead = useRef<HTMLCanvasElement>(null);
  const slider = useRef<HTMLDivElement>(null);
  // At every frame: written straight on the elements, since React would take too long.
  useEffect(() => {
    let seen = -1;
    const put = (): void => {
      const now = Math.max(0, engine.report?.frame ?? 0);
      const inView = now >= view.from && now <= view.to;
      drawPlayhead(playhead.current!, inView ? strip.part(now) : null);
      slider.current!.setAttribute('aria-valuenow', String(now));
      const seconds = (now / rate).toFixed(2);
      slider.current!.setAttribute('aria-valuetext', `frame ${String(now)}, ${seconds} seconds`);
      // The view goes along with what plays, not where somebody looks elsewhere.
      const was = seen >= view.from && seen <= view.to;
      if (was && !inView) onView(withFrame(view, now, last));
      seen = now;
    };
    put();
    return engine.subscribe(put);
  }, [engine, strip, view, last, rate, onView, surface]);
  const scrub = (event: PointerEvent): void => {
    const frame = strip.frameAt({ clientX: event.clientX, currentTarget: surface.current! });
    engine.seek(Math.min(last, Math.max(0, Math.round(frame))));
  };
  const around = (): number => {
    const now = Math.max(0, engine.report?.frame ?? 0);
    return now >= view.from && now <= view.to ? now : (view.from + view.to) / 2;
  };
  const zoom = (factor: number): void => {
    onView(zoomed(view, factor, around(), last));
  };
  const keys = (event: KeyboardEvent): void => {
    const to = frameOfKey(event, engine.place, last);
    if (to !== undefined) engine.seek(to);
    else if (event.key === '+') zoom(2);
    else if (event.key === '-') zoom(0.5);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      ref={surface}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        scrub(event);
      }}
      onPointerMove={(event) => {
        if (event.buttons & 1) scrub(event);
      }}
      sx={{
        position: 'relative',
        isolation: 'isolate',
        cursor: 'col-resize',
        touchAction: 'none',
        ml: `${String(NAMES)}px`,
      }}
    >
      <Zooms
        whole={view.from === 0 && view.to >= last}
        onZoom={zoom}
        onWhole={() => {
          onView(wholeOf(last));
        }}
      />
      <Beats />
      <Box
        ref={slider}
        role="slider"
        tabIndex={0}
        aria-label="Time"
        aria-valuemin={0}
        aria-valuemax={last}
        aria-valuenow={0}
        onKeyDown={keys}
        // Behind the rows: what stands in them is no part of a slider.
        sx={{ position: 'absolute', inset: 0, zIndex: -1 }}
      />
      {children}
      <Box
        component="canvas"
        ref={playhead}
        height={1}
        aria-hidden
        sx={{ position: 'absolute', inset: 0, width: 1, height: 1, pointerEvents: 'none' }}
      />
    </Box>
  );
}

interface ZoomsProps {
  whole: boolean;
  onZoom: (factor: number) => void;
  onWhole: () => void;
}

/** Buttons before the ruler: what the wheel does, for those who have none. */
function Zooms({ whole, onZoom, onWhole }: ZoomsProps) {
  return (
    <Box
      onPointerDown={(event) => {
        event.stopPropagation();
      }}
      sx={{
        position: 'absolute',
        left: -NAMES - 4,
        top: -2,
        display: 'flex',
        zIndex: 1,
        '& button': { p: '3px', color: COLOURS.faint },
      }}
    >
      <IconAction
        label="See less of the piece"
        shortcut="+"
        onClick={() => {
          onZoom(2);
        }}
      >
        <ZoomIn size={14} />
      </IconAction>
      <IconAction
        label="See more of the piece"
        shortcut="-"
        disabled={whole}
        onClick={() => {
          onZoom(0.5);
        }}
      >
        <ZoomOut size={14} />
      </IconAction>
      <IconAction label="See the whole piece" disabled={whole} onClick={onWhole}>
        <Maximize2 size={13} />
      </IconAction>
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

/** Beats as thin lines behind all rows, as long as there is room between them. */
function Beats() {
  const { beats, percent } = useStrip();
  if (beats.length > 150) return null;
  return (
    <Box
      aria-hidden
      sx={{ position: 'absolute', inset: 0, overflow: 'hidden', pointerEvents: 'none' }}
    >
      {beats.map((frame) => (
        <Box
          key={frame}
          data-beat={frame.toFixed(3)}
          sx={{
            position: 'absolute',
            top: 22,
            bottom: 0,
            left: percent(frame),
            width: '1px',
            bgcolor: COLOURS.line,
          }}
        />
      ))}
    </Box>
  );
}

function Ruler() {
  const { view, percent } = useStrip();
  const every = spacing(view.to - view.from + 1);
  const first = Math.ceil(view.from / every);
  const count = Math.floor(view.to / every) - first + 1;
  return (
    <Box sx={{ position: 'relative', height: 22, borderBottom: `1px solid ${COLOURS.line}` }}>
      {Array.from({ length: count }, (_, i) => (first + i) * every).map((f) => (
        <Box
          key={f}
          sx={{
            position: 'absolute',
            left: percent(f),
            bottom: 0,
            pl: '3px',
            fontFamily: MONO,
            fontSize: 11,
            color: COLOURS.faint,
            borderLeft: `1px solid ${COLOURS.line}`,
          }}
        >
          {f}
        </Box>
      ))}
    </Box>
  );
}
