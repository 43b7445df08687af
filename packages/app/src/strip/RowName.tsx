import { Box } from '@mui/material';
import type { PointerEvent } from 'react';
import type { Part, PartList } from '@vast-swarm/core/piece';
import { pieceActions } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../ui/theme';

interface Props {
  list: PartList;
  part: Part;
  chosen: boolean;
}

/** The name before a row of the strip, which selects its part. */
export function RowName({ list, part, chosen }: Props) {
  const dispatch = useAppDispatch();
  return (
    <Box
      component="button"
      onClick={() => dispatch(pieceActions.selected({ list, id: part.id }))}
      onPointerDown={(event: PointerEvent) => {
        event.stopPropagation();
      }}
      sx={{
        position: 'absolute',
        left: -92,
        width: 86,
        top: 8,
        fontSize: 12,
        p: 0,
        color: chosen ? COLOURS.amber : COLOURS.faint,
        background: 'none',
        border: 0,
        textAlign: 'left',
        fontFamily: 'inherit',
        cursor: 'pointer',
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        whiteSpace: 'nowrap',
      }}
    >
      {part.name}
    </Box>
  );
}
