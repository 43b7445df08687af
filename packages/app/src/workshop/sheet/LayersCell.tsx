import { Box, Button, IconButton, Stack } from '@mui/material';
import { ArrowUp, Trash2 } from 'lucide-react';
import {
  LAYER_MODES,
  LAYER_READINGS,
  LAYER_SOURCES,
  type ColourLayer,
  type LayersFeed,
} from '@vast-swarm/core';
import { usePiece } from '../../store/store';
import { COLOURS } from '../../theme';
import { FormulaField } from './FormulaField';
import { GradientEditor } from './GradientEditor';
import { gradientCss } from './GradientTools';
import { NumberField } from './NumberField';
import { SmallSelect } from './SmallSelect';

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

/** A stack of layers of colour, the lowest first, with a swatch of each and of the result. */
export function LayersCell({ label, feed, rate, onChange, onSettle }: Props) {
  const put = (part: Partial<LayersFeed>): void => {
    onChange({ ...feed, ...part });
  };
  const once = (part: Partial<LayersFeed>): void => {
    put(part);
    onSettle();
  };
  const layer = (i: number, part: Partial<ColourLayer>, settled = true): void => {
    put({ layers: feed.layers.map((l, k) => (k === i ? { ...l, ...part } : l)) });
    if (settled) onSettle();
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
      {feed.layers.map((l, i) => (
        <Box
          key={i}
          role="group"
          aria-label={`${label}, layer ${String(i + 1)}`}
          sx={{ borderLeft: `2px solid ${COLOURS.line}`, pl: 0.75, my: 0.5 }}
        >
          <Stack direction="row" sx={{ alignItems: 'center', gap: 0.5, flexWrap: 'wrap' }}>
            <Box
              aria-hidden
              sx={{
                width: 36,
                height: 12,
                borderRadius: 0.5,
                background: gradientCss(feed.as === 'colours' ? (l.stops ?? feed.stops) : GREYS),
              }}
            />
            <SmallSelect
              label={`Layer ${String(i + 1)} goes by`}
              value={l.by}
              options={LAYER_SOURCES}
              onChange={(by) => {
                layer(i, { by });
              }}
            />
            <SmallSelect
              label={`Layer ${String(i + 1)} lies over`}
              value={l.over}
              options={LAYER_MODES}
              onChange={(over) => {
                layer(i, { over });
              }}
            />
            <NumberField
              label={`Layer ${String(i + 1)} amount`}
              value={l.amount}
              spec={PART}
              rate={rate}
              width={40}
              onChange={(amount) => {
                layer(i, { amount }, false);
              }}
              onSettle={onSettle}
            />
            {i > 0 && (
              <IconButton
                aria-label={`Move layer ${String(i + 1)} down`}
                sx={{ p: '1px' }}
                onClick={() => {
                  const next = [...feed.layers];
                  next.splice(i - 1, 2, l, next[i - 1]!);
                  once({ layers: next });
                }}
              >
                <ArrowUp size={12} />
              </IconButton>
            )}
            {feed.layers.length > 1 && (
              <IconButton
                aria-label={`Remove layer ${String(i + 1)}`}
                sx={{ p: '1px' }}
                onClick={() => {
                  once({ layers: feed.layers.filter((_, k) => k !== i) });
                }}
              >
                <Trash2 size={12} />
              </IconButton>
            )}
          </Stack>
          <LayerSource
            name={`Layer ${String(i + 1)}`}
            layer={l}
            rate={rate}
            onChange={(part, settled) => {
              layer(i, part, settled);
            }}
            onSettle={onSettle}
          />
          {feed.as === 'colours' && !['picture', 'place', 'swarm'].includes(l.by) && (
            <GradientEditor
              label={`Layer ${String(i + 1)}`}
              stops={l.stops ?? feed.stops}
              rate={rate}
              onChange={(stops) => {
                layer(i, { stops }, false);
              }}
              onSettle={onSettle}
            />
          )}
        </Box>
      ))}
      <Button
        disabled={feed.layers.length >= 8}
        onClick={() => {
          const fresh: ColourLayer = {
            by: 'reading',
            reading: 'speed',
            from: 0,
            to: 2,
            over: 'add',
            amount: 0.5,
          };
          once({ layers: [...feed.layers, fresh] });
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

interface SourceProps {
  name: string;
  layer: ColourLayer;
  rate: number;
  onChange: (part: Partial<ColourLayer>, settled?: boolean) => void;
  onSettle: () => void;
}

/** What the layer's source needs to know. */
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
          options={named(piece.signals)}
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
            options={named(piece.stock.filter((s) => s.type === 'picture'))}
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
