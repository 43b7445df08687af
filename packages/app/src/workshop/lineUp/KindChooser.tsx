import {
  Box,
  IconButton,
  InputBase,
  ListItemText,
  MenuItem,
  MenuList,
  Popover,
  Tooltip,
} from '@mui/material';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { catalogue, type PartList, type Shelf } from '@vast-swarm/core';
import { RecipeDrawer } from '../../recipes/RecipeDrawer';
import { COLOURS } from '../../theme';
import { KindIcon } from '../../ui/KindIcon';

interface Props {
  shelf: Shelf;
  label: string;
  placeholder: string;
  disabled?: boolean;
  onChoose: (kind: string) => void;
  /** The list of parts that recipes are offered for. */
  recipes?: PartList;
}

/** The kinds of a shelf with a drawn icon and a line each, searched by typing. */
export function KindChooser(props: Props) {
  const { shelf, label, placeholder, disabled = false, onChoose, recipes } = props;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [search, setSearch] = useState('');
  const found = catalogue[shelf].filter((k) =>
    `${k.title} ${k.help}`.toLowerCase().includes(search.toLowerCase()),
  );
  const close = (): void => {
    setAnchor(null);
    setSearch('');
  };
  const add = (kind: string): void => {
    close();
    onChoose(kind);
  };
  return (
    <>
      <Tooltip title={disabled ? '' : label}>
        <span>
          {' '}
          <IconButton
            aria-label={label}
            aria-haspopup="menu"
            disabled={disabled}
            onClick={(event) => {
              setAnchor(event.currentTarget);
            }}
            sx={{ p: '3px', color: COLOURS.faint }}
          >
            <Plus size={15} />
          </IconButton>
        </span>
      </Tooltip>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={close}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ width: 340, maxHeight: 520 }}>
          <InputBase
            autoFocus
            fullWidth
            placeholder={placeholder}
            value={search}
            onChange={(e) => {
              setSearch(e.target.value);
            }}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' || !found[0]) return;
              // Or the button, which has the focus again, would open the list once more.
              e.preventDefault();
              add(found[0].kind);
            }}
            inputProps={{ 'aria-label': 'Search kinds' }}
            sx={{ px: 2, pt: 1, fontSize: 13 }}
          />
          <MenuList dense aria-label={label}>
            {found.map((k) => (
              <MenuItem
                key={k.kind}
                onClick={() => {
                  add(k.kind);
                }}
                sx={{ gap: 1.5 }}
              >
                <KindIcon path={k.icon} size={22} />
                <ListItemText
                  primary={k.title}
                  secondary={k.help}
                  slotProps={{
                    primary: { sx: { fontSize: 13 } },
                    secondary: { sx: { fontSize: 11.5, whiteSpace: 'normal' } },
                  }}
                />
              </MenuItem>
            ))}
            {found.length === 0 && <MenuItem disabled>No kind of that name</MenuItem>}
          </MenuList>
          {recipes && <RecipeDrawer list={recipes} search={search} onPut={close} />}
        </Box>
      </Popover>
    </>
  );
}
