import { MenuItem, Select } from '@mui/material';
import { chainOf, signalNames, type PartDial } from '@vast-swarm/core';
import { usePiece } from '../../store/store';

interface Props {
  spec: PartDial;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** A signal or a sound of the piece; of signals only those that do not hang on this one. */
export function PartCell({ spec, value, path, onChange }: Props) {
  const piece = usePiece();
  const own = path[0] === 'signals' ? piece.signals[path[1] as number]?.id : undefined;
  const offered =
    spec.of === 'sounds'
      ? piece.sounds
      : signalNames(piece).filter(({ id }) => !chainOf(piece, [id]).some((s) => s.id === own));
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={value}
      onChange={(e) => {
        onChange(e.target.value);
      }}
      inputProps={{ 'aria-label': spec.title }}
      sx={{ fontSize: 13, '& .MuiSelect-select': { py: '1px' } }}
    >
      <MenuItem value="">None</MenuItem>
      {offered.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
      {value && !offered.some(({ id }) => id === value) && (
        <MenuItem value={value}>{value}</MenuItem>
      )}
    </Select>
  );
}
