import { Box, Stack } from '@mui/material';
import { memo, type ReactNode } from 'react';
import { catalogue, kindOf, type Shelf } from '@vast-swarm/core/kinds';
import type { Choice } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';
import { PlainSelect } from '../ui/PlainSelect';
import { DialRow } from './DialRow';
import { Group } from './Group';
import { useShownDials } from './shownDials';

interface ChoiceProps {
  title: string;
  shelf: Shelf;
  choice: Choice;
  path: (string | number)[];
  rate: number;
  /** Beside the kind. */
  aside?: ReactNode;
}

/** A kind that can be changed for another, and its dials; drawn again when they change. */
export const ChoiceDials = memo(
  ChoiceRows,
  (a, b) =>
    a.choice === b.choice &&
    !a.aside &&
    !b.aside &&
    a.rate === b.rate &&
    a.path.join('.') === b.path.join('.'),
);

function kindsOf(shelf: Shelf): { value: string; title: string }[] {
  return catalogue[shelf].map(({ kind, title }) => ({ value: kind, title }));
}

function ChoiceRows({ title, shelf, choice, path, rate, aside }: ChoiceProps) {
  const dispatch = useAppDispatch();
  const kind = kindOf(shelf, choice.kind);
  const shown = useShownDials(kind.dials, choice.dials);
  const select = (
    <PlainSelect
      label={`${title} kind`}
      value={choice.kind}
      options={kindsOf(shelf)}
      onChange={(to) => dispatch(pieceActions.kindChanged({ path, shelf, kind: to }))}
      style={{ color: COLOURS.glass }}
    />
  );
  return (
    <Group
      title={title}
      aside={
        <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5 }}>
          {catalogue[shelf].length > 1 && select}
          {aside}
        </Stack>
      }
    >
      {shown.map(([key, spec], i, all) => (
        <Box key={key}>
          {i > 0 && all[i - 1]![1].group !== spec.group && (
            <Box sx={{ color: COLOURS.faint, fontSize: 11.5, pt: 0.5 }}>{spec.group}</Box>
          )}
          <DialRow
            spec={spec}
            value={choice.dials[key]!}
            path={[...path, 'dials', key]}
            rate={rate}
          />
        </Box>
      ))}
    </Group>
  );
}
