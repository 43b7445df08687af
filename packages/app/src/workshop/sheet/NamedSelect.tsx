import { MenuItem, Select } from '@mui/material';

interface Props {
  title: string;
  /** What it means that none is chosen. */
  none: string;
  value: string;
  options: readonly { id: string; name: string }[];
  onChange: (value: string) => void;
}

/** One of some parts of the piece, by name, or none. */
export function NamedSelect({ title, none, value, options, onChange }: Props) {
  const strange = value !== '' && !options.some(({ id }) => id === value);
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
      {options.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
      {strange && <MenuItem value={value}>{value}</MenuItem>}
    </Select>
  );
}
