import { MenuItem, Select } from '@mui/material';

interface Props<T extends string> {
  label: string;
  value: T;
  options: Readonly<Record<T, string>>;
  onChange: (value: T) => void;
}

/** A choice in a crowded row. */
export function SmallSelect<T extends string>({ label, value, options, onChange }: Props<T>) {
  return (
    <Select
      variant="standard"
      disableUnderline
      value={value}
      onChange={(e) => {
        onChange(e.target.value as T);
      }}
      inputProps={{ 'aria-label': label }}
      sx={{ fontSize: 12, '& .MuiSelect-select': { py: '1px' } }}
    >
      {(Object.entries(options) as [T, string][]).map(([key, title]) => (
        <MenuItem key={key} value={key}>
          {title}
        </MenuItem>
      ))}
    </Select>
  );
}
