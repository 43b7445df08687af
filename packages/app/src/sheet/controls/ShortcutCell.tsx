import { Box, Button, Stack } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import type { Piece } from '@vast-swarm/core/piece';
import { usePiece } from '../../store/store';
import { COLOURS, MONO } from '../../ui/theme';
import { IconAction } from '../../ui/IconAction';
import { X } from 'lucide-react';

const FITS = /^([a-z0-9]|F[1-9]|F1[0-2])$/i;

interface Props {
  label: string;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** Whatever else has the same key. */
function othersWith(piece: Piece, key: string, path: readonly (string | number)[]): string[] {
  return (['controls', 'cues'] as const).flatMap((list) =>
    piece[list]
      .filter((part, i) => part.dials.key === key && !(path[0] === list && path[1] === i))
      .map((part) => part.name),
  );
}

/** A key of the keyboard: pressed to be told. */
export function ShortcutCell({ label, value, path, onChange }: Props) {
  const [asking, setAsking] = useState(false);
  const others = othersWith(usePiece(), value, path);
  const press = (event: KeyboardEvent): void => {
    if (!asking) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') setAsking(false);
    if (!FITS.test(event.key) || event.ctrlKey || event.metaKey || event.altKey) return;
    setAsking(false);
    onChange(event.key.length === 1 ? event.key.toLowerCase() : event.key);
  };
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5 }}>
      <Button
        variant="outlined"
        aria-label={`${label}: ${value || 'none'}`}
        onClick={() => {
          setAsking(true);
        }}
        onBlur={() => {
          setAsking(false);
        }}
        onKeyDown={press}
        sx={{ py: 0, minWidth: 44, fontFamily: MONO, fontSize: 12.5 }}
      >
        {asking ? 'Press a letter, digit or F key' : value.toUpperCase() || 'None'}
      </Button>
      {value && !asking && (
        <IconAction
          label={`${label}: none`}
          onClick={() => {
            onChange('');
          }}
        >
          <X size={13} />
        </IconAction>
      )}
      {value && others.length > 0 && (
        <Box sx={{ color: COLOURS.faint, fontSize: 12 }}>also {others.join(', ')}</Box>
      )}
    </Stack>
  );
}
