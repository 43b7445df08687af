import { Box, Stack, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useRef, useState } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import type { Part } from '@vast-swarm/core/piece';
import { usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { HIGH, WIDE, type Stretch } from './lanes';
import { InLane } from './InLane';
import { OutLane } from './OutLane';
import { usePlayhead } from './usePlayhead';

/** Seconds round the playhead that can be chosen; 0 is the whole piece. */
const SPANS = [2, 8, 0] as const;

interface Props {
  signal: Part;
  at: number;
  /** The dial of a value of what goes in, where there is one. */
  threshold: string | undefined;
}

/**
 * Input above and output below, on one time axis. The curves are drawn for longer than is seen, and are
 * moved with the playhead at every frame.
 */
export function TimePanel({ signal, at, threshold }: Props) {
  const { frame } = usePiece();
  const seconds = frame.length / frame.rate;
  const [chosen, setSpan] = useState<(typeof SPANS)[number]>(8);
  const whole = chosen === 0 || chosen >= seconds;
  const span = whole ? seconds : chosen;
  const [page, setPage] = useState(0);
  const [drawn, scale]: [Stretch, number] = [
    whole ? { from: 0, to: seconds } : { from: (page - 1) * span, to: (page + 2) * span },
    WIDE / span,
  ];
  const lanes = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  usePlayhead((time) => {
    const now = whole ? 0 : Math.floor(time / span);
    if (now !== page) setPage(now);
    const x = whole ? 0 : (drawn.from - (time - span / 2)) * scale;
    for (const moved of lanes.current!.querySelectorAll('[data-moves]')) {
      moved.setAttribute('transform', `translate(${x.toFixed(2)} 0)`);
    }
    head.current!.style.left = whole ? `${String((100 * time) / span)}%` : '50%';
  });
  const lane = { drawn, scale };
  const input = inputOf(signal);
  return (
    <Box>
      <Stack
        direction="row"
        sx={{ alignItems: 'center', justifyContent: 'space-between', mb: 0.5 }}
      >
        <Box sx={{ fontSize: 12, color: COLOURS.faint }}>
          {input ? 'What goes in, and what comes out' : 'What comes out'}
        </Box>
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="Seconds that are seen"
          value={chosen}
          onChange={(_, next: (typeof SPANS)[number] | null) => {
            if (next !== null) setSpan(next);
          }}
        >
          {SPANS.map((s) => (
            <ToggleButton key={s} value={s} sx={{ py: 0, px: 0.75, fontSize: 11.5 }}>
              {s === 0 ? 'All' : `${String(s)} s`}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Stack>
      <Box
        ref={lanes}
        sx={{
          position: 'relative',
          bgcolor: COLOURS.ground,
          borderRadius: 0.5,
          '& svg': { display: 'block', width: '100%', height: HIGH },
        }}
      >
        {input && <InLane {...lane} {...input} signal={signal} at={at} threshold={threshold} />}
        <OutLane {...lane} signal={signal} />
        <Box
          ref={head}
          sx={{
            position: 'absolute',
            top: 0,
            bottom: 0,
            width: '1.5px',
            left: '50%',
            bgcolor: COLOURS.amber,
            pointerEvents: 'none',
          }}
        />
      </Box>
    </Box>
  );
}

/** The first input of a signal: the sound or the signal that it names first. */
function inputOf({ kind, dials }: Part): { of: 'sounds' | 'signals'; name: string } | null {
  for (const [key, spec] of Object.entries(kindOf('signals', kind).dials)) {
    const name = dials[key];
    if (spec.type !== 'part' || (spec.of !== 'sounds' && spec.of !== 'signals')) continue;
    if (typeof name === 'string' && name) return { of: spec.of, name };
  }
  return null;
}
