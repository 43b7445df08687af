import {
  Box,
  Button,
  IconButton,
  InputBase,
  MenuItem,
  MenuList,
  Popover,
  Tooltip,
} from '@mui/material';
import { Plus } from 'lucide-react';
import { useState, type MouseEvent } from 'react';
import { catalogue, type Shelf } from '@vast-swarm/core/kinds';
import type { PartList } from '@vast-swarm/core/piece';
import { RecipeDrawer } from '../recipes/RecipeDrawer';
import { COLOURS } from '../ui/theme';
import { KindIcon } from '../ui/KindIcon';

interface Props {
  shelf: Shelf;
  label: string;
  placeholder: string;
  disabled?: boolean;
  onChoose: (kind: string) => void;
  /** The list of parts that recipes are offered for. */
  recipes?: PartList;
  /** Whether its button says what it is for. */
  inWords?: boolean;
}

const ITEM = { gap: 1.5 };
const WORDS = { flex: 1, minWidth: 0, padding: '4px 0' };
const HELP = { color: COLOURS.faint, fontSize: 11.5, whiteSpace: 'normal' } as const;

/** The kinds of a shelf with a drawn icon and a line each, searched by typing. */
export function KindChooser(props: Props) {
  const { label, disabled = false, inWords = false } = props;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const button = {
    'aria-label': label,
    'aria-haspopup': 'menu' as const,
    disabled,
    onClick: (event: MouseEvent<HTMLElement>) => {
      setAnchor(event.currentTarget);
    },
  };
  return (
    <>
      {inWords ? (
        <Button {...button} variant="outlined" startIcon={<Plus size={15} />} sx={{ mr: 1 }}>
          {label}
        </Button>
      ) : (
        <Tooltip title={disabled ? '' : label}>
          <span>
            {' '}
            <IconButton {...button} sx={{ p: '3px', color: COLOURS.faint }}>
              <Plus size={15} />
            </IconButton>
          </span>
        </Tooltip>
      )}
      {anchor && (
        <Kinds
          {...props}
          anchor={anchor}
          onClose={() => {
            setAnchor(null);
          }}
        />
      )}
    </>
  );
}

interface KindsProps extends Props {
  anchor: HTMLElement;
  onClose: () => void;
}

function Kinds({ shelf, label, placeholder, onChoose, recipes, anchor, onClose }: KindsProps) {
  const [search, setSearch] = useState('');
  const found = catalogue[shelf].filter((k) =>
    `${k.title} ${k.help}`.toLowerCase().includes(search.toLowerCase()),
  );
  const add = (kind: string): void => {
    onClose();
    onChoose(kind);
  };
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
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
          {found.map(({ kind, title, help, icon }) => (
            <MenuItem
              key={kind}
              onClick={() => {
                add(kind);
              }}
              sx={ITEM}
            >
              <KindIcon path={icon} size={22} />
              <div style={WORDS}>
                {title}
                <div style={HELP}>{help}</div>
              </div>
            </MenuItem>
          ))}
          {found.length === 0 && <MenuItem disabled>No kind of that name</MenuItem>}
        </MenuList>
        {recipes && <RecipeDrawer list={recipes} search={search} onPut={onClose} />}
      </Box>
    </Popover>
  );
}
