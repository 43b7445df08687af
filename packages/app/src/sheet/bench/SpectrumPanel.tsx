import { Box } from '@mui/material';
import { useRef } from 'react';
import { SILENCE } from '@vast-swarm/core/stock';
import { sourcesOf, type Part } from '@vast-swarm/core/piece';
import { useEngine } from '../../engine/EngineContext';
import { COLOURS, MONO } from '../../ui/theme';
import { arrows } from '../../ui/arrows';
import { useHolding } from '../../ui/useHolding';
import { showAmount } from '../../fields/amount';
import { useDial } from './useDial';
import { usePlayhead } from './usePlayhead';

/** Range of the panel, in Hz. */
const LOW = 20;
const HIGH = 20_000;
const COLUMNS = 128;
const H = 76;
const MARKS = [50, 200, 1000, 5000];

/** Where a frequency stands, 0 to 1 from the left; octaves are as wide as each other. */
const placeOf = (hertz: number): number => Math.log(hertz / LOW) / Math.log(HIGH / LOW);
const hertzAt = (place: number): number => LOW * (HIGH / LOW) ** Math.min(1, Math.max(0, place));
const percent = (hertz: number): string => `${String(100 * placeOf(hertz))}%`;

interface Props {
  signal: Part;
  at: number;
  cuts: readonly [low: string, high: string];
}

/** How loud the sound is by frequency, now, and between which of them the signal hears. */
export function SpectrumPanel({ signal, at, cuts: [low, high] }: Props) {
  const [from, to] = [signal.dials[low] as number, signal.dials[high] as number];
  const lower = useDial(at, low);
  const upper = useDial(at, high);
  const put = (cut: number, hertz: number): void => {
    if (cut === 0) lower.put(Math.min(to, Math.max(LOW, hertz)));
    else upper.put(Math.max(from, Math.min(HIGH, hertz)));
  };
  const { surface, hold, handlers } = useHolding<HTMLDivElement>((cut, event) => {
    const box = event.currentTarget.getBoundingClientRect();
    put(cut, hertzAt((event.clientX - box.left) / box.width));
  }, lower.settle);
  const shade = {
    position: 'absolute',
    top: 0,
    bottom: 14,
    bgcolor: COLOURS.ground,
    opacity: 0.72,
  };
  return (
    <Box
      ref={surface}
      {...handlers}
      sx={{
        position: 'relative',
        bgcolor: COLOURS.ground,
        borderRadius: 0.5,
        pb: '14px',
        touchAction: 'none',
      }}
    >
      <Columns signal={signal} />
      <Box sx={{ ...shade, left: 0, width: percent(from) }} />
      <Box sx={{ ...shade, right: 0, left: percent(to) }} />
      {MARKS.map((hertz) => (
        <Box
          key={hertz}
          component="span"
          sx={{
            position: 'absolute',
            bottom: 0,
            left: percent(hertz),
            pointerEvents: 'none',
            fontFamily: MONO,
            fontSize: 10,
            color: COLOURS.faint,
            translate: '-50%',
          }}
        >
          {hertz < 1000 ? hertz : `${String(hertz / 1000)}k`}
        </Box>
      ))}
      {([from, to] as const).map((hertz, cut) => (
        <Cut
          key={cut}
          label={cut === 0 ? 'Cut below' : 'Cut above'}
          hertz={hertz}
          onHold={(pointer) => {
            hold(cut, pointer);
          }}
          onTurn={(factor) => {
            put(cut, hertz * factor);
            lower.settle();
          }}
        />
      ))}
    </Box>
  );
}

/** The spectrum of what the signal hears first. */
function Columns({ signal }: { signal: Part }) {
  const engine = useEngine();
  const shape = useRef<SVGPathElement>(null);
  const asked = useRef(false);
  const [sound] = sourcesOf(signal, 'sounds');
  const draw = (found: Float32Array | null): void => {
    const y = (decibels: number): string => (H * (decibels / SILENCE)).toFixed(1);
    const tops = Array.from(found ?? [], (d, i) => `L${String(i)} ${y(d)}H${String(i + 1)}`);
    shape.current?.setAttribute('d', `M0 ${String(H)}${tops.join('')}V${String(H)}Z`);
  };
  usePlayhead((time) => {
    // One at a time: what comes while one is on its way is left out.
    if (asked.current || sound === undefined) return;
    asked.current = true;
    engine
      .ask((to) => to.spectrum(sound, time, [LOW, HIGH], COLUMNS))
      .then(draw, () => undefined)
      .finally(() => (asked.current = false));
  });
  return (
    <svg
      role="img"
      aria-label="How loud, by frequency"
      viewBox={`0 0 ${String(COLUMNS)} ${String(H)}`}
      preserveAspectRatio="none"
      style={{ width: '100%', height: H, display: 'block' }}
    >
      <path ref={shape} fill={COLOURS.glass} opacity={0.75} />
    </svg>
  );
}

interface CutProps {
  label: string;
  hertz: number;
  onHold: (pointer: number) => void;
  onTurn: (factor: number) => void;
}

/** A handle at a frequency: dragged, or turned by keys, a semitone or with Shift an octave at a time. */
function Cut({ label, hertz, onHold, onTurn }: CutProps) {
  const keys = arrows('across', (way, far) => {
    onTurn(2 ** (way / (far ? 1 : 12)));
  });
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={LOW}
      aria-valuemax={HIGH}
      aria-valuenow={Math.round(hertz)}
      aria-valuetext={`${showAmount(hertz)} Hz`}
      onKeyDown={keys}
      onPointerDown={({ pointerId }) => {
        onHold(pointerId);
      }}
      sx={{
        position: 'absolute',
        top: 0,
        bottom: 14,
        left: percent(hertz),
        width: 13,
        ml: '-6px',
        display: 'flex',
        justifyContent: 'center',
        cursor: 'ew-resize',
        '&::before': { content: '""', width: '2px', bgcolor: COLOURS.amber },
      }}
    />
  );
}
