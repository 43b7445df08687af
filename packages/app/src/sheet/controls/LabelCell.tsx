import { InputBase } from '@mui/material';
import { useState } from 'react';

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

/** A word or two. */
export function LabelCell({ label, value, onChange }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = (): void => {
    if (typed !== null && typed.trim() !== value) onChange(typed.trim());
    setTyped(null);
  };
  return (
    <InputBase
      value={typed ?? value}
      placeholder="none"
      onChange={(e) => {
        setTyped(e.target.value);
      }}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') commit();
        if (e.key === 'Escape') setTyped(null);
      }}
      inputProps={{ 'aria-label': label, maxLength: 40 }}
      sx={{ fontSize: 13, width: 140, '& input': { p: '2px 4px' } }}
    />
  );
}
