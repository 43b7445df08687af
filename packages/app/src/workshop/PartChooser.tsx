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
import { memo, useState } from 'react';
import { catalogue } from '@vast-swarm/core';
import { pieceActions, type PartList } from '../store/pieceSlice';
import { useAppDispatch } from '../store/store';
import { COLOURS } from '../theme';
import { KindIcon } from '../ui/KindIcon';

const LABELS: Record<PartList, string> = {
  swarms: 'Add a swarm',
  forces: 'Add a force',
  colliders: 'Add a collider or zone',
  signals: 'Add a signal',
  finish: 'Add a finish',
};

/** Adds a part: the kinds with a drawn icon and a line each, searched by typing. */
export const PartChooser = memo(function PartChooser({
  list,
  title,
}: {
  list: PartList;
  title: string;
}) {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [search, setSearch] = useState('');
  // A swarm begins with its emitter.
  const kinds = catalogue[list === 'swarms' ? 'emitters' : list];
  const found = kinds.filter((k) =>
    `${k.title} ${k.help}`.toLowerCase().includes(search.toLowerCase()),
  );
  const close = (): void => {
    setAnchor(null);
    setSearch('');
  };
  const add = (kind: string): void => {
    close();
    dispatch(pieceActions.added({ list, kind }));
  };
  const label = LABELS[list];
  return (
    <>
      <Tooltip title={label}>
        <IconButton
          aria-label={label}
          aria-haspopup="menu"
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
          sx={{ p: '3px', color: COLOURS.faint }}
        >
          <Plus size={15} />
        </IconButton>
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
            placeholder={
              list === 'swarms' ? 'Where are particles born?' : `Search ${title.toLowerCase()}`
            }
            value={search}
            onChange={(e) => {
              setSearch(e.target.value);
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && found[0]) add(found[0].kind);
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
            {found.length === 0 && <MenuItem disabled>Nothing of that name</MenuItem>}
          </MenuList>
        </Box>
      </Popover>
    </>
  );
});
