import { IconButton, Tooltip } from '@mui/material';
import type { MouseEvent, ReactNode } from 'react';

interface Props {
  label: string;
  children: ReactNode;
  onClick: (event: MouseEvent<HTMLElement>) => void;
  disabled?: boolean;
  pressed?: boolean;
  shortcut?: string;
}

/** An icon that does something; its label is its name and its hint. */
export function IconAction({ label, children, onClick, disabled, pressed, shortcut }: Props) {
  return (
    <Tooltip title={shortcut ? `${label} (${shortcut})` : label}>
      <span>
        <IconButton
          aria-label={label}
          aria-pressed={pressed}
          onClick={onClick}
          disabled={disabled ?? false}
          color={pressed ? 'primary' : 'inherit'}
        >
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
