import { Box, Divider, IconButton, InputBase, Menu, MenuItem } from '@mui/material';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ChevronDown } from 'lucide-react';
import { memo, useState, type KeyboardEvent } from 'react';
import { noticed } from '../../store/noticeSlice';
import type { PartList } from '../../store/pieceEdits';
import { pieceActions } from '../../store/pieceSlice';
import { store, useAppDispatch } from '../../store/store';
import { Tag } from './Tag';

/** What a tag shows of a part. */
export interface TagPart {
  id: string;
  name: string;
  on: boolean;
  icon: string;
}

interface Props {
  list: PartList;
  part: TagPart;
  selected: boolean;
}

/** A part that can be selected, dragged, renamed, switched off, shown alone, copied, removed. */
export const PartTag = memo(function PartTag({ list, part, selected }: Props) {
  const dispatch = useAppDispatch();
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: part.id });
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [name, setName] = useState<string | null>(null);
  const { id } = part;
  const parts = (): readonly { id: string }[] => store.getState().piece.piece![list];
  const place = (): number => parts().findIndex((p) => p.id === id);

  const rename = (): void => {
    const text = name?.trim();
    if (text && text !== part.name) {
      dispatch(pieceActions.set({ path: [list, place(), 'name'], value: text, label: 'Rename' }));
    }
    setName(null);
  };
  const toggle = (): void => {
    dispatch(pieceActions.set({ path: [list, place(), 'on'], value: !part.on, label: 'Switch' }));
  };
  const remove = (): void => {
    dispatch(pieceActions.removed({ list, id }));
    const message = `${part.name} was removed.`;
    dispatch(noticed({ key: 'removed', kind: 'note', message, action: 'undo' }));
  };
  const keys = (event: KeyboardEvent): void => {
    if (event.key === 'Delete') remove();
    else if (event.key === 'F2') setName(part.name);
    else if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      const at = place();
      const to = at + (event.key === 'ArrowLeft' ? -1 : 1);
      if (to >= 0 && to < parts().length) dispatch(pieceActions.moved({ list, from: at, to }));
    } else return;
    event.preventDefault();
  };
  const items: [string, () => void][] = [
    [part.on ? 'Switch off' : 'Switch on', toggle],
    ...(list === 'finish' || list === 'signals'
      ? []
      : ([['Show alone', () => void dispatch(pieceActions.alone({ list, id }))]] as [
          string,
          () => void,
        ][])),
    [
      'Rename',
      () => {
        setName(part.name);
      },
    ],
    ['Duplicate', () => void dispatch(pieceActions.duplicated({ list, id }))],
    ...(list === 'swarms'
      ? ([
          [
            'Duplicate, following',
            () => void dispatch(pieceActions.duplicated({ list, id, following: true })),
          ],
        ] as [string, () => void][])
      : []),
  ];
  if (name !== null) {
    return (
      <InputBase
        autoFocus
        value={name}
        onChange={(e) => {
          setName(e.target.value);
        }}
        onBlur={rename}
        onFocus={(e) => {
          e.target.select();
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') rename();
          if (e.key === 'Escape') setName(null);
        }}
        inputProps={{ 'aria-label': `New name of ${part.name}` }}
        sx={{ width: 120, fontSize: 13, px: 0.5, bgcolor: 'background.default', borderRadius: 0.5 }}
      />
    );
  }
  return (
    <Box
      ref={setNodeRef}
      {...listeners}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Tag
        name={part.name}
        icon={part.icon}
        selected={selected}
        off={!part.on}
        onSelect={() => dispatch(pieceActions.selected({ list, id }))}
        onRename={() => {
          setName(part.name);
        }}
        onKeyDown={keys}
      >
        <IconButton
          aria-label={`More for ${part.name}`}
          aria-haspopup="menu"
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
          sx={{ p: '1px', mr: '2px', color: 'inherit', opacity: selected ? 1 : 0.55 }}
        >
          <ChevronDown size={13} />
        </IconButton>
      </Tag>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
      >
        {items.map(([title, act]) => (
          <MenuItem
            key={title}
            onClick={() => {
              setAnchor(null);
              act();
            }}
          >
            {title}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem
          onClick={() => {
            setAnchor(null);
            remove();
          }}
        >
          Remove
        </MenuItem>
      </Menu>
    </Box>
  );
});
