import { Divider, IconButton, InputBase, Menu, MenuItem } from '@mui/material';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { ChevronDown } from 'lucide-react';
import { memo, useState, type KeyboardEvent } from 'react';
import { noticed } from '../store/noticeSlice';
import { isCalled, nameProblem, type PartList, type PartRef } from '@vast-swarm/core/piece';
import { useEngine } from '../engine/EngineContext';
import { copyParts, pasteParts } from '../recipes/copied';
import { keepRecipe } from '../recipes/recipes';
import { wordsOf } from '../sections/sections';
import { pieceActions } from '../store/pieceSlice';
import { isSelected, selectedParts } from '../store/selection';
import { store, useApp, useAppDispatch } from '../store/store';
import { Tag } from './Tag';

/** A part as far as its tag shows it. */
export interface TagPart {
  id: string;
  name: string;
  on: boolean;
  icon: string;
}

interface Props extends TagPart {
  list: PartList;
}

/** Acts on a part from its tag. */
function usePartActions(list: PartList, { id, name, on }: TagPart) {
  const dispatch = useAppDispatch();
  const engine = useEngine();
  const parts = (): readonly { id: string }[] => store.getState().piece.piece![list];
  const place = (): number => parts().findIndex((p) => p.id === id);
  const set = (key: string, value: unknown, label: string): void => {
    dispatch(pieceActions.set({ path: [list, place(), key], value, label }));
  };
  return {
    select: () => void dispatch(pieceActions.selected({ list, id })),
    also: () => void dispatch(pieceActions.alsoSelected({ list, id })),
    toggle: () => {
      set('on', !on, 'Switch');
    },
    rename: (text: string) => {
      if (!text || text === name) return;
      const { piece } = store.getState().piece;
      const problem = isCalled(list) && piece ? nameProblem(piece, id, text) : null;
      if (problem === null) set('name', text, 'Rename');
      else dispatch(noticed({ key: 'name', kind: 'wrong', message: `${text}: ${problem}.` }));
    },
    putForward: () => void dispatch(pieceActions.putForward({ path: [list, place(), 'on'] })),
    alone: () => void dispatch(pieceActions.alone({ list, id })),
    duplicate: (following?: boolean) =>
      void dispatch(pieceActions.duplicated({ list, id, following })),
    remove: () => {
      dispatch(pieceActions.removed({ list, id }));
      const message = `${name} was removed.`;
      dispatch(noticed({ key: 'removed', kind: 'note', message, action: 'undo' }));
    },
    copy: () => void copyParts(selectedWith({ list, id })),
    paste: () => void pasteParts(),
    keep: () => void keepRecipe(selectedWith({ list, id }), Math.max(0, engine.place)),
    /** So many places to the right; not past the ends. */
    move: (by: number) => {
      const from = place();
      const to = from + by;
      if (to >= 0 && to < parts().length) dispatch(pieceActions.moved({ list, from, to }));
    },
  };
}

type Item = [title: string, act: () => void];

const TRAVEL = ({ copy, paste, keep }: ReturnType<typeof usePartActions>): Item[] => [
  ['Copy', copy],
  ['Paste', paste],
  ['Keep as a recipe', keep],
];

/** A part, with the others that are selected where it is one of them. */
function selectedWith(ref: PartRef): PartRef[] {
  const state = store.getState().piece;
  return isSelected(state, ref) ? selectedParts(state) : [ref];
}

/** A part that can be selected, dragged, renamed, switched off, shown alone, copied, removed. */
export const PartTag = memo(function PartTag(part: Props) {
  const { setNodeRef, listeners, transform, transition } = useSortable({ id: part.id });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <NamedTag {...part} />
    </div>
  );
});

/** The tag itself, which nothing changes of that happens to other parts. */
const NamedTag = memo(function NamedTag({ list, ...part }: Props) {
  const [naming, setNaming] = useState(false);
  const selected = useApp((s) => isSelected(s.piece, { list, id: part.id }));
  const act = usePartActions(list, part);
  const name = (): void => {
    setNaming(true);
  };
  const keys = (event: KeyboardEvent): void => {
    if (event.key === 'Delete') act.remove();
    else if (event.key === 'F2') name();
    else if (event.altKey && event.key === 'ArrowLeft') act.move(-1);
    else if (event.altKey && event.key === 'ArrowRight') act.move(1);
    else return;
    event.preventDefault();
  };
  if (naming) {
    return (
      <NameField
        name={part.name}
        onName={(text) => {
          if (text !== null) act.rename(text);
          setNaming(false);
        }}
      />
    );
  }
  const alone: Item[] = wordsOf(list).alone ? [['Show alone', act.alone]] : [];
  const forward: Item[] = isCalled(list) ? [] : [['Put its switch forward', act.putForward]];
  const following: Item = [
    'Duplicate, following',
    () => {
      act.duplicate(true);
    },
  ];
  const items: Item[] = [
    [part.on ? 'Switch off' : 'Switch on', act.toggle],
    ...alone,
    ...forward,
    ['Rename', name],
    [
      'Duplicate',
      () => {
        act.duplicate();
      },
    ],
    ...(list === 'swarms' ? [following] : []),
    ...(isCalled(list) ? [] : TRAVEL(act)),
  ];
  return (
    <Tag
      name={part.name}
      icon={part.icon}
      selected={selected}
      off={!part.on}
      onSelect={(event) => {
        if (event.ctrlKey || event.metaKey || event.shiftKey) act.also();
        else act.select();
      }}
      onRename={name}
      onKeyDown={keys}
    >
      <MoreMenu name={part.name} faint={!selected} items={items} onRemove={act.remove} />
    </Tag>
  );
});

interface NameProps {
  name: string;
  /** The new name; null where it stays. */
  onName: (name: string | null) => void;
}

function NameField({ name, onName }: NameProps) {
  const [text, setText] = useState(name);
  return (
    <InputBase
      autoFocus
      value={text}
      onChange={(e) => {
        setText(e.target.value);
      }}
      onBlur={() => {
        onName(text.trim());
      }}
      onFocus={(e) => {
        e.target.select();
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') onName(text.trim());
        if (e.key === 'Escape') onName(null);
      }}
      inputProps={{ 'aria-label': `New name of ${name}` }}
      sx={{ width: 120, fontSize: 13, px: 0.5, bgcolor: 'background.default', borderRadius: 0.5 }}
    />
  );
}

interface MoreProps {
  name: string;
  faint: boolean;
  items: readonly Item[];
  onRemove: () => void;
}

function MoreMenu({ name, faint, items, onRemove }: MoreProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const entry = ([title, act]: Item) => (
    <MenuItem
      key={title}
      onClick={() => {
        setAnchor(null);
        act();
      }}
    >
      {title}
    </MenuItem>
  );
  return (
    <>
      <IconButton
        aria-label={`More for ${name}`}
        aria-haspopup="menu"
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
        sx={{ p: '1px', mr: '2px', color: 'inherit', opacity: faint ? 0.55 : 1 }}
      >
        <ChevronDown size={13} />
      </IconButton>
      {anchor && (
        // Only there while it is open: a line-up has very many of them.
        <Menu
          open
          anchorEl={anchor}
          onClose={() => {
            setAnchor(null);
          }}
        >
          {items.map(entry)}
          <Divider />
          {entry(['Remove', onRemove])}
        </Menu>
      )}
    </>
  );
}
