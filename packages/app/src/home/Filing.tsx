import { InputBase, Stack } from '@mui/material';
import { useState } from 'react';
import type { StoredPiece } from '../data/db';
import { filePiece } from '../data/shelf';
import { COLOURS } from '../ui/theme';

/** Where a piece is kept, and what it is found by; Enter keeps it. */
export function Filing({ stored, onDone }: { stored: StoredPiece; onDone: () => void }) {
  const { id, piece, folder: before = '', tags: had = [] } = stored;
  const [folder, setFolder] = useState(before);
  const [tags, setTags] = useState(had.join(', '));
  const keep = (): void => {
    void filePiece(id, folder, tags.split(','));
    onDone();
  };
  const field = (label: string, value: string, set: (text: string) => void, first = false) => (
    <InputBase
      autoFocus={first}
      value={value}
      placeholder={label}
      onChange={(e) => {
        set(e.target.value);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') keep();
        if (e.key === 'Escape') onDone();
      }}
      inputProps={{ 'aria-label': `${label} of ${piece.name}`, maxLength: 400 }}
      sx={{
        flex: 1,
        fontSize: 12.5,
        px: 0.75,
        border: 1,
        borderColor: COLOURS.line,
        borderRadius: 0.5,
        '&.Mui-focused': { borderColor: COLOURS.amber },
      }}
    />
  );
  return (
    <Stack
      direction="row"
      sx={{ gap: 0.75, pt: 0.75 }}
      onBlur={(e) => {
        // From one field to the other it goes on.
        if (!e.currentTarget.contains(e.relatedTarget)) keep();
      }}
    >
      {field('Folder', folder, setFolder, true)}
      {field('Tags', tags, setTags)}
    </Stack>
  );
}
