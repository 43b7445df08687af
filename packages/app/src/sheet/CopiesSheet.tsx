import { Box, Button, IconButton, Stack } from '@mui/material';
import { Trash2 } from 'lucide-react';
import { number, vector, type DialSpec } from '@vast-swarm/core/kinds';
import type { Copies } from '@vast-swarm/core/piece';
import { COLOURS } from '../ui/theme';
import { CopyChances } from './CopyChances';
import { DialRow } from './DialRow';
import { Group } from './Group';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';

const never = { varies: 'never' as const };
type Plain = Exclude<keyof Copies, 'runsOn' | 'differ'>;
const DIALS: Record<Plain, DialSpec> = {
  count: number('Count', 3, [1, 1000], 'How many, the swarm itself counted.', { whole: true }),
  offset: vector('Offset', [1, 0, 0], 1000, 'm', 'From each to the next.'),
  turn: vector('Turned by', [0, 0, 0], 3600, '°', 'From each to the next, about x, y, z.'),
  scale: number('Grows', 1, [0.01, 10], 'Of each against the one before.', never),
};

interface Props {
  copies: Copies[];
  path: (string | number)[];
  rate: number;
}

/** Repeats of a swarm; each chain repeats what the ones above it made. */
export function CopiesSheet({ copies, path, rate }: Props) {
  const dispatch = useAppDispatch();
  const put = (value: Copies[], label: string): void => {
    dispatch(pieceActions.set({ path, value, label }));
  };
  const fresh: Copies = { count: 3, offset: [1, 0, 0], turn: [0, 0, 0], scale: 1 };
  const add = (
    <Button
      disabled={copies.length >= 4}
      onClick={() => {
        put([...copies, fresh], 'Add copies');
      }}
    >
      {copies.length > 0 ? 'Add a chain' : 'Add copies'}
    </Button>
  );
  return (
    <Group title="Copies" aside={add}>
      {copies.length === 0 && (
        <Box sx={{ color: COLOURS.faint, fontSize: 12 }}>
          The whole swarm again, moved, turned and scaled: drawn, not simulated.
        </Box>
      )}
      {copies.map((chain, i) => (
        <Box key={i} role="group" aria-label={`Chain ${String(i + 1)}`}>
          <Stack direction="row" sx={{ alignItems: 'center', justifyContent: 'space-between' }}>
            <Box sx={{ color: COLOURS.faint, fontSize: 11.5 }}>Chain {i + 1}</Box>
            <IconButton
              aria-label={`Remove chain ${String(i + 1)}`}
              onClick={() => {
                put(
                  copies.filter((_, k) => k !== i),
                  'Remove copies',
                );
              }}
            >
              <Trash2 size={13} />
            </IconButton>
          </Stack>
          {(Object.keys(DIALS) as Plain[]).map((key) => (
            <DialRow
              key={key}
              spec={DIALS[key]}
              value={chain[key]}
              path={[...path, i, key]}
              rate={rate}
            />
          ))}
          <CopyChances
            chain={chain}
            path={[...path, i]}
            rate={rate}
            onChange={(change, label) => {
              put(copies.with(i, { ...chain, ...change }), label);
            }}
          />
        </Box>
      ))}
    </Group>
  );
}
