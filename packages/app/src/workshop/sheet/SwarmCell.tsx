import { MenuItem, Select } from '@mui/material';
import { useApp } from '../../store/store';

interface Props {
  title: string;
  /** What it means that none is chosen. */
  none: string;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** Another swarm of the piece. */
export function SwarmCell({ title, none, value, path, onChange }: Props) {
  const swarms = useApp((s) => s.piece.piece!.swarms);
  const own = path[0] === 'swarms' ? swarms[path[1] as number]?.id : undefined;
  return (
    <Select
      variant="standard"
      disableUnderline
      displayEmpty
      value={value}
      onChange={(e) => {
        onChange(e.target.value);
      }}
      inputProps={{ 'aria-label': title }}
      sx={{ fontSize: 13, '& .MuiSelect-select': { py: '1px' } }}
    >
      <MenuItem value="">{none}</MenuItem>
      {swarms
        .filter((s) => s.id !== own)
        .map((s) => (
          <MenuItem key={s.id} value={s.id}>
            {s.name}
          </MenuItem>
        ))}
    </Select>
  );
}
