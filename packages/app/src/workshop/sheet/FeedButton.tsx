import { Divider, IconButton, ListItemText, Menu, MenuItem, Tooltip } from '@mui/material';
import { useState } from 'react';
import {
  isFormula,
  isGradient,
  isLayers,
  isPlaceColour,
  isSignal,
  isSpread,
  overOf,
  rangeOf,
  type ColourDial,
  type ColourFeed,
  type DialValue,
  type NumberDial,
  type NumberFeed,
  type Part,
  type Shape,
} from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch } from '../../store/store';
import { COLOURS } from '../../theme';

interface Props {
  title: string;
  spec: ColourDial | FedSpec;
  value: DialValue;
  path: (string | number)[];
  onChange: (value: DialValue) => void;
}

/** What the choice of feeds goes by: a number dial, or a part of a vector. */
export type FedSpec = Pick<NumberDial, 'min' | 'max' | 'varies'> & { type: 'number' };

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
function numberItems(spec: FedSpec, value: NumberFeed, signals: readonly Part[]): Item[][] {
  const [from, to] = rangeOf(value);
  const middle = from === to ? from : (from + to) / 2;
  const over = overOf(value);
  const shape = over ? { over } : {};
  const spread = isSpread(value) ? value : null;
  const within = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  const apart =
    from === to ? [within(middle * 0.5), within(middle === 0 ? 1 : middle * 1.5)] : [from, to];
  const ends = { from: apart[0]!, to: apart[1]! };
  const particle = spec.varies !== 'frame';
  const make = (distribution: 'uniform' | 'normal') => (): DialValue => ({
    feed: 'spread',
    ...ends,
    distribution,
    ...(spread?.evaluate ? { evaluate: spread.evaluate } : {}),
    ...shape,
  });
  const base: Item[] = [
    {
      title: 'Fixed',
      help: particle ? 'The same for every particle' : 'Always the same',
      chosen: !spread && !isSignal(value) && !isFormula(value),
      make: () => (over ? { feed: 'fixed', value: middle, over } : middle),
    },
  ];
  if (particle) {
    base.push(
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
    );
  }
  base.push({
    title: 'Formula',
    help: particle ? 'Of time and the particle’s readings' : 'Of time, frame and seed',
    chosen: isFormula(value),
    make: () => ({
      feed: 'formula',
      text: startText(middle),
      ...formulaEnds(spec, ends),
      ...shape,
    }),
  });
  const driven: Item[] = signals.map((s) => ({
    title: `Signal: ${s.name}`,
    help: 'Follows it from one value to another',
    chosen: isSignal(value) && value.signal === s.id,
    make: () => ({ feed: 'signal', signal: s.id, ...ends, ...shape }),
  }));
  const groups = [base, driven].filter((g) => g.length > 0);
  const when = isSpread(value) ? value : isSignal(value) || isFormula(value) ? value : null;
  if (when && spec.varies === 'life') {
    const now = when.evaluate ?? (isSpread(value) ? 'birth' : 'live');
    groups.push(whenItems(now, (evaluate) => ({ ...when, evaluate })));
  }
  if (spec.varies === 'life') groups.push([shapedItem(value, middle)]);
  return groups;
}

/** A formula that gives about what the dial had. */
function startText(value: number): string {
  return `${String(Number(value.toPrecision(4)))} * (1 + 0.3 * sin(time * 2))`;
}

function formulaEnds(spec: FedSpec, ends: { from: number; to: number }) {
  const wide = (v: number): number => Math.min(spec.max, Math.max(spec.min, v));
  const reach = Math.max(Math.abs(ends.from), Math.abs(ends.to), 0.1) * 4;
  return { from: wide(-reach), to: wide(reach) };
}

function shapedItem(value: NumberFeed, middle: number): Item {
  const over = overOf(value);
  return {
    title: 'Shaped over life',
    help: 'Multiplied by a curve from birth to death',
    chosen: over !== undefined,
    make: () => {
      if (typeof value === 'number') return { feed: 'fixed', value: middle, over: FADE };
      if (!over) return { ...value, over: FADE };
      if (value.feed === 'fixed') return value.value;
      const rest = { ...value };
      delete rest.over;
      return rest;
    },
  };
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

function colourItems(value: ColourFeed, signals: readonly Part[]): Item[][] {
  const gradient = isGradient(value) ? value : null;
  const layered = isLayers(value) ? value.stops : null;
  const colour =
    (gradient?.stops ?? layered)
      ? (gradient?.stops ?? layered)![0]!.colour
      : typeof value === 'string'
        ? value
        : '#ffffff';
  const stops = gradient?.stops ??
    layered ?? [
      { at: 0, colour },
      { at: 1, colour: '#27408b' },
    ];
  const by = (name: 'life' | 'random' | 'formula', title: string, help: string): Item => ({
    title,
    help,
    chosen: gradient !== null && (gradient.by ?? 'life') === name,
    make: () => ({
      ...{ feed: 'gradient', by: name, stops },
      ...(name === 'formula' ? { text: 'speed / 3' } : {}),
    }),
  });
  const groups = [
    [
      {
        title: 'One colour',
        help: 'The same for every particle',
        chosen: typeof value === 'string',
        make: () => colour,
      },
      by('life', 'Gradient over life', 'From birth to death'),
      by('random', 'Random from gradient', 'Each particle picks one'),
      by('formula', 'Gradient by a formula', 'Of speed, age, place and other readings'),
      {
        title: 'From the place of birth',
        help: 'Of the picture, mesh or points',
        chosen: isPlaceColour(value),
        make: (): DialValue => ({ feed: 'place' }),
      },
      {
        title: 'Layers',
        help: 'Readings, chance, pictures and swarms over one another',
        chosen: isLayers(value),
        make: (): DialValue => ({
          feed: 'layers',
          as: 'greys',
          layers: [
            { by: 'life', over: 'normal', amount: 1 },
            { by: 'random', over: 'overlay', amount: 0.4 },
          ],
          stops,
        }),
      },
    ],
    signals.map((s): Item => ({
      title: `Gradient by signal: ${s.name}`,
      help: 'All particles change together',
      chosen: gradient?.by === 'signal' && gradient.signal === s.id,
      make: () => ({ feed: 'gradient', by: 'signal', signal: s.id, stops }),
    })),
  ].filter((g) => g.length > 0);
  if (gradient) {
    const now = gradient.evaluate ?? (gradient.by === 'random' ? 'birth' : 'live');
    groups.push(whenItems(now, (evaluate) => ({ ...gradient, evaluate })));
  }
  return groups;
}

/** What fills the dial; a sign on the button tells it at a glance. */
export function FeedButton({ title, spec, value, path, onChange }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const signals = useApp((s) => s.piece.piece!.signals);
  const dispatch = useAppDispatch();
  if (spec.varies === 'never' || (spec.type === 'colour' && spec.varies === 'frame')) {
    return <span />;
  }
  const groups =
    spec.type === 'number'
      ? numberItems(spec, value as NumberFeed, signals)
      : colourItems(value as ColourFeed, signals);
  const drive = (): void => {
    const [from, to] = rangeOf(value as NumberFeed);
    const reach = from === to ? (from === 0 ? 1 : from * 2) : to;
    const inside = Math.min((spec as FedSpec).max, reach);
    setAnchor(null);
    dispatch(pieceActions.signalled({ path, from, to: inside }));
  };
  const chosen = groups
    .flat()
    .filter((i) => i.chosen)
    .map((i) => i.title);
  const driven = chosen.some((t) => t !== 'Fixed' && t !== 'One colour');
  return (
    <>
      <Tooltip title={chosen.join(', ')}>
        <IconButton
          aria-label={`${title}: what fills it (${chosen.join(', ')})`}
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
        {spec.type === 'number' && (
          <MenuItem onClick={drive}>
            <ListItemText
              primary="A new wave"
              secondary="Adds a signal and follows it"
              slotProps={{
                primary: { sx: { fontSize: 13 } },
                secondary: { sx: { fontSize: 11.5 } },
              }}
            />
          </MenuItem>
        )}
      </Menu>
    </>
  );
}

type Sign = 'fixed' | 'spread' | 'shape' | 'gradient' | 'signal' | 'formula' | 'place';

function signOf(value: DialValue): Sign {
  if (isGradient(value)) return 'gradient';
  if (isPlaceColour(value)) return 'place';
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
