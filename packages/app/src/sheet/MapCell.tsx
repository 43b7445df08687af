import { Box, Stack } from '@mui/material';
import type { ReactNode } from 'react';
import {
  MAP_PLANE,
  type ColourMapFeed,
  type MapChannel,
  type MapFeed,
  type MapPlane,
} from '@vast-swarm/core/feeds';
import { usePiece } from '../store/store';
import { COLOURS } from '../ui/theme';
import { MapHistogram } from './MapHistogram';
import { NamedSelect } from '../fields/NamedSelect';
import { NumberField } from '../fields/NumberField';
import { SmallSelect } from '../fields/SmallSelect';

interface Props<F> {
  label: string;
  feed: F;
  rate: number;
  onChange: (feed: F) => void;
  onSettle: () => void;
  /** The values that it goes between, or the light. */
  children: ReactNode;
}

const CHANNELS: Record<MapChannel, string> = {
  brightness: 'Brightness',
  red: 'Red',
  green: 'Green',
  blue: 'Blue',
  alpha: 'Alpha',
  hue: 'Hue',
  saturation: 'Saturation',
};
const PLACES = {
  surface: 'Along the emitter',
  plane: 'Place on a plane',
  screen: 'Place on the screen',
};
const EDGES = { again: 'Again beyond', mirrored: 'Mirrored beyond', edge: 'As at its edge' };
const OWN = 'its own colour';

/** Pictures of the stock, moving pictures and media of the piece. */
function usePictures(): { id: string; name: string }[] {
  const { stock, pictures, media } = usePiece();
  return [...pictures, ...media, ...stock.filter((s) => s.type === 'picture')];
}

/** A dial that is looked up in a picture: in which, where, and what of it. */
export function MapCell<F extends MapFeed | ColourMapFeed>(props: Props<F>) {
  const { label, feed, rate, onChange, onSettle, children } = props;
  const pictures = usePictures();
  const own = feed.source === 'colour';
  const put = (part: Partial<MapFeed>): void => {
    onChange({ ...feed, ...part });
  };
  const once = (part: Partial<MapFeed>): void => {
    put(part);
    onSettle();
  };
  const number = (name: string, value: number, spec: object, change: (v: number) => void) => (
    <NumberField
      key={name}
      label={`${label}, ${name}`}
      value={value}
      spec={{ min: -1000, max: 1000, unit: '', ...spec }}
      rate={rate}
      width={58}
      hideUnit
      onChange={change}
      onSettle={onSettle}
    />
  );
  return (
    <Box sx={{ fontSize: 12, '& > div': { flexWrap: 'wrap' } }}>
      <Stack direction="row" sx={{ alignItems: 'baseline', columnGap: 1 }}>
        <NamedSelect
          title={`${label}, map`}
          none="Choose a map"
          value={own ? OWN : (feed.picture ?? '')}
          options={[...pictures, { id: OWN, name: 'Its colour at birth' }]}
          onChange={(id) => {
            if (id === OWN) once({ source: 'colour', picture: undefined });
            else once({ source: undefined, picture: id || undefined });
          }}
        />
        {'from' in feed && (
          <SmallSelect
            label={`${label}, what is read`}
            value={feed.channel ?? 'brightness'}
            options={CHANNELS}
            onChange={(channel) => {
              once({ channel });
            }}
          />
        )}
      </Stack>
      {!own && <Lookup {...{ label, feed, number, put, once }} />}
      {!own && feed.by === 'plane' && (
        <PlaneFields
          plane={feed.plane ?? MAP_PLANE}
          number={number}
          onChange={(plane) => {
            put({ plane });
          }}
        />
      )}
      {'from' in feed && !own && feed.picture && (
        <MapHistogram
          {...{ label, onSettle, picture: feed.picture }}
          channel={feed.channel ?? 'brightness'}
          low={feed.low ?? 0}
          high={feed.high ?? 1}
          onLow={(low) => {
            put({ low });
          }}
          onHigh={(high) => {
            put({ high });
          }}
        />
      )}
      {'from' in feed && (
        <Row title="from">
          {number('least that counts', feed.low ?? 0, { min: 0, max: 1 }, (low) => {
            put({ low });
          })}
          <span>to</span>
          {number('most that counts', feed.high ?? 1, { min: 0, max: 1 }, (high) => {
            put({ high });
          })}
          <span>gives</span>
        </Row>
      )}
      <Box>{children}</Box>
    </Box>
  );
}

interface LookupProps {
  label: string;
  feed: MapFeed | ColourMapFeed;
  number: PlaneProps['number'];
  put: (part: Partial<MapFeed>) => void;
  once: (part: Partial<MapFeed>) => void;
}

/** By what a map is looked up, how often it stands beside itself, and what is beyond. */
function Lookup({ label, feed, number, put, once }: LookupProps) {
  const [across, down] = feed.repeat ?? [1, 1];
  const repeats = { min: 0.01, max: 1000, drag: 'log' };
  return (
    <Stack direction="row" sx={{ alignItems: 'baseline', columnGap: 1 }}>
      <SmallSelect
        label={`${label}, looked up by`}
        value={feed.by ?? 'surface'}
        options={PLACES}
        onChange={(by) => {
          once({ by, plane: by === 'plane' ? MAP_PLANE : undefined });
        }}
      />
      <SmallSelect
        label={`${label}, beyond the map`}
        value={feed.edge ?? 'again'}
        options={EDGES}
        onChange={(edge) => {
          once({ edge });
        }}
      />
      <Row title="times">
        {number('times across', across, repeats, (v) => {
          put({ repeat: [v, down] });
        })}
        {number('times down', down, repeats, (v) => {
          put({ repeat: [across, v] });
        })}
      </Row>
    </Stack>
  );
}

function Row({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Stack direction="row" sx={{ alignItems: 'baseline', gap: '4px', color: COLOURS.faint }}>
      <span>{title}</span>
      {children}
    </Stack>
  );
}

interface PlaneProps {
  plane: MapPlane;
  number: (name: string, value: number, spec: object, change: (v: number) => void) => ReactNode;
  onChange: (plane: MapPlane) => void;
}

/** Where the map lies in space. */
function PlaneFields({ plane, number, onChange }: PlaneProps) {
  const { centre, turn, width, height } = plane;
  const with3 = (i: number, v: number) => centre.with(i, v) as MapPlane['centre'];
  const size = { min: 0.001, max: 10_000, drag: 'log' };
  return (
    <>
      <Row title="centre">
        {(['x', 'y', 'z'] as const).map((axis, i) =>
          number(`centre ${axis}`, centre[i]!, {}, (v) => {
            onChange({ ...plane, centre: with3(i, v) });
          }),
        )}
      </Row>
      <Row title="size">
        {number('width', width, size, (v) => {
          onChange({ ...plane, width: v });
        })}
        {number('height', height, size, (v) => {
          onChange({ ...plane, height: v });
        })}
      </Row>
      <Row title="turn">
        {(['x', 'y'] as const).map((axis, i) =>
          number(`turn ${axis}`, turn[i]!, { min: -36000, max: 36000 }, (v) => {
            onChange({ ...plane, turn: turn.with(i, v) as MapPlane['turn'] });
          }),
        )}
      </Row>
    </>
  );
}
