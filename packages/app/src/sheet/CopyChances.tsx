import { Box, IconButton, Stack, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';
import type { ReactNode } from 'react';
import { Dices } from 'lucide-react';
import { CHANCES, number, type Chance } from '@vast-swarm/core/kinds';
import type { Copies } from '@vast-swarm/core/piece';
import { COLOURS } from '../ui/theme';
import { DialRow } from './DialRow';
import { SmallSelect } from '../fields/SmallSelect';

const TITLES: Record<Chance, string> = {
  picture: 'Picture',
  colour: 'Colour',
  turn: 'Turn',
  opacity: 'Opacity',
  map: 'Map place',
};
const RUNS = { no: 'Each its own', along: 'On along it', around: 'On around it' };
const SEED = number('Their seed', 1, [0, 2147483647], 'Another seed, another draw.', {
  whole: true,
});

const CHANCE = {
  py: 0,
  px: 0.6,
  fontSize: 11.5,
  color: COLOURS.faint,
  '&.Mui-selected': { color: COLOURS.amber },
};

interface Props {
  chain: Copies;
  /** Of the chain in the piece. */
  path: (string | number)[];
  rate: number;
  onChange: (change: Partial<Copies>, label: string) => void;
}

/** How the repeats of a chain differ: what is drawn by chance anew, and whether their surface is one. */
export function CopyChances({ chain, path, rate, onChange }: Props) {
  const { differ, runsOn } = chain;
  const choose = (chosen: Chance[]): void => {
    const seed = differ?.seed ?? 1;
    const kept = CHANCES.filter((c) => chosen.includes(c));
    onChange({ differ: kept.length > 0 ? { in: kept, seed } : undefined }, 'What copies differ in');
  };
  return (
    <>
      <Row title="Surface">
        <SmallSelect
          label="Surface of the copies"
          value={runsOn ?? 'no'}
          options={RUNS}
          onChange={(way) => {
            onChange({ runsOn: way === 'no' ? undefined : way }, 'Surface of the copies');
          }}
        />
      </Row>
      <Row title="Differ in">
        <ToggleButtonGroup
          size="small"
          value={differ?.in ?? []}
          aria-label="What copies differ in"
          onChange={(_, chosen: Chance[]) => {
            choose(chosen);
          }}
        >
          {CHANCES.map((chance) => (
            <ToggleButton key={chance} value={chance} sx={CHANCE}>
              {TITLES[chance]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Row>
      {differ && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 26px', alignItems: 'center' }}>
          <DialRow spec={SEED} value={differ.seed} path={[...path, 'differ', 'seed']} rate={rate} />
          <Tooltip title="Draw again, by another seed">
            <IconButton
              aria-label="Draw again"
              size="small"
              onClick={() => {
                const seed = Math.floor(Math.random() * 1e6);
                onChange({ differ: { ...differ, seed } }, 'Draw again');
              }}
            >
              <Dices size={14} />
            </IconButton>
          </Tooltip>
        </Box>
      )}
    </>
  );
}

function Row({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, minHeight: 28 }}>
      <Box sx={{ width: 92, flexShrink: 0, fontSize: 13, color: COLOURS.faint }}>{title}</Box>
      {children}
    </Stack>
  );
}
