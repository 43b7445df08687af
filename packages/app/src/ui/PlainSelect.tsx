import { Menu, MenuItem } from '@mui/material';
import { useState, type CSSProperties } from 'react';

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; title: string }[];
  onChange: (value: T) => void;
  style?: CSSProperties;
}

const OPENS = [' ', 'Enter', 'ArrowDown', 'ArrowUp'];

/**
 * One of several, from a list. There is no more of it than a line of text until it is opened: a sheet has
 * many of them.
 */
export function PlainSelect<T extends string>({
  label,
  value,
  options,
  onChange,
  style,
}: Props<T>) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = (): void => {
    setAnchor(null);
  };
  return (
    <>
      <div
        role="combobox"
        tabIndex={0}
        className="plainSelect"
        style={style}
        aria-label={label}
        aria-haspopup="listbox"
        aria-expanded={anchor !== null}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        onKeyDown={(event) => {
          if (!OPENS.includes(event.key)) return;
          event.preventDefault();
          event.stopPropagation();
          setAnchor(event.currentTarget);
        }}
      >
        <span>{options.find((o) => o.value === value)?.title ?? value}</span>
        <svg viewBox="0 0 10 10" aria-hidden>
          <path d="M0 3h10L5 8z" />
        </svg>
      </div>
      {anchor && (
        <Menu
          open
          anchorEl={anchor}
          onClose={close}
          slotProps={{
            list: { role: 'listbox', 'aria-label': label },
            paper: { style: { minWidth: anchor.clientWidth } },
          }}
        >
          {options.map((option) => (
            <MenuItem
              key={option.value}
              role="option"
              selected={option.value === value}
              aria-selected={option.value === value}
              onClick={() => {
                close();
                if (option.value !== value) onChange(option.value);
              }}
            >
              {option.title}
            </MenuItem>
          ))}
        </Menu>
      )}
    </>
  );
}
