import { memo, useEffect, useRef, useState } from 'react';
import {
  isChannels,
  mapOf,
  isGradient,
  isLayers,
  overOf,
  type DialValue,
  type NumberFeed,
} from '@vast-swarm/core/feeds';
import type { DialSpec } from '@vast-swarm/core/kinds';
import { pieceActions } from '../store/pieceSlice';
import { useApp, useAppDispatch } from '../store/store';
import { HeldBy, useHolder } from './controls/HeldBy';
import { DialName } from './DialName';
import { isChanged } from './shownDials';
import { cameByKeyboard } from '../ui/byKeyboard';
import { toolActions } from '../store/toolSlice';
import { copyShape, pasteShape } from './copiedShape';
import { FeedButton } from './FeedButton';
import { ShapeEditor } from './ShapeEditor';
import { ValueCell } from './ValueCell';

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
