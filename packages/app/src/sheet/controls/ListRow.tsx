import { Box, Stack } from '@mui/material';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconAction } from '../../ui/IconAction';

interface Props {
  name: string;
  /** The label of the cross that takes it out. */
  remove: string;
  onRemove: () => void;
  children: ReactNode;
}

/** A thing of a list in the sheet: its name, what is said of it, and a cross that takes it out. */
export function ListRow({ name, remove, onRemove, children }: Props) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 13 }}>
      <Box sx={{ width: 96, overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>{children}</Box>
      <IconAction label={remove} onClick={onRemove}>
        <X size={13} />
      </IconAction>
    </Stack>
  );
}
