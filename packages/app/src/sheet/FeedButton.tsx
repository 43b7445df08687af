import { Divider, ListItemText, Menu, MenuItem } from '@mui/material';
import { useMemo, useState } from 'react';
import { signalNames, type Piece } from '@vast-swarm/core/piece';
import {
  isChannels,
  isFormula,
  isGradient,
  isLayers,
  isPlaceColour,
  isSignal,
  isSpread,
  mapOf,
  overOf,
  rangeOf,
  type ColourFeed,
  type DialValue,
  type NumberFeed,
} from '@vast-swarm/core/feeds';
import { memo } from '@vast-swarm/core/stock';
import type { ColourDial, DialSpec } from '@vast-swarm/core/kinds';
import { pieceActions } from '../store/pieceSlice';
import { store, useApp, useAppDispatch } from '../store/store';
import { forwardItems } from './controls/forwardItems';
import { colourItems, numberItems, type FedSpec } from './feedItems';

interface Props {
  title: string;
  spec: DialSpec | FedSpec;
  value: DialValue;
  path: (string | number)[];
  onChange: (value: DialValue) => void;
}

/** Sources of feeds in a piece: its signals, and the picture that is first looked up in. */
interface Offered {
  signals: { id: string; name: string }[];
  lookup: { picture?: string };
}

/** The same as a text, which is another only where that is. */
function offeredIn(piece: Piece): string {
  return memo(piece, 'offered', () => {
    const first = piece.pictures.at(-1) ?? piece.stock.find((s) => s.type === 'picture');
    const lookup = first ? { picture: first.id } : {};
    return JSON.stringify({ signals: signalNames(piece), lookup } satisfies Offered);
  });
}

/** The button of a dial's feed; its sign tells the feed at a glance. */
export function FeedButton({ title, spec, value, path, onChange }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  // Not the whole piece: whatever else of it changes is nothing to any of the many buttons.
  const offered = useApp((s) => offeredIn(s.piece.piece!));
  const groups = useMemo(() => groupsOf(spec, value, offered), [spec, value, offered]);
  const own = groups
    .flat()
    .filter((i) => i.chosen)
    .map((i) => i.title);
  const chosen = own.length > 0 ? own : ['Fixed'];
  const driven = chosen.some((t) => t !== 'Fixed' && t !== 'One colour');
  return (
    <>
      <button
        type="button"
        className="feedSign"
        data-driven={driven || undefined}
        aria-label={`${title}: what fills it (${chosen.join(', ')})`}
        aria-haspopup="menu"
        title={chosen.join(', ')}
        onClick={(event) => {
          setAnchor(event.currentTarget);
        }}
      >
        <FeedSign kind={signOf(value)} />
      </button>
      {anchor && (
        <FeedMenu
          {...{ spec, value, path, onChange, groups, anchor }}
          onClose={() => {
            setAnchor(null);
          }}
        />
      )}
    </>
  );
}

type Groups = ReturnType<typeof numberItems>;

/** Feeds for a dial, in groups. */
function groupsOf(spec: Props['spec'], value: DialValue, offered: string): Groups {
  const { signals, lookup } = JSON.parse(offered) as Offered;
  const filled = isFilled(spec);
  if (!filled) return [];
  return filled.type === 'number'
    ? numberItems(filled, value as NumberFeed, signals, lookup)
    : colourItems(value as ColourFeed, signals, lookup);
}

interface MenuProps extends Omit<Props, 'title'> {
  groups: Groups;
  anchor: HTMLElement;
  onClose: () => void;
}

/** Only there while it is open: a sheet has very many of the buttons. */
function FeedMenu({ spec, value, path, onChange, groups, anchor, onClose }: MenuProps) {
  const dispatch = useAppDispatch();
  const filled = isFilled(spec);
  const drive = (): void => {
    const [from, to] = rangeOf(value as NumberFeed);
    const reach = from === to ? (from === 0 ? 1 : from * 2) : to;
    const inside = Math.min((filled as FedSpec).max, reach);
    onClose();
    dispatch(pieceActions.signalled({ path, from, to: inside }));
  };
  return (
    <Menu open anchorEl={anchor} onClose={onClose}>
      {groups.flatMap((group, g) => [
        ...(g > 0 ? [<Divider key={`line${String(g)}`} />] : []),
        ...group.map((item) => (
          <MenuItem
            key={item.title}
            selected={item.chosen}
            onClick={() => {
              onClose();
              onChange(item.make());
            }}
          >
            <ItemText primary={item.title} secondary={item.help} />
          </MenuItem>
        )),
      ])}
      {filled?.type === 'number' && (
        <MenuItem onClick={drive}>
          <ItemText primary="A new wave" secondary="Adds a signal and follows it" />
        </MenuItem>
      )}
      {filled && <Divider />}
      {forwardItems(store.getState().piece.piece!, path).map(
        ({ title: primary, help, control }) => (
          <MenuItem
            key={primary}
            onClick={() => {
              onClose();
              dispatch(pieceActions.putForward({ path, ...(control ? { control } : {}) }));
            }}
          >
            <ItemText primary={primary} secondary={help} />
          </MenuItem>
        ),
      )}
    </Menu>
  );
}

function ItemText(texts: { primary: string; secondary: string }) {
  return (
    <ListItemText
      {...texts}
      slotProps={{ primary: { sx: { fontSize: 13 } }, secondary: { sx: { fontSize: 11.5 } } }}
    />
  );
}

/** A dial that can be filled with more than a plain value. */
function isFilled(spec: DialSpec | FedSpec): ColourDial | FedSpec | null {
  if (spec.type === 'number') return spec.varies === 'never' ? null : spec;
  return spec.type === 'colour' && spec.varies === 'life' ? spec : null;
}

type Sign = 'map' | 'fixed' | 'spread' | 'shape' | 'gradient' | 'signal' | 'formula' | 'place';

function signOf(value: DialValue): Sign {
  if (isGradient(value)) return 'gradient';
  if (isPlaceColour(value)) return 'place';
  if (mapOf(value)) return 'map';
  if (isChannels(value)) return 'signal';
  if (isLayers(value)) return 'gradient';
  if (isSignal(value)) return 'signal';
  if (isFormula(value)) return 'formula';
  if (overOf(value)) return 'shape';
  return isSpread(value) ? 'spread' : 'fixed';
}

const SIGNS: Record<Sign, string> = {
  fixed: 'M4 10h12',
  spread: 'M4 6h12M6.5 10h7M9 14h2',
  shape: 'M3 15c4 0 4-10 7-10s3 10 7 10',
  gradient: 'M3 5h14v10H3zM7.5 5v10M12.5 5v10',
  signal: 'M2 10c2-7 4-7 6 0s4 7 6 0s2-4 4-5',
  formula: 'M12 3c-3 0-3 2-3.5 5L7 14c-.4 2-1 3-3 3M6 9h7M12 12l5 5M17 12l-5 5',
  map: 'M3 4h14v12H3zM3 9h14M8 4v12M13 9v7',
  place: 'M10 3a5 5 0 0 1 5 5c0 4-5 9-5 9s-5-5-5-9a5 5 0 0 1 5-5z',
};

function FeedSign({ kind }: { kind: Sign }) {
  return (
    <svg
      width={20}
      height={20}
      viewBox="0 0 20 20"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
      aria-hidden
    >
      <path d={SIGNS[kind]} strokeLinecap="round" />
    </svg>
  );
}
