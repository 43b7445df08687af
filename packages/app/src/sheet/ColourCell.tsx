import { Box, Stack } from '@mui/material';
import {
  isChannels,
  isColourMap,
  isGradient,
  isLayers,
  isPlaceColour,
  type ColourFeed,
} from '@vast-swarm/core/feeds';
import { COLOURS } from '../ui/theme';
import { ChannelsCell } from './ChannelsCell';
import { ColourField } from './ColourField';
import { FormulaField } from './FormulaField';
import { GradientEditor } from './GradientEditor';
import { LayersCell } from './LayersCell';
import { MapCell } from './MapCell';
import { NumberField } from '../fields/NumberField';

interface Props {
  label: string;
  feed: ColourFeed;
  rate: number;
  onChange: (feed: ColourFeed) => void;
  onSettle: () => void;
}

/** A colour by what fills it: one, a gradient, a map, channels, layers. */
export function ColourCell({ label, feed, rate, onChange, onSettle }: Props) {
  if (isPlaceColour(feed)) {
    return <Box sx={{ fontSize: 12.5, pt: '2px' }}>From the place of birth</Box>;
  }
  if (isChannels(feed)) {
    return <ChannelsCell label={label} feed={feed} onChange={onChange} onSettle={onSettle} />;
  }
  if (isColourMap(feed)) {
    return (
      <MapCell label={label} feed={feed} rate={rate} onChange={onChange} onSettle={onSettle}>
        <Stack direction="row" sx={{ alignItems: 'baseline', gap: 1, color: COLOURS.faint }}>
          <span>light</span>
          <NumberField
            label={`${label}, light`}
            value={feed.light ?? 1}
            spec={{ min: 0, max: 100, unit: '', drag: 'log' }}
            rate={rate}
            onChange={(light) => {
              onChange({ ...feed, light });
            }}
            onSettle={onSettle}
          />
        </Stack>
      </MapCell>
    );
  }
  if (isLayers(feed)) {
    return (
      <LayersCell label={label} feed={feed} rate={rate} onChange={onChange} onSettle={onSettle} />
    );
  }
  if (!isGradient(feed)) {
    return <ColourField label={label} value={feed} onChange={onChange} onSettle={onSettle} />;
  }
  return (
    <Box>
      <GradientEditor
        label={label}
        stops={feed.stops}
        rate={rate}
        onChange={(stops) => {
          onChange({ ...feed, stops });
        }}
        onSettle={onSettle}
      />
      {feed.by === 'formula' && (
        <FormulaField
          label={`${label}, by the formula`}
          text={feed.text ?? 'lived'}
          particle
          onChange={(text) => {
            onChange({ ...feed, text });
            onSettle();
          }}
        />
      )}
    </Box>
  );
}
