import { Box, Stack } from '@mui/material';
import { X } from 'lucide-react';
import type { Bursts } from '@vast-swarm/core';
import { usePiece } from '../../../store/store';
import { IconAction } from '../../../ui/IconAction';
import { NamedSelect } from '../NamedSelect';
import { NumberField } from '../NumberField';

const COUNT = { min: 0, max: 1_000_000, unit: '', whole: true, drag: 'log' as const };

interface Props {
  bursts: Bursts;
  onChange: (bursts: Bursts) => void;
  onSettle: () => void;
}

/** Particles of swarms that a cue lets be born. */
export function BurstsCell({ bursts, onChange, onSettle }: Props) {
  const { swarms, frame } = usePiece();
  const others = swarms.filter((s) => !bursts.some((b) => b.swarm === s.id));
  return (
    <Stack sx={{ gap: 0.5 }}>
      {bursts.map(({ swarm, count }, i) => {
        const name = swarms.find((s) => s.id === swarm)?.name ?? swarm;
        return (
          <Stack key={swarm} direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 13 }}>
            <Box sx={{ width: 96, overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
            <NumberField
              label={`${name}, particles`}
              value={count}
              spec={COUNT}
              rate={frame.rate}
              onChange={(v) => {
                onChange(bursts.map((b, k) => (k === i ? { ...b, count: v } : b)));
              }}
              onSettle={onSettle}
            />
            <Box sx={{ flex: 1 }} />
            <IconAction
              label={`No burst of ${name}`}
              onClick={() => {
                onChange(bursts.filter((_, k) => k !== i));
                onSettle();
              }}
            >
              <X size={13} />
            </IconAction>
          </Stack>
        );
      })}
      {others.length > 0 && (
        <Box>
          <NamedSelect
            title="Burst of a swarm"
            none="Burst of a swarm"
            value=""
            options={others}
            onChange={(id) => {
              if (!id) return;
              onChange([...bursts, { swarm: id, count: 500 }]);
              onSettle();
            }}
          />
        </Box>
      )}
    </Stack>
  );
}
