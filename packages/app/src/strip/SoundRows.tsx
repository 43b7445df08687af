import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import type { Peaks } from '@vast-swarm/core/stock';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { useAnswer } from '../answers/useAnswer';
import { usePeaks } from '../answers/usePeaks';
import { useStrip } from './StripContext';
import { StripRow } from './StripRow';

const HEIGHT = 44;
/** Stretches that a waveform is drawn in. */
const COLUMNS = 800;

/** A row for each sound: its waveform where it is heard, dragged, trimmed and faded there. */
export function SoundRows() {
  const sounds = usePiece().sounds;
  return sounds.map((sound, at) => <Row key={sound.id} sound={sound} at={at} />);
}

function shapeOf({ low, high }: Peaks): string {
  const y = (v: number): string => (HEIGHT / 2 - v * (HEIGHT / 2 - 3)).toFixed(1);
  const tops = Array.from(high, (v, i) => `${String(i)} ${y(v)}`);
  const bottoms = Array.from(low, (v, i) => `${String(i)} ${y(v)}`).reverse();
  return `M${[...tops, ...bottoms].join('L')}Z`;
}

function Row({ sound, at }: { sound: Part; at: number }) {
  const { view, rate } = useStrip();
  const { strip } = kindOf('sounds', sound.kind);
  const peaks = usePeaks(sound.id, view.from / rate, view.to / rate, COLUMNS);
  const extent = useAnswer('sounds', sound.id, (ask) => ask.extent(sound.id));
  return (
    <StripRow list="sounds" part={sound} {...{ at, strip, extent }} height={HEIGHT}>
      {(slider, chosen) => (
        <svg
          viewBox={`0 0 ${String(COLUMNS - 1)} ${String(HEIGHT)}`}
          preserveAspectRatio="none"
          {...slider}
          style={{ width: '100%', height: HEIGHT, display: 'block', cursor: 'grab' }}
        >
          {peaks && (
            <path
              d={shapeOf(peaks)}
              fill={chosen ? COLOURS.amber : COLOURS.glass}
              opacity={sound.on ? 0.7 : 0.2}
            />
          )}
        </svg>
      )}
    </StripRow>
  );
}
