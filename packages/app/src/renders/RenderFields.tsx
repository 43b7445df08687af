import { Button, FormControlLabel, MenuItem, Stack, Switch, TextField } from '@mui/material';
import { useEffect, useState, type ReactNode } from 'react';
import { canEncodeVideo } from 'mediabunny';
import { QUALITIES, type CodecName } from '@vast-swarm/core/formats';
import type { Piece } from '@vast-swarm/core/piece';
import { COLOURS } from '../ui/theme';
import { LayersField } from './LayersField';
import {
  canBeClear,
  canHaveLayers,
  codecsOf,
  FORMATS,
  groupOf,
  stillTitles,
  browserCodec,
  type FieldsProps,
  type Format,
  type Settings,
} from '../formats/settings';

/** Folders can be written to in some browsers only. */
const CAN_WRITE_FOLDERS = 'showDirectoryPicker' in window;

/** The fields of a render. */
export function RenderFields(props: FieldsProps) {
  const { piece, settings, running, put } = props;
  const group = groupOf(settings.format);
  const picture = group !== 'particles';
  return (
    <>
      <FormatField {...props} />
      {group === 'video' && <VideoFields {...props} />}
      {group === 'frames' && <FramesFields {...props} />}
      {group === 'particles' && <SwarmField {...props} />}
      {settings.format !== 'usda' && group !== 'video' && (
        <TextField
          label="Names"
          size="small"
          value={settings.name}
          disabled={running}
          error={props.wrong.name !== undefined}
          helperText={props.wrong.name ?? '%04d stands for the number'}
          sx={{ mb: 1 }}
          onChange={(e) => {
            put({ name: e.target.value });
          }}
        />
      )}
      {picture && (
        <>
          <Row>
            <NumberField of="width" label="Width" {...props} />
            <NumberField of="height" label="Height" {...props} />
          </Row>
          <Sizes frame={piece.frame} running={running} put={put} />
        </>
      )}
      <Row>
        <NumberField of="first" label="From frame" {...props} />
        <NumberField of="last" label="To frame" {...props} />
      </Row>
      {picture && (
        <Row>
          <NumberField
            of="shutter"
            label="Shutter, degrees"
            help="180 is half a frame"
            {...props}
          />
          <Choice
            label="Oversampling"
            value={String(settings.oversample)}
            options={{ 1: '1, none', 2: '2', 3: '3', 4: '4' }}
            running={running}
            help="Drawn larger and averaged"
            onChange={(value) => {
              put({ oversample: Number(value) });
            }}
          />
        </Row>
      )}
      {picture && (
        <FormControlLabel
          sx={{ ml: -0.5, mb: 0.5 }}
          control={
            <Switch
              size="small"
              checked={settings.alpha && canBeClear(settings)}
              disabled={running || !canBeClear(settings)}
              onChange={(e) => {
                put({ alpha: e.target.checked });
              }}
            />
          }
          label={
            canBeClear(settings)
              ? 'Without the backdrop, transparent'
              : 'Without the backdrop (frames and WebM of VP9)'
          }
        />
      )}
    </>
  );
}

function Row({ children }: { children: ReactNode }) {
  return (
    <Stack direction="row" sx={{ gap: 1 }}>
      {children}
    </Stack>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  options: Readonly<Record<string, string>>;
  running: boolean;
  help?: string;
  /** Those that cannot be chosen, and why. */
  missing?: ReadonlySet<string>;
  onChange: (value: string) => void;
}

function Choice({ label, value, options, running, help = ' ', missing, onChange }: ChoiceProps) {
  return (
    <TextField
      select
      label={label}
      size="small"
      value={value}
      disabled={running}
      helperText={help}
      fullWidth
      onChange={(e) => {
        onChange(e.target.value);
      }}
    >
      {Object.entries(options).map(([key, title]) => (
        <MenuItem key={key} value={key} disabled={missing?.has(key) ?? false}>
          {title}
          {missing?.has(key) ? ' (not in this browser)' : ''}
        </MenuItem>
      ))}
    </TextField>
  );
}

interface NumberFieldProps extends Pick<FieldsProps, 'settings' | 'wrong' | 'running' | 'put'> {
  of: 'width' | 'height' | 'first' | 'last' | 'shutter';
  label: string;
  help?: string;
}

function NumberField({ of, label, help = ' ', settings, wrong, running, put }: NumberFieldProps) {
  return (
    <TextField
      label={label}
      type="number"
      size="small"
      value={settings[of]}
      disabled={running}
      error={wrong[of] !== undefined}
      helperText={wrong[of] ?? help}
      onChange={(e) => {
        put({ [of]: Number(e.target.value) });
      }}
      fullWidth
    />
  );
}

function FormatField({ settings, running, put }: FieldsProps) {
  const titles = Object.entries(FORMATS).map(([key, { title }]) => [key, title]);
  return (
    <Choice
      label="As"
      value={settings.format}
      options={Object.fromEntries(titles) as Record<string, string>}
      running={running}
      missing={new Set(CAN_WRITE_FOLDERS ? [] : ['folder'])}
      onChange={(value) => {
        const format = value as Format;
        const codecs = Object.keys(codecsOf(format)) as CodecName[];
        const codec = codecs.includes(settings.codec) ? settings.codec : codecs[0];
        put({ format, ...(codec ? { codec } : {}) });
      }}
    />
  );
}

/** Codecs that this browser does not write at a size. */
function useMissingCodecs({ format, width, height }: Settings): ReadonlySet<string> {
  const [missing, setMissing] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let gone = false;
    const codecs = Object.keys(codecsOf(format)) as CodecName[];
    void Promise.all(
      codecs.map((codec) => canEncodeVideo(browserCodec(codec), { width, height })),
    ).then((can) => {
      if (!gone) setMissing(new Set(codecs.filter((_, i) => !can[i])));
    });
    return () => {
      gone = true;
    };
  }, [format, width, height]);
  return missing;
}

function VideoFields({ settings, running, put }: FieldsProps) {
  const missing = useMissingCodecs(settings);
  return (
    <Row>
      <Choice
        label="Codec"
        value={settings.codec}
        options={codecsOf(settings.format)}
        running={running}
        missing={missing}
        onChange={(codec) => {
          put({ codec: codec as CodecName });
        }}
      />
      <Choice
        label="Quality"
        value={settings.quality}
        options={QUALITIES}
        running={running}
        onChange={(quality) => {
          put({ quality: quality as Settings['quality'] });
        }}
      />
    </Row>
  );
}

function FramesFields(props: FieldsProps) {
  const { settings, running, put } = props;
  return (
    <>
      <Choice
        label="Format of frames"
        value={settings.still}
        options={stillTitles()}
        running={running}
        onChange={(still) => {
          put({ still: still as Settings['still'] });
        }}
      />
      {canHaveLayers(settings) && <LayersField {...props} />}
    </>
  );
}

function SwarmField({ piece, settings, running, put }: FieldsProps) {
  const swarms = piece.swarms.filter((s) => s.on).map((s) => [s.id, s.name]);
  return (
    <Choice
      label="Swarm"
      value={settings.swarm || 'all'}
      options={{
        all: 'All that are on',
        ...(Object.fromEntries(swarms) as Record<string, string>),
      }}
      running={running}
      onChange={(swarm) => {
        put({ swarm: swarm === 'all' ? '' : swarm });
      }}
    />
  );
}

const SIZES: readonly [string, number][] = [
  ['Full size', 1],
  ['Two thirds', 2 / 3],
  ['Half', 0.5],
  ['A quarter', 0.25],
  ['Double', 2],
];

/** Sizes by the piece's own; always even, as videos want them. */
function Sizes({
  frame,
  running,
  put,
}: Pick<FieldsProps, 'running' | 'put'> & { frame: Piece['frame'] }) {
  const even = (v: number): number => Math.max(16, 2 * Math.round(v / 2));
  return (
    <Stack direction="row" sx={{ gap: 0.5, mt: -1.5, mb: 1 }}>
      {SIZES.map(([title, k]) => (
        <Button
          key={title}
          color="inherit"
          disabled={running}
          sx={{ color: COLOURS.faint, minWidth: 0 }}
          onClick={() => {
            put({ width: even(frame.width * k), height: even(frame.height * k) });
          }}
        >
          {title}
        </Button>
      ))}
    </Stack>
  );
}
