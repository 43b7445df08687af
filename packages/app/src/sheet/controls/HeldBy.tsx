import { Box, ButtonBase, Stack } from '@mui/material';
import { SlidersVertical, X } from 'lucide-react';
import { addressOf, holderOf, type Piece } from '@vast-swarm/core/piece';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { IconAction } from '../../ui/IconAction';

type Path = readonly (string | number)[];

/** The control that holds what stands at a path, by its id; '' where none does. */
export function holderAt(piece: Piece, path: Path): string {
  if (piece.controls.length === 0) return '';
  const address = addressOf(piece, path);
  const holder = address === null ? undefined : holderOf(piece, address);
  return holder?.id ?? '';
}

/** The same of the open piece: for a dial, or a part of a vector. */
export function useHolder(path: Path): string {
  return useApp((s) => (s.piece.piece ? holderAt(s.piece.piece, path) : ''));
}

/** Says that a control holds a dial, leads to it, and lets the dial go. */
export function HeldBy({ title, holder, path }: { title: string; holder: string; path: Path }) {
  const dispatch = useAppDispatch();
  const name = useApp((s) => s.piece.piece?.controls.find((c) => c.id === holder)?.name ?? '');
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5, color: COLOURS.glass }}>
      <ButtonBase
        aria-label={`${title} is held by ${name}`}
        onClick={() => dispatch(pieceActions.selected({ list: 'controls', id: holder }))}
        sx={{
          gap: 0.75,
          px: 0.5,
          py: '2px',
          borderRadius: 0.5,
          fontSize: 13,
          fontFamily: 'inherit',
        }}
      >
        <SlidersVertical size={14} />
        {name}
      </ButtonBase>
      <Box sx={{ color: COLOURS.faint }}>
        <IconAction
          label={`Take ${title} back`}
          onClick={() => {
            // The piece is read when it is pressed: what is held may have moved in its list.
            dispatch((act, get) => {
              const address = addressOf(get().piece.piece!, path);
              if (address !== null) act(pieceActions.takenBack(address));
            });
          }}
        >
          <X size={13} />
        </IconAction>
      </Box>
    </Stack>
  );
}
