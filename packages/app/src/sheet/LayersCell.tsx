import { Box, Button, IconButton, Stack } from '@mui/material';
import { ArrowUp, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { signalNames } from '@vast-swarm/core/piece';
import {
  LAYER_MODES,
  LAYER_READINGS,
  LAYER_SOURCES,
  type ColourLayer,
  type LayersFeed,
} from '@vast-swarm/core/feeds';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { FormulaField } from './FormulaField';
import { GradientEditor } from './GradientEditor';
import { gradientCss } from './GradientTools';
import { NumberField } from '../fields/NumberField';
import { SmallSelect } from '../fields/SmallSelect';

interface Props {
  label: string;
  feed: LayersFeed;
  rate: number;
  onChange: (feed: LayersFeed) => void;
  onSettle: () => void;
}

const WAYS = { greys: 'Blended as greys, then coloured', colours: 'Blended as colours' };
const GREYS = [
  { at: 0, colour: '#000000' },
  { at: 1, colour: '#ffffff' },
];
const ANY = { min: -1e6, max: 1e6, unit: '' };
const PART = { min: 0, max: 1, unit: '' };
const METRES = { min: 0.001, max: 10000, unit: 'm', drag: 'log' as const };

/** A layer that has just been added. */
const FRESH: ColourLayer = {
  by: 'reading',
  reading: 'speed',
  from: 0,
  to: 2,
  over: 'add',
  amount: 0.5,
};

/** A stack of layers of colour, the lowest first, with a swatch of each and of the result. */
export function LayersCell({ label, feed, rate, onChange, onSettle }: Props) {
  const put = (part: Partial<LayersFeed>): void => {
    onChange({ ...feed, ...part });
  };
  const once = (part: Partial<LayersFeed>): void => {
    put(part);
    onSettle();
  };
  return (
    <Box>
      <SmallSelect
        label={`${label}, how layers are blended`}
        value={feed.as}
        options={WAYS}
        onChange={(as) => {
          once({ as });
        }}
      />
      {feed.layers.map((layer, i) => (
        <LayerRow
          key={i}
          group={label}
          name={`Layer ${String(i + 1)}`}
          {...{ feed, layer, rate, onSettle }}
          onChange={(part, settled = true) => {
            put({ layers: feed.layers.map((l, k) => (k === i ? { ...l, ...part } : l)) });
            if (settled) onSettle();
          }}
          onDown={
            i > 0
              ? () => {
                  const next = [...feed.layers];
                  next.splice(i - 1, 2, layer, next[i - 1]!);
                  once({ layers: next });
                }
              : undefined
          }
          onRemove={
            feed.layers.length > 1
              ? () => {
                  once({ layers: feed.layers.filter((_, k) => k !== i) });
                }
              : undefined
          }
        />
      ))}
      <Button
        disabled={feed.layers.length >= 8}
        onClick={() => {
          once({ layers: [...feed.layers, FRESH] });
        }}
      >
        Add a layer
      </Button>
      {feed.as === 'greys' && (
        <GradientEditor
          label={`${label} result`}
          stops={feed.stops}
          rate={rate}
          onChange={(stops) => {
            put({ stops });
          }}
          onSettle={onSettle}
        />
      )}
    </Box>
  );
}

interface RowProps extends SourceProps {
  /** The name of their dial. */
  group: string;
  feed: LayersFeed;
  /** Moves it below the one before; nothing where it is the lowest. */
  onDown?: () => void;
  onRemove?: () => void;
}

/** One layer: what it goes by, how it lies over those below, and how much. */
function LayerRow(props: RowProps) {
  const { group, name, feed, layer, rate, onChange, onSettle, onDown, onRemove } = props;
  const stops = layer.stops ?? feed.stops;
  const coloured = feed.as === 'colours';
  return (
    <Box
      role="group"
      aria-label={`${group}, ${name.toLowerCase()}`}
      sx={{ borderLeft: `2px solid ${COLOURS.line}`, pl: 0.75, my: 0.5 }}
    >
      <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5, flexWrap: 'wrap' }}>
        <Box
          aria-hidden
          sx={{
            width: 36,
            height: 12,
            borderRadius: 0.5,
            background: gradientCss(coloured ? stops : GREYS),
          }}
        />
        <SmallSelect
          label={`${name} goes by`}
          value={layer.by}
          options={LAYER_SOURCES}
          onChange={(by) => {
            onChange({ by });
          }}
        />
        <SmallSelect
          label={`${name} lies over`}
          value={layer.over}
          options={LAYER_MODES}
          onChange={(over) => {
            onChange({ over });
          }}
        />
        <NumberField
          label={`${name} amount`}
          value={layer.amount}
          spec={PART}
          rate={rate}
          width={40}
          onChange={(amount) => {
            onChange({ amount }, false);
          }}
          onSettle={onSettle}
        />
        <SmallAction label={`Move ${name.toLowerCase()} down`} onClick={onDown}>
          <ArrowUp size={12} />
        </SmallAction>
        <SmallAction label={`Remove ${name.toLowerCase()}`} onClick={onRemove}>
          <Trash2 size={12} />
        </SmallAction>
      </Stack>
      <LayerSource {...{ name, layer, rate, onChange, onSettle }} />
      {coloured && !['picture', 'place', 'swarm'].includes(layer.by) && (
        <GradientEditor
          label={name}
          stops={stops}
          rate={rate}
          onChange={(next) => {
            onChange({ stops: next }, false);
          }}
          onSettle={onSettle}
        />
      )}
    </Box>
  );
}

interface ActionProps {
  label: string;
  /** Not shown where there is nothing to do. */
  onClick?: () => void;
  children: ReactNode;
}

function SmallAction({ label, onClick, children }: ActionProps) {
  if (!onClick) return null;
  return (
    <IconButton aria-label={label} sx={{ p: '1px' }} onClick={onClick}>
      {children}
    </IconButton>
  );
}

interface SourceProps {
  name: string;
  layer: ColourLayer;
  rate: number;
  onChange: (part: Partial<ColourLayer>, settled?: boolean) => void;
  onSettle: () => void;
}

/** Settings of the layer's source. */
function LayerSource({ name, layer, rate, onChange, onSettle }: SourceProps) {
  const piece = usePiece();
  const named = (parts: readonly { id: string; name: string }[]): Record<string, string> => ({
    '': 'None',
    ...Object.fromEntries(parts.map((p) => [p.id, p.name])),
  });
  const field = (label: string, key: 'from' | 'to' | 'size', value: number, spec = ANY) => (
    <NumberField
      label={`${name}, ${label}`}
      value={value}
      spec={spec}
      rate={rate}
      width={48}
      onChange={(v) => {
        onChange({ [key]: v }, false);
      }}
      onSettle={onSettle}
    />
  );
  switch (layer.by) {
    case 'reading':
      return (
        <Stack
          direction="row"
          sx={{ alignItems: 'center', gap: 0.5, fontSize: 12, flexWrap: 'wrap' }}
        >
          <SmallSelect
            label={`${name}, which reading`}
            value={layer.reading ?? 'speed'}
            options={LAYER_READINGS}
            onChange={(reading) => {
              onChange({ reading });
            }}
          />
          from {field('from', 'from', layer.from ?? 0)} to {field('to', 'to', layer.to ?? 1)}
        </Stack>
      );
    case 'formula':
      return (
        <FormulaField
          label={`${name}, formula`}
          text={layer.text ?? 'lived'}
          particle
          onChange={(text) => {
            onChange({ text });
          }}
        />
      );
    case 'signal':
      return (
        <SmallSelect
          label={`${name}, which signal`}
          value={layer.signal ?? ''}
          options={named(signalNames(piece))}
          onChange={(signal) => {
            onChange({ signal: signal || undefined });
          }}
        />
      );
    case 'picture':
      return (
        <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5, fontSize: 12 }}>
          <SmallSelect
            label={`${name}, which picture`}
            value={layer.picture ?? ''}
            options={named([...piece.pictures, ...piece.stock.filter((s) => s.type === 'picture')])}
            onChange={(picture) => {
              onChange({ picture: picture || undefined });
            }}
          />
          <SmallSelect
            label={`${name}, which place`}
            value={layer.at ?? 'now'}
            options={{ now: 'where it is', birth: 'where it was born' }}
            onChange={(at) => {
              onChange({ at });
            }}
          />
          {field('height', 'size', layer.size ?? 2, METRES)}
        </Stack>
      );
    case 'swarm':
      return (
        <SmallSelect
          label={`${name}, which swarm`}
          value={layer.swarm ?? ''}
          options={named(piece.swarms)}
          onChange={(swarm) => {
            onChange({ swarm: swarm || undefined });
          }}
        />
      );
    default:
      return null;
  }
}
