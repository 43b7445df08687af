import { Box } from '@mui/material';
import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { ChainTags } from './ChainTags';
import { EnvelopePanel } from './EnvelopePanel';
import { FedDials } from './FedDials';
import { SpectrumPanel } from './SpectrumPanel';
import { TempoBox } from './TempoBox';
import { TimePanel } from './TimePanel';

interface Props {
  signal: Part;
  /** Where it stands among the signals. */
  at: number;
}

/** Where a signal is heard, seen and trimmed: what it hangs on, what goes in and comes out, what is dragged there. */
export function Bench({ signal, at }: Props) {
  const { bench = {} } = kindOf('signals', signal.kind);
  const { cuts, threshold, envelope, tempo } = bench;
  return (
    <Box component="section" aria-label="Bench" sx={{ display: 'grid', gap: 1, pt: 0.5 }}>
      <ChainTags signal={signal} />
      <TimePanel {...{ signal, at, threshold }} />
      {cuts && <SpectrumPanel {...{ signal, at, cuts }} />}
      {envelope && <EnvelopePanel {...{ signal, at, stages: envelope }} />}
      {tempo && <TempoBox {...{ at, dials: tempo }} />}
      <FedDials signal={signal} />
    </Box>
  );
}
