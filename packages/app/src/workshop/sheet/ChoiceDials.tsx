import { Box, MenuItem, Select, Stack } from '@mui/material';
import { memo, type ReactNode } from 'react';
import { catalogue, kindOf, type Choice, type Shelf } from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch } from '../../store/store';
import { COLOURS } from '../../theme';
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

function ChoiceRows({ title, shelf, choice, path, rate, aside }: ChoiceProps) {
  const dispatch = useAppDispatch();
  const kind = kindOf(shelf, choice.kind);
  const shown = useShownDials(kind.dials, choice.dials);
  const select = (
    <Select
      variant="standard"
      disableUnderline
      value={choice.kind}
      onChange={(e) => dispatch(pieceActions.kindChanged({ path, shelf, kind: e.target.value }))}
      inputProps={{ 'aria-label': `${title} kind` }}
      sx={{ fontSize: 13, color: COLOURS.glass, '& .MuiSelect-select': { py: 0 } }}
    >
      {catalogue[shelf].map((k) => (
        <MenuItem key={k.kind} value={k.kind}>
          {k.title}
        </MenuItem>
      ))}
    </Select>
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
