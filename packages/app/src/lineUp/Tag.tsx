import { Box, ButtonBase } from '@mui/material';
import type { KeyboardEvent, MouseEvent, ReactNode } from 'react';
import { COLOURS } from '../ui/theme';
import { KindIcon } from '../ui/KindIcon';

interface Props {
  name: string;
  icon: string;
  selected: boolean;
  off?: boolean;
  onSelect: (event: MouseEvent) => void;
  onRename?: () => void;
  onKeyDown?: (event: KeyboardEvent) => void;
  children?: ReactNode;
}

/** One part in the line-up. */
export function Tag({ name, icon, selected, off, onSelect, onRename, onKeyDown, children }: Props) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        borderRadius: 0.75,
        color: selected ? COLOURS.amber : off ? COLOURS.faint : COLOURS.text,
        bgcolor: selected ? COLOURS.raised : 'transparent',
        '&:hover': { bgcolor: COLOURS.raised },
      }}
    >
      <ButtonBase
        aria-pressed={selected}
        onClick={onSelect}
        onDoubleClick={onRename}
        onKeyDown={onKeyDown}
        sx={{
          gap: 0.5,
          px: 0.75,
          py: '3px',
          fontSize: 13,
          fontFamily: 'inherit',
          textDecoration: off ? 'line-through' : 'none',
          whiteSpace: 'nowrap',
        }}
      >
        <KindIcon path={icon} size={15} />
        {name}
      </ButtonBase>
      {children}
    </Box>
  );
}
