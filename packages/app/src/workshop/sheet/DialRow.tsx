import { Box, Stack } from '@mui/material';
import { memo, useEffect, useRef, useState } from 'react';
import {
  isChannels,
  isColourMap,
  mapOf,
  isGradient,
  isLayers,
  isPlaceColour,
  overOf,
  type BoneRadii,
  type Bursts,
  type ColourFeed,
  type DialSpec,
  type DialValue,
  type Keys,
  type Mask,
  type Moves,
  type NumberFeed,
  type Sets,
  type Stop,
  type Strokes,
  type Take,
  type VectorFeed,
} from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useApp, useAppDispatch } from '../../store/store';
import { COLOURS } from '../../theme';
import { ChannelsCell } from './ChannelsCell';
import { ColourField } from './ColourField';
import { BurstsCell } from './controls/BurstsCell';
import { HeldBy, useHolder } from './controls/HeldBy';
import { LabelCell } from './controls/LabelCell';
import { LearntCell } from './controls/LearntCell';
import { MovesCell } from './controls/MovesCell';
import { OptionCell } from './controls/OptionCell';
import { SetsCell } from './controls/SetsCell';
import { ShortcutCell } from './controls/ShortcutCell';
import { DialName } from './DialName';
import { isChanged } from './shownDials';
import { PlainSelect } from '../../ui/PlainSelect';
import { cameByKeyboard } from '../../ui/byKeyboard';
import { toolActions } from '../../store/toolSlice';
import { copyShape, pasteShape } from './copiedShape';
import { FeedButton } from './FeedButton';
import { FormulaField } from './FormulaField';
import { GradientEditor } from './GradientEditor';
import { KeysTable } from './KeysTable';
import { LayersCell } from './LayersCell';
import { MapCell } from './MapCell';
import { MaskCell } from './MaskCell';
import { JointsCell } from './JointsCell';
import { PartCell } from './PartCell';
import { RadiiCell } from './RadiiCell';
import { NumberCell } from './NumberCell';
import { NumberField } from './NumberField';
import { ShapeEditor } from './ShapeEditor';
import { StockCell } from './StockCell';
import { StocksCell } from './StocksCell';
import { StrokesCell } from './StrokesCell';
import { SwarmCell } from './SwarmCell';
import { TakeCell } from './TakeCell';
import { VectorCell } from './VectorCell';

interface Props {
  spec: DialSpec;
  value: DialValue;
  /** Where the value stands in the piece. */
  path: (string | number)[];
  rate: number;
}

/**
 * One dial: name, value, feed, and its shape over life. While one dial is dragged the others are
 * not drawn again.
 */
export const DialRow = memo(
  Row,
  (a, b) =>
    a.spec === b.spec &&
    a.value === b.value &&
    a.rate === b.rate &&
    a.path.join('.') === b.path.join('.'),
);

/** Dials whose cell takes the whole row. */
const WIDE = new Set([
  'vector',
  'stock',
  'stocks',
  'keys',
  'formula',
  'swarm',
  'part',
  'joints',
  'radii',
  'strokes',
  'mask',
  'take',
  'shortcut',
  'learnt',
  'stops',
  'moves',
  'sets',
  'bursts',
]);

function Row({ spec, value, path, rate }: Props) {
  const dispatch = useAppDispatch();
  const merge = path.join('.');
  const put = (next: DialValue): void => {
    dispatch(pieceActions.set({ path, value: next, label: spec.title, merge }));
  };
  const settle = (): void => {
    dispatch(pieceActions.settled());
  };
  const over = overOf(value);
  const fed = typeof value === 'object' && 'feed' in value && 'from' in value && !over;
  const wide =
    WIDE.has(spec.type) ||
    isGradient(value) ||
    isLayers(value) ||
    isChannels(value) ||
    mapOf(value) !== null ||
    (fed && value.feed !== 'spread');
  const fills = ['number', 'colour', 'choice', 'stock'].includes(spec.type) && !isDesk(path);
  const holder = useHolder(path);
  const [focused, setFocused] = useState(false);
  const row = useLit(path);
  return (
    <div
      ref={row}
      className="dialRow"
      data-wide={wide || undefined}
      role="group"
      aria-label={spec.title}
      aria-description={isChanged(spec, value) ? 'changed' : undefined}
      onFocus={() => {
        setFocused(cameByKeyboard());
      }}
      onBlur={() => {
        setFocused(false);
      }}
      onKeyDown={(event) => {
        // A shape over life goes from row to row by keys, as text does.
        if (!event.ctrlKey || !event.shiftKey) return;
        if (event.key.toLowerCase() === 'c') copyShape(over);
        else if (event.key.toLowerCase() === 'v') {
          const pasted = pasteShape(spec, value);
          if (pasted) put(pasted);
          settle();
        } else return;
        event.preventDefault();
      }}
    >
      <DialName {...{ spec, path, focused }} changed={isChanged(spec, value)} />
      {holder ? (
        <HeldBy title={spec.title} {...{ holder, path }} />
      ) : (
        <ValueCell {...{ spec, value, rate, path, put, settle }} />
      )}
      {fills && !holder ? (
        <FeedButton
          title={spec.title}
          spec={spec}
          value={value}
          path={path}
          onChange={(next) => {
            put(next);
            settle();
          }}
        />
      ) : (
        <span />
      )}
      {over && typeof value === 'object' && 'feed' in value && (
        <ShapeEditor
          label={spec.title}
          shape={over}
          rate={rate}
          onChange={(shape) => {
            put({ ...value, over: shape } as NumberFeed);
          }}
          onSettle={settle}
        />
      )}
    </div>
  );
}

/** Milliseconds that a dial that was looked for stays lit. */
const LIT = 2500;

/** Where this is the dial that was looked for, it comes into view and is lit. */
function useLit(path: (string | number)[]) {
  const row = useRef<HTMLDivElement>(null);
  const dispatch = useAppDispatch();
  const lit = useApp((s) => s.tools.lit === path.join('.'));
  useEffect(() => {
    const box = row.current;
    if (!lit || !box) return;
    box.scrollIntoView({ block: 'center' });
    box.dataset.lit = '';
    box.querySelector<HTMLElement>('input, [role=combobox], button')?.focus();
    const timer = setTimeout(() => dispatch(toolActions.dialLit(null)), LIT);
    return () => {
      clearTimeout(timer);
      delete box.dataset.lit;
    };
  }, [lit, dispatch]);
  return row;
}

/** Controls and cues hold nothing of each other. */
function isDesk([list]: readonly (string | number)[]): boolean {
  return list === 'controls' || list === 'cues';
}

interface CellProps {
  spec: DialSpec;
  value: DialValue;
  rate: number;
  path: (string | number)[];
  put: (value: DialValue) => void;
  settle: () => void;
}

function ValueCell({ spec, value, rate, path, put, settle }: CellProps) {
  const once = (next: DialValue): void => {
    put(next);
    settle();
  };
  switch (spec.type) {
    case 'choice':
      return (
        <PlainSelect
          label={spec.title}
          value={value as string}
          options={spec.options}
          onChange={once}
        />
      );
    case 'colour': {
      const feed = value as ColourFeed;
      if (isPlaceColour(feed)) {
        return <Box sx={{ fontSize: 12.5, pt: '2px' }}>From the place of birth</Box>;
      }
      if (isChannels(feed)) {
        return <ChannelsCell label={spec.title} feed={feed} onChange={put} onSettle={settle} />;
      }
      if (isColourMap(feed)) {
        return (
          <MapCell label={spec.title} feed={feed} rate={rate} onChange={put} onSettle={settle}>
            <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1, color: COLOURS.faint }}>
              <span>light</span>
              <NumberField
                label={`${spec.title}, light`}
                value={feed.light ?? 1}
                spec={{ min: 0, max: 100, unit: '', drag: 'log' }}
                rate={rate}
                onChange={(light) => {
                  put({ ...feed, light });
                }}
                onSettle={settle}
              />
            </Stack>
          </MapCell>
        );
      }
      if (isLayers(feed)) {
        return (
          <LayersCell label={spec.title} feed={feed} rate={rate} onChange={put} onSettle={settle} />
        );
      }
      if (!isGradient(feed)) {
        return <ColourField label={spec.title} value={feed} onChange={put} onSettle={settle} />;
      }
      return (
        <Box>
          <GradientEditor
            label={spec.title}
            stops={feed.stops}
            rate={rate}
            onChange={(stops) => {
              put({ ...feed, stops });
            }}
            onSettle={settle}
          />
          {feed.by === 'formula' && (
            <FormulaField
              label={`${spec.title}, by the formula`}
              text={feed.text ?? 'lived'}
              particle
              onChange={(text) => {
                once({ ...feed, text });
              }}
            />
          )}
        </Box>
      );
    }
    case 'stock':
      return <StockCell spec={spec} value={value as string} path={path} onChange={once} />;
    case 'stocks':
      return <StocksCell spec={spec} value={value as string[]} path={path} onChange={once} />;
    case 'swarm':
      return (
        <SwarmCell
          title={spec.title}
          none={spec.none}
          value={value as string}
          path={path}
          onChange={once}
        />
      );
    case 'part':
      return <PartCell spec={spec} value={value as string} path={path} onChange={once} />;
    case 'joints':
      return <JointsCell spec={spec} value={value as string[]} path={path} onChange={once} />;
    case 'radii':
      return <RadiiCell value={value as BoneRadii} path={path} onChange={put} onSettle={settle} />;
    case 'keys':
      return <KeysTable keys={value as Keys} rate={rate} onChange={put} onSettle={settle} />;
    case 'formula':
      return (
        <FormulaField
          label={spec.title}
          text={value as string}
          particle={false}
          path={path}
          onChange={once}
        />
      );
    case 'mask':
      return <MaskCell mask={value as Mask} path={path} onChange={once} />;
    case 'take':
      return <TakeCell take={value as Take} path={path} onChange={once} />;
    case 'strokes':
      return <StrokesCell strokes={value as Strokes} path={path} onChange={once} />;
    case 'label':
      return <LabelCell label={spec.title} value={value as string} onChange={once} />;
    case 'shortcut':
      return (
        <ShortcutCell label={spec.title} value={value as string} path={path} onChange={once} />
      );
    case 'learnt':
      return <LearntCell value={value as string} path={path} onChange={once} />;
    case 'option':
      return <OptionCell title={spec.title} value={value as string} path={path} onChange={once} />;
    case 'stops':
      return (
        <GradientEditor
          label={spec.title}
          stops={value as Stop[]}
          rate={rate}
          onChange={put}
          onSettle={settle}
        />
      );
    case 'moves':
      return <MovesCell moves={value as Moves} path={path} onChange={put} onSettle={settle} />;
    case 'sets':
      return <SetsCell sets={value as Sets} onChange={put} onSettle={settle} />;
    case 'bursts':
      return <BurstsCell bursts={value as Bursts} onChange={put} onSettle={settle} />;
    case 'vector':
      return (
        <VectorCell
          spec={spec}
          value={value as VectorFeed}
          rate={rate}
          path={path}
          onChange={put}
          onSettle={settle}
        />
      );
    case 'number':
      return (
        <NumberCell
          label={spec.title}
          spec={spec}
          value={value as NumberFeed}
          rate={rate}
          onChange={put}
          onSettle={settle}
          onReset={() => {
            once(spec.default);
          }}
        />
      );
  }
}
