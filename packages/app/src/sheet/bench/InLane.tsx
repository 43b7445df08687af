import { useState } from 'react';
import type { Part } from '@vast-swarm/core/piece';
import { COLOURS } from '../../ui/theme';
import { arrows } from '../../ui/arrows';
import { useHolding } from '../../ui/useHolding';
import { showAmount } from '../../fields/amount';
import { useAnswer } from '../../answers/useAnswer';
import { usePeaks } from '../../answers/usePeaks';
import { useSignal } from '../../answers/useSignal';
import {
  curvePath,
  heightOf,
  HIGH,
  rangeWith,
  valueAtHeight,
  wavePath,
  type Range,
  type Stretch,
} from './lanes';
import { LaneSvg } from './LaneSvg';
import { useDial } from './useDial';

interface LaneProps {
  drawn: Stretch;
  /** Units of the lane that a second has. */
  scale: number;
}

interface Props extends LaneProps {
  of: 'sounds' | 'signals';
  name: string;
  signal: Part;
  at: number;
  threshold: string | undefined;
}

/** The input of a signal: a waveform, or the curve of another one, with the threshold that is held to it. */
export function InLane({ of, name, signal, at, threshold, ...lane }: Props) {
  if (of === 'sounds') return <Wave {...lane} sound={name} />;
  return <Watched {...lane} {...{ name, signal, at, threshold }} />;
}

function Wave({ drawn, scale, sound }: LaneProps & { sound: string }) {
  const width = (drawn.to - drawn.from) * scale;
  const peaks = usePeaks(sound, drawn.from, drawn.to, Math.round(width));
  return (
    <LaneSvg label="What goes in">
      {peaks && <path d={wavePath(peaks, width)} fill={COLOURS.faint} opacity={0.75} />}
    </LaneSvg>
  );
}

function Watched({ drawn, scale, name, signal, at, threshold }: Omit<Props, 'of'>) {
  const value = useSignal(name);
  const { from, to } = drawn;
  const key = [signal.id, from, to].join(' ');
  const fired = useAnswer('signals', key, (ask) => ask.fired(signal.id, from, to));
  const points = Math.round(((drawn.to - drawn.from) * scale) / 2);
  const values = Array.from({ length: points }, (_, i) =>
    value(drawn.from + ((drawn.to - drawn.from) * i) / points),
  );
  const line = threshold === undefined ? undefined : (signal.dials[threshold] as number);
  const range = rangeWith(values, ...(line === undefined ? [] : [line]));
  return (
    <div style={{ position: 'relative' }}>
      <LaneSvg label="What goes in">
        <path
          d={curvePath(value, drawn, scale, range, points)}
          fill="none"
          stroke={COLOURS.faint}
          strokeWidth={1.3}
          vectorEffect="non-scaling-stroke"
        />
        {fired?.map((time) => (
          <path
            key={time}
            data-fired={time}
            d={`M${((time - drawn.from) * scale).toFixed(1)} 0v${String(HIGH)}`}
            stroke={COLOURS.amber}
            strokeDasharray="2 3"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </LaneSvg>
      {threshold !== undefined && <Threshold {...{ at, dial: threshold, value: line!, range }} />}
    </div>
  );
}

interface ThresholdProps {
  at: number;
  dial: string;
  value: number;
  range: Range;
}

/** A line over what goes in, dragged up and down. */
function Threshold({ at, dial, value, range }: ThresholdProps) {
  const { put, settle } = useDial(at, dial);
  // While it is held, what it is held to stays where it is.
  const [held, setHeld] = useState<Range | null>(null);
  const shown = held ?? range;
  const { surface, hold, handlers } = useHolding<HTMLDivElement>(
    (_, { currentTarget, clientY }) => {
      const box = currentTarget.getBoundingClientRect();
      put(valueAtHeight((clientY - box.top) / box.height, shown));
    },
    () => {
      setHeld(null);
      settle();
    },
  );
  const keys = arrows('up', (way, far) => {
    put(value + way * (far ? 0.1 : 0.01) * (shown.high - shown.low));
    settle();
  });
  const top = `${String((100 * heightOf(value, shown)) / HIGH)}%`;
  return (
    <div
      ref={surface}
      {...handlers}
      style={{ position: 'absolute', inset: 0, touchAction: 'none' }}
    >
      <div
        role="slider"
        tabIndex={0}
        aria-label="Threshold over what goes in"
        aria-orientation="vertical"
        aria-valuenow={value}
        onKeyDown={keys}
        onPointerDown={({ pointerId }) => {
          setHeld(range);
          hold(0, pointerId);
        }}
        style={{
          position: 'absolute',
          left: 0,
          right: 0,
          top,
          height: 14,
          marginTop: -7,
          display: 'flex',
          alignItems: 'center',
          cursor: 'ns-resize',
        }}
      >
        <div style={{ flex: 1, borderTop: `1.5px solid ${COLOURS.amber}` }} />
        <span style={{ fontSize: 10.5, color: COLOURS.amber, padding: '0 4px' }}>
          {showAmount(value)}
        </span>
      </div>
    </div>
  );
}
