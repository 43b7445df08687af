import { Box, MenuItem, Select, Stack, Tooltip } from '@mui/material';
import { memo } from 'react';
import {
  isFixed,
  isGradient,
  isPlaceColour,
  isSpread,
  overOf,
  type ColourFeed,
  type DialSpec,
  type DialValue,
  type NumberFeed,
  type Vector,
} from '@vast-swarm/core';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch } from '../../store/store';
import { COLOURS } from '../../theme';
import { ColourField } from './ColourField';
import { FeedButton } from './FeedButton';
import { GradientEditor } from './GradientEditor';
import { NumberField } from './NumberField';
import { ShapeEditor } from './ShapeEditor';

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

function Row({ spec, value, path, rate }: Props) {
  const dispatch = useAppDispatch();
  const merge = path.join('.');
  const put = (next: DialValue): void => {
    dispatch(pieceActions.set({ path, value: next, label: spec.title, merge }));
  };
  const settle = (): void => {
    dispatch(pieceActions.settled());
  };
  const reset = (): void => {
    put(spec.default);
    settle();
  };
  const over = overOf(value);
  const wide = spec.type === 'vector' || isGradient(value);
  return (
    <Box
      role="group"
      aria-label={spec.title}
      sx={{
        display: 'grid',
        gridTemplateColumns: wide ? '96px 1fr 26px' : '96px 140px 26px 1fr',
        columnGap: 0.5,
        alignItems: 'start',
        py: '3px',
        minHeight: 28,
      }}
    >
      <Tooltip title={spec.help} placement="left">
        <Box sx={{ color: COLOURS.faint, fontSize: 13, pt: '2px' }}>{spec.title}</Box>
      </Tooltip>
      <ValueCell {...{ spec, value, rate, put, settle, reset }} />
      {spec.type === 'number' || spec.type === 'colour' ? (
        <FeedButton
          spec={spec}
          value={value}
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
    </Box>
  );
}

interface CellProps {
  spec: DialSpec;
  value: DialValue;
  rate: number;
  put: (value: DialValue) => void;
  settle: () => void;
  reset: () => void;
}

function ValueCell({ spec, value, rate, put, settle, reset }: CellProps) {
  if (spec.type === 'choice') {
    return (
      <Select
        variant="standard"
        disableUnderline
        value={value as string}
        onChange={(e) => {
          put(e.target.value);
          settle();
        }}
        inputProps={{ 'aria-label': spec.title }}
        sx={{ fontSize: 13, '& .MuiSelect-select': { py: '1px' } }}
      >
        {spec.options.map((o) => (
          <MenuItem key={o.value} value={o.value}>
            {o.title}
          </MenuItem>
        ))}
      </Select>
    );
  }
  if (spec.type === 'colour') {
    const feed = value as ColourFeed;
    if (isGradient(feed)) {
      const change = (stops: typeof feed.stops): void => {
        put({ ...feed, stops });
      };
      return (
        <GradientEditor
          label={spec.title}
          stops={feed.stops}
          rate={rate}
          onChange={change}
          onSettle={settle}
        />
      );
    }
    if (isPlaceColour(feed)) return <Box sx={{ fontSize: 12.5 }}>From the place of birth</Box>;
    return <ColourField label={spec.title} value={feed} onChange={put} onSettle={settle} />;
  }
  const field = (label: string, v: number, onChange: (v: number) => void, unit = true) => (
    <NumberField
      key={label}
      label={label}
      value={v}
      spec={spec}
      rate={rate}
      width={unit ? '100%' : 62}
      hideUnit={!unit}
      onChange={onChange}
      onSettle={settle}
      onReset={reset}
    />
  );
  if (spec.type === 'vector') {
    const v = value as Vector;
    const part = (i: number) =>
      field(
        `${spec.title} ${'xyz'[i]!}`,
        v[i]!,
        (n) => {
          put(v.map((c, k) => (k === i ? n : c)) as Vector);
        },
        false,
      );
    return (
      <Stack direction="row" sx={{ alignItems: 'baseline', gap: 0.5 }}>
        {[0, 1, 2].map(part)}
        <Box sx={{ color: COLOURS.faint, fontSize: 11 }}>{spec.unit}</Box>
      </Stack>
    );
  }
  if (isSpread(value)) {
    return (
      <Stack direction="row" sx={{ alignItems: 'baseline' }}>
        {field(
          `${spec.title} from`,
          value.from,
          (from) => {
            put({ ...value, from });
          },
          false,
        )}
        <Box sx={{ color: COLOURS.faint }}>–</Box>
        {field(
          `${spec.title} to`,
          value.to,
          (to) => {
            put({ ...value, to });
          },
          true,
        )}
      </Stack>
    );
  }
  if (isFixed(value)) {
    return field(spec.title, value.value, (v) => {
      put({ ...value, value: v });
    });
  }
  return field(spec.title, value as number, put);
}
