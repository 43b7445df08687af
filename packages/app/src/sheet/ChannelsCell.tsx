import { Box } from '@mui/material';
import { signalNames } from '@vast-swarm/core/piece';
import type { ChannelsFeed } from '@vast-swarm/core/feeds';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { NamedSelect } from '../fields/NamedSelect';
import { NumberField } from '../fields/NumberField';

interface Props {
  label: string;
  feed: ChannelsFeed;
  onChange: (feed: ChannelsFeed) => void;
  onSettle: () => void;
}

const CHANNELS = [
  ['red', 'Red'],
  ['green', 'Green'],
  ['blue', 'Blue'],
] as const;
const LIGHT = { min: 0, max: 100, unit: '' };

/** A colour of three signals: which, and how much light each gives at 0 and at 1. */
export function ChannelsCell({ label, feed, onChange, onSettle }: Props) {
  const options = signalNames(usePiece());
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '42px 1fr 58px 10px 58px', gap: '2px' }}>
      {CHANNELS.map(([key, title]) => {
        const channel = feed[key];
        const put = (part: Partial<ChannelsFeed['red']>): void => {
          onChange({ ...feed, [key]: { ...channel, ...part } });
        };
        const end = (which: 'from' | 'to', at: string) => (
          <NumberField
            label={`${label}, ${title.toLowerCase()} at ${at}`}
            value={channel[which]}
            spec={LIGHT}
            rate={1}
            width="100%"
            hideUnit
            onChange={(v) => {
              put({ [which]: v });
            }}
            onSettle={onSettle}
          />
        );
        return (
          <Box key={key} sx={{ display: 'contents', fontSize: 12.5 }}>
            <Box sx={{ color: COLOURS.faint, fontSize: 12.5, alignSelf: 'center' }}>{title}</Box>
            <NamedSelect
              title={`${label}, ${title.toLowerCase()}`}
              none="None"
              value={channel.signal ?? ''}
              options={options}
              onChange={(signal) => {
                put({ signal: signal === '' ? undefined : signal });
                onSettle();
              }}
            />
            {end('from', '0')}
            <Box sx={{ color: COLOURS.faint, textAlign: 'center' }}>–</Box>
            {end('to', '1')}
          </Box>
        );
      })}
    </Box>
  );
}
