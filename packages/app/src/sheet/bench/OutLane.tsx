import { useRef } from 'react';
import type { Part } from '@vast-swarm/core/piece';
import { usePiece } from '../../store/store';
import { COLOURS, MONO } from '../../ui/theme';
import { showAmount } from '../../fields/amount';
import { useSignal } from '../../answers/useSignal';
import { curvePath, rangeWith, type Stretch } from './lanes';
import { LaneSvg } from './LaneSvg';
import { partsOf } from './parts';
import { usePlayhead } from './usePlayhead';

interface Props {
  drawn: Stretch;
  scale: number;
  signal: Part;
}

/** A signal round the playhead: each of its parts, with its present value. */
export function OutLane({ drawn, scale, signal }: Props) {
  const names = partsOf(usePiece(), signal);
  return (
    <div style={{ borderTop: `1px solid ${COLOURS.line}`, position: 'relative' }}>
      <LaneSvg label={`${signal.name} over time`}>
        {names.map((name, i) => (
          <Curve key={name} {...{ name, drawn, scale }} strength={1 - (0.7 * i) / names.length} />
        ))}
      </LaneSvg>
      <div
        style={{
          position: 'absolute',
          right: 4,
          top: 2,
          textAlign: 'right',
          lineHeight: 1.15,
          fontFamily: MONO,
          fontSize: 11,
          color: COLOURS.glass,
          pointerEvents: 'none',
        }}
      >
        {names.map((name) => (
          <Now key={name} name={name} />
        ))}
      </div>
    </div>
  );
}

function Curve({
  name,
  drawn,
  scale,
  strength,
}: Omit<Props, 'signal'> & { name: string; strength: number }) {
  const at = useSignal(name);
  const { frame } = usePiece();
  const points = Math.round((drawn.to - drawn.from) * scale);
  const seconds = frame.length / frame.rate;
  const along = (from: number, to: number, count: number): number[] =>
    Array.from({ length: count + 1 }, (_, i) => at(from + ((to - from) * i) / count));
  // Of the whole piece too, so that its height stays while it moves.
  const range = rangeWith([...along(drawn.from, drawn.to, points), ...along(0, seconds, 240)]);
  return (
    <path
      d={curvePath(at, drawn, scale, range, points)}
      fill="none"
      stroke={COLOURS.glass}
      strokeWidth={1.4}
      opacity={strength}
      vectorEffect="non-scaling-stroke"
    />
  );
}

/** Its present value, in numbers. */
function Now({ name }: { name: string }) {
  const at = useSignal(name);
  const number = useRef<HTMLDivElement>(null);
  usePlayhead((time) => {
    // What has almost died away is nothing.
    number.current!.textContent = showAmount(Number(at(time).toFixed(4)));
  });
  return <div ref={number} />;
}
