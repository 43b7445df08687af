import { Divider, IconButton, ListItemText, Menu, MenuItem, Tooltip } from '@mui/material';
import { useState } from 'react';
import {
  isGradient,
  isSpread,
  overOf,
  rangeOf,
  type ColourDial,
  type ColourFeed,
  type DialValue,
  type NumberDial,
  type NumberFeed,
  type Shape,
} from '@vast-swarm/core';
import { COLOURS } from '../../theme';

interface Props {
  spec: NumberDial | ColourDial;
  value: DialValue;
  onChange: (value: DialValue) => void;
}

interface Item {
  title: string;
  help: string;
  chosen: boolean;
  make: () => DialValue;
}

const FADE: Shape = [
  { x: 0, y: 0 },
  { x: 0.2, y: 1 },
  { x: 1, y: 0 },
];

/** What the number feed becomes with or without parts of it. */
function numberItems(spec: NumberDial, value: NumberFeed): Item[][] {
  const [from, to] = rangeOf(value);
  const middle = from === to ? from : (from + to) / 2;
  const over = overOf(value);
  const shape = over ? { over } : {};
  const spread = isSpread(value) ? value : null;
  const within = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  const ends = spread ?? { from: within(middle * 0.5), to: within(middle * 1.5) };
  const make = (distribution: 'uniform' | 'normal') => (): DialValue => ({
    feed: 'spread',
    from: ends.from,
    to: ends.to,
    distribution,
    ...(spread?.evaluate ? { evaluate: spread.evaluate } : {}),
    ...shape,
  });
  const base: Item[] = [
    {
      title: 'Fixed',
      help: 'The same for every particle',
      chosen: !spread,
      make: () => (over ? { feed: 'fixed', value: middle, over } : middle),
    },
    {
      title: 'Spread, even',
      help: 'Anything between two values',
      chosen: spread !== null && spread.distribution !== 'normal',
      make: make('uniform'),
    },
    {
      title: 'Spread, normal',
      help: 'Mostly near the middle',
      chosen: spread?.distribution === 'normal',
      make: make('normal'),
    },
  ];
  const groups = [base];
  if (spread)
    groups.push(whenItems(spread.evaluate ?? 'birth', (evaluate) => ({ ...spread, evaluate })));
  if (spec.varies === 'life') {
    const bare = (): DialValue => {
      if (!spread) return middle;
      const rest = { ...spread };
      delete rest.over;
      return rest;
    };
    groups.push([
      {
        title: 'Shaped over life',
        help: 'Multiplied by a curve from birth to death',
        chosen: over !== undefined,
        make: () => {
          if (over) return bare();
          return spread ? { ...spread, over: FADE } : { feed: 'fixed', value: middle, over: FADE };
        },
      },
    ]);
  }
  return groups;
}

function whenItems(now: 'birth' | 'live', make: (when: 'birth' | 'live') => DialValue): Item[] {
  return [
    {
      title: 'Read at birth',
      help: 'Each particle keeps it',
      chosen: now === 'birth',
      make: () => make('birth'),
    },
    {
      title: 'Read live',
      help: 'Read again at every frame',
      chosen: now === 'live',
      make: () => make('live'),
    },
  ];
}

function colourItems(value: ColourFeed): Item[][] {
  const gradient = isGradient(value) ? value : null;
  const colour = gradient ? gradient.stops[0]!.colour : (value as string);
  const stops = gradient?.stops ?? [
    { at: 0, colour },
    { at: 1, colour: '#27408b' },
  ];
  const by = (name: 'life' | 'random', title: string, help: string): Item => ({
    title,
    help,
    chosen: gradient !== null && (gradient.by ?? 'life') === name,
    make: () => ({ feed: 'gradient', by: name, stops }),
  });
  const groups = [
    [
      {
        title: 'One colour',
        help: 'The same for every particle',
        chosen: !gradient,
        make: () => colour,
      },
      by('life', 'Gradient over life', 'From birth to death'),
      by('random', 'Random from gradient', 'Each particle picks one'),
    ],
  ];
  if (gradient) {
    const now = gradient.evaluate ?? (gradient.by === 'random' ? 'birth' : 'live');
    groups.push(whenItems(now, (evaluate) => ({ ...gradient, evaluate })));
  }
  return groups;
}

/** What fills the dial; a sign on the button tells it at a glance. */
export function FeedButton({ spec, value, onChange }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (spec.varies === 'frame') return <span />;
  const groups =
    spec.type === 'number'
      ? numberItems(spec, value as NumberFeed)
      : colourItems(value as ColourFeed);
  const chosen = groups
    .flat()
    .filter((i) => i.chosen)
    .map((i) => i.title);
  const driven = chosen.some((t) => t !== 'Fixed' && t !== 'One colour');
  return (
    <>
      <Tooltip title={chosen.join(', ')}>
        <IconButton
          aria-label={`${spec.title}: what fills it (${chosen.join(', ')})`}
          aria-haspopup="menu"
          onClick={(event) => {
            setAnchor(event.currentTarget);
          }}
          sx={{ p: '2px', color: driven ? COLOURS.glass : COLOURS.faint }}
        >
          <FeedSign kind={signOf(value)} />
        </IconButton>
      </Tooltip>
      <Menu
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => {
          setAnchor(null);
        }}
      >
        {groups.flatMap((group, g) => [
          ...(g > 0 ? [<Divider key={`line${String(g)}`} />] : []),
          ...group.map((item) => (
            <MenuItem
              key={item.title}
              selected={item.chosen}
              onClick={() => {
                setAnchor(null);
                onChange(item.make());
              }}
            >
              <ListItemText
                primary={item.title}
                secondary={item.help}
                slotProps={{
                  primary: { sx: { fontSize: 13 } },
                  secondary: { sx: { fontSize: 11.5 } },
                }}
              />
            </MenuItem>
          )),
        ])}
      </Menu>
    </>
  );
}

type Sign = 'fixed' | 'spread' | 'shape' | 'gradient';

function signOf(value: DialValue): Sign {
  if (isGradient(value)) return 'gradient';
  if (overOf(value)) return 'shape';
  return isSpread(value) ? 'spread' : 'fixed';
}

const SIGNS: Record<Sign, string> = {
  fixed: 'M4 10h12',
  spread: 'M4 6h12M6.5 10h7M9 14h2',
  shape: 'M3 15c4 0 4-10 7-10s3 10 7 10',
  gradient: 'M3 5h14v10H3zM7.5 5v10M12.5 5v10',
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
