import { Box, Stack } from '@mui/material';
import { useState, type ReactNode } from 'react';
import type { DialValue, FrameFeed, VectorFeed } from '@vast-swarm/core/feeds';
import type { VectorDial } from '@vast-swarm/core/kinds';
import { COLOURS } from '../ui/theme';
import { useApp } from '../store/store';
import { HeldBy, holderAt, useHolder } from './controls/HeldBy';
import { FeedButton } from './FeedButton';
import type { FedSpec } from './feedItems';
import { NumberCell } from './NumberCell';
import { NumberField } from '../fields/NumberField';

interface Props {
  spec: VectorDial;
  value: VectorFeed;
  rate: number;
  path: (string | number)[];
  onChange: (value: VectorFeed) => void;
  onSettle: () => void;
}

/** Three numbers in a row; opened, or where something drives one of them, one below the other. */
export function VectorCell({ spec, value, rate, path, onChange, onSettle }: Props) {
  const held = useApp(({ piece: { piece } }) =>
    [0, 1, 2].some((i) => piece !== null && holderAt(piece, [...path, i]) !== ''),
  );
  const driven = held || value.some((v) => typeof v !== 'number');
  const [opened, setOpened] = useState(false);
  const put = (i: number, part: FrameFeed): void => {
    onChange(value.map((c, k) => (k === i ? part : c)) as VectorFeed);
  };
  const reset = (i: number) => (): void => {
    put(i, spec.default[i]!);
    onSettle();
  };
  if (driven || opened) {
    const fed: FedSpec = { type: 'number', varies: 'frame', min: spec.min, max: spec.max };
    const cell = { ...spec, varies: 'frame' as const };
    return (
      <Box sx={{ gridColumn: 'span 2' }}>
        {value.map((part, i) => (
          <Component key={i} title={spec.title} path={[...path, i]}>
            <NumberCell
              label={`${spec.title} ${'xyz'[i]!}`}
              spec={cell}
              value={part}
              rate={rate}
              onChange={(v) => {
                put(i, v as FrameFeed);
              }}
              onSettle={onSettle}
              onReset={reset(i)}
            />
            <FeedButton
              title={`${spec.title} ${'xyz'[i]!}`}
              spec={fed}
              value={part as DialValue}
              path={[...path, i]}
              onChange={(v) => {
                put(i, v as FrameFeed);
                onSettle();
              }}
            />
          </Component>
        ))}
      </Box>
    );
  }
  return (
    <>
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 0.5 }}>
        {value.map((part, i) => (
          <NumberField
            key={i}
            label={`${spec.title} ${'xyz'[i]!}`}
            value={part as number}
            spec={spec}
            rate={rate}
            width={62}
            hideUnit
            onChange={(v) => {
              put(i, v);
            }}
            onSettle={onSettle}
            onReset={reset(i)}
          />
        ))}
        <Box sx={{ color: COLOURS.faint, fontSize: 11 }}>{spec.unit}</Box>
      </Stack>
      <button
        type="button"
        className="feedSign"
        title="Drive x, y or z"
        aria-label={`${spec.title}: drive x, y or z`}
        onClick={() => {
          setOpened(true);
        }}
      >
        <svg width={20} height={20} viewBox="0 0 20 20" fill="none" stroke="currentColor">
          <path d="M4 10h12" strokeWidth={1.6} strokeLinecap="round" />
        </svg>
      </button>
    </>
  );
}

interface ComponentProps {
  title: string;
  path: (string | number)[];
  children: ReactNode;
}

/** One of three numbers, unless a control holds it. */
function Component({ title, path, children }: ComponentProps) {
  const holder = useHolder(path);
  const axis = 'xyz'[path.at(-1) as number]!;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '14px 1fr 26px', alignItems: 'start' }}>
      <Box sx={{ color: COLOURS.faint, fontSize: 12, pt: '3px' }}>{axis}</Box>
      {holder ? <HeldBy title={`${title} ${axis}`} {...{ holder, path }} /> : children}
    </Box>
  );
}
