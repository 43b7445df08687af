import { Box, Stack } from '@mui/material';
import type { Bursts } from '@vast-swarm/core/feeds';
import { usePiece } from '../../store/store';
import { NumberField } from '../../fields/NumberField';
import { PickOne } from '../PickOne';
import { ListRow } from './ListRow';

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
  const put = (next: Bursts): void => {
    onChange(next);
    onSettle();
  };
  return (
    <Stack sx={{ gap: 0.5 }}>
      {bursts.map(({ swarm, count }, i) => {
        const name = swarms.find((s) => s.id === swarm)?.name ?? swarm;
        return (
          <ListRow
            key={swarm}
            name={name}
            remove={`No burst of ${name}`}
            onRemove={() => {
              put(bursts.filter((_, k) => k !== i));
            }}
          >
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
          </ListRow>
        );
      })}
      {others.length > 0 && (
        <Box>
          <PickOne
            title="Burst of a swarm"
            options={others}
            onPick={(id) => {
              put([...bursts, { swarm: id, count: 500 }]);
            }}
          />
        </Box>
      )}
    </Stack>
  );
}
