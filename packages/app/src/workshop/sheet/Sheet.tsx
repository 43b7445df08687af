import { Box, MenuItem, Select, Stack } from '@mui/material';
import { memo, type ReactNode } from 'react';
import {
  catalogue,
  kindOf,
  rangeOf,
  swarmDials,
  type Choice,
  type DialValues,
  type Dials,
  type NumberFeed,
  type Piece,
  type Shelf,
  type Swarm,
} from '@vast-swarm/core';
import { pieceActions, type Selection } from '../../store/pieceSlice';
import { useApp, useAppDispatch, usePiece } from '../../store/store';
import { COLOURS, MONO } from '../../theme';
import { KindIcon } from '../../ui/KindIcon';
import { DialRow } from './DialRow';
import { FrameSheet } from './FrameSheet';

type Path = (string | number)[];

/** The dials of the selected part. */
export function Sheet() {
  const piece = usePiece();
  const selection = useApp((s) => s.piece.selection);
  return (
    <Box
      component="section"
      aria-label="Sheet"
      sx={{ overflowY: 'auto', height: '100%', px: 1.5, pb: 3, bgcolor: COLOURS.sheet }}
    >
      {selection ? <Content piece={piece} selection={selection} /> : null}
    </Box>
  );
}

function Content({ piece, selection }: { piece: Piece; selection: Selection }) {
  const { rate } = piece.frame;
  const { list, id } = selection;
  if (list === 'frame') return <FrameSheet piece={piece} />;
  if (list === 'camera' || list === 'backdrop') {
    const shelf: Shelf = list === 'camera' ? 'cameras' : 'backdrops';
    return (
      <>
        <Title name={list === 'camera' ? 'Camera' : 'Backdrop'} />
        <ChoiceDials title="Kind" shelf={shelf} choice={piece[list]} path={[list]} rate={rate} />
      </>
    );
  }
  const at = piece[list].findIndex((p) => p.id === id);
  if (at < 0) return null;
  if (list === 'swarms') return <SwarmSheet swarm={piece.swarms[at]!} at={at} rate={rate} />;
  const part = piece[list][at]!;
  const kind = kindOf(list, part.kind);
  return (
    <>
      <Title name={part.name} icon={kind.icon} help={kind.help} />
      <DialGroups dials={kind.dials} values={part.dials} path={[list, at, 'dials']} rate={rate} />
    </>
  );
}

function SwarmSheet({ swarm, at, rate }: { swarm: Swarm; at: number; rate: number }) {
  const path: Path = ['swarms', at];
  const groups = { dials: swarmDials, values: swarm.dials, path: [...path, 'dials'], rate };
  return (
    <>
      <Title name={swarm.name} />
      <Group title="Birth">
        <Rows {...groups} group="Birth" />
      </Group>
      <ChoiceDials
        title="Emitter"
        shelf="emitters"
        choice={swarm.emitter}
        path={[...path, 'emitter']}
        rate={rate}
      />
      <ChoiceDials
        title="Launch"
        shelf="launches"
        choice={swarm.launch}
        path={[...path, 'launch']}
        rate={rate}
      />
      <Group title="Look" aside={<LifeAxis lifetime={swarm.dials.lifetime as NumberFeed} />}>
        <Rows {...groups} group="Look" />
      </Group>
      <ChoiceDials
        title="Body"
        shelf="bodies"
        choice={swarm.body}
        path={[...path, 'body']}
        rate={rate}
      />
    </>
  );
}

function Title({ name, icon, help }: { name: string; icon?: string; help?: string }) {
  return (
    <Box sx={{ pt: 1.25, pb: 0.5 }}>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1, color: COLOURS.amber }}>
        {icon && <KindIcon path={icon} />}
        <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 600 }}>
          {name}
        </Box>
      </Stack>
      {help && <Box sx={{ color: COLOURS.faint, fontSize: 12 }}>{help}</Box>}
    </Box>
  );
}

function Group(props: { title: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <Box
      component="section"
      aria-label={props.title}
      sx={{ borderTop: `1px solid ${COLOURS.line}`, mt: 0.75, pt: 0.75 }}
    >
      <Stack
        direction="row"
        sx={{ justifyContent: 'space-between', alignItems: 'end', gap: 1, mb: 0.25 }}
      >
        <Box component="h3" sx={{ m: 0, fontSize: 12.5, fontWeight: 600, color: COLOURS.text }}>
          {props.title}
        </Box>
        {props.aside}
      </Stack>
      {props.children}
    </Box>
  );
}

/** The axis that all shapes over life share. */
function LifeAxis({ lifetime }: { lifetime: NumberFeed }) {
  const [from, to] = rangeOf(lifetime);
  const seconds = from === to ? `${String(from)} s` : `${String(from)}–${String(to)} s`;
  return (
    <Stack
      direction="row"
      sx={{
        width: 146,
        justifyContent: 'space-between',
        color: COLOURS.faint,
        fontSize: 11,
        fontFamily: MONO,
      }}
    >
      <span>birth</span>
      <span>{seconds}</span>
    </Stack>
  );
}

interface RowsProps {
  dials: Dials;
  values: DialValues;
  path: Path;
  rate: number;
  group: string;
}

function Rows({ dials, values, path, rate, group }: RowsProps) {
  return Object.entries(dials)
    .filter(([, spec]) => spec.group === group)
    .map(([key, spec]) => (
      <DialRow key={key} spec={spec} value={values[key]!} path={[...path, key]} rate={rate} />
    ));
}

function DialGroups(props: Omit<RowsProps, 'group'>) {
  const names = [...new Set(Object.values(props.dials).map((d) => d.group))];
  return names.map((name) => (
    <Group key={name} title={name}>
      <Rows {...props} group={name} />
    </Group>
  ));
}

interface ChoiceProps {
  title: string;
  shelf: Shelf;
  choice: Choice;
  path: Path;
  rate: number;
}

/** A kind that can be changed for another, and its dials; drawn again when they change. */
const ChoiceDials = memo(
  ChoiceRows,
  (a, b) => a.choice === b.choice && a.rate === b.rate && a.path.join('.') === b.path.join('.'),
);

function ChoiceRows({ title, shelf, choice, path, rate }: ChoiceProps) {
  const dispatch = useAppDispatch();
  const kind = kindOf(shelf, choice.kind);
  const select = (
    <Select
      variant="standard"
      disableUnderline
      value={choice.kind}
      onChange={(e) => dispatch(pieceActions.kindChanged({ path, shelf, kind: e.target.value }))}
      inputProps={{ 'aria-label': `${title} kind` }}
      sx={{ fontSize: 13, color: COLOURS.glass, '& .MuiSelect-select': { py: 0 } }}
    >
      {catalogue[shelf].map((k) => (
        <MenuItem key={k.kind} value={k.kind}>
          {k.title}
        </MenuItem>
      ))}
    </Select>
  );
  return (
    <Group title={title} aside={catalogue[shelf].length > 1 ? select : undefined}>
      {Object.entries(kind.dials).map(([key, spec]) => (
        <DialRow
          key={key}
          spec={spec}
          value={choice.dials[key]!}
          path={[...path, 'dials', key]}
          rate={rate}
        />
      ))}
    </Group>
  );
}
