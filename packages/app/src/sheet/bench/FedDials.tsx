import { Box, Checkbox, FormControlLabel, Stack } from '@mui/material';
import { useState } from 'react';
import { chainOf, fedBy, signalId, signalNames, type Part } from '@vast-swarm/core/piece';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { Empty } from '../../ui/Empty';
import { FindOne } from '../FindOne';
import { NamedSelect } from '../../fields/NamedSelect';
import { ownerOf } from './owner';

/** The dials that a signal feeds; some or all of them follow another one in one step. */
export function FedDials({ signal }: { signal: Part }) {
  const piece = usePiece();
  const dispatch = useAppDispatch();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const fed = fedBy(piece, signal.id).map(({ spec, path }) => ({
    path,
    key: path.join('.'),
    name: `${ownerOf(piece, path).name}: ${spec.title}`,
    // A signal cannot follow what is made from it.
    own: path[0] === 'signals' ? piece.signals[path[1] as number]!.id : null,
  }));
  if (fed.length === 0) {
    return (
      <Empty action={<FindOne what="Find a dial for it" />} sx={{ fontSize: 12.5 }}>
        It feeds nothing yet. The sign beside a dial offers it.
      </Empty>
    );
  }
  const chosen = fed.filter(({ key }) => !left.has(key));
  const owners = new Set(chosen.flatMap(({ own }) => own ?? []));
  const options = signalNames(piece).filter(
    ({ id }) => signalId(id) !== signal.id && !chainOf(piece, [id]).some((s) => owners.has(s.id)),
  );
  const swap = (other: string): void => {
    if (!other) return;
    const { name } = options.find(({ id }) => id === other)!;
    const paths = chosen.map(({ path }) => path);
    dispatch(pieceActions.swapped({ paths, signal: signal.id, other, name }));
    setLeft(new Set());
  };
  return (
    <Box role="group" aria-label="What it feeds" sx={{ fontSize: 12.5 }}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1 }}>
        {fed.map(({ key, name }) => (
          <FormControlLabel
            key={key}
            label={name}
            sx={{ m: 0, '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
            control={
              <Checkbox
                size="small"
                sx={{ p: '2px' }}
                checked={!left.has(key)}
                onChange={(_, on) => {
                  const others = [...left].filter((k) => k !== key);
                  setLeft(new Set(on ? others : [...others, key]));
                }}
              />
            }
          />
        ))}
      </Box>
      {options.length > 0 && chosen.length > 0 && (
        <Stack direction="row" sx={{ alignItems: 'center', gap: 1, color: COLOURS.faint }}>
          <span>
            {chosen.length === 1
              ? 'This dial now follows'
              : `These ${String(chosen.length)} dials now follow`}
          </span>
          <NamedSelect
            title="What they follow"
            none={signal.name}
            value=""
            options={options}
            onChange={swap}
          />
        </Stack>
      )}
    </Box>
  );
}
