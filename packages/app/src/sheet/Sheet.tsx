import { Box, Button, Stack } from '@mui/material';
import { inEffect, type Part, type PartList, type Piece, type Swarm } from '@vast-swarm/core/piece';
import {
  kindOf,
  swarmDials,
  type DialValues,
  type Dials,
  type Shelf,
} from '@vast-swarm/core/kinds';
import { rangeOf } from '@vast-swarm/core/feeds';
import { memo, useMemo } from 'react';
import { pieceActions } from '../store/pieceSlice';
import type { Selection } from '../store/selection';
import { store, useApp, useAppDispatch, usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';
import { KindIcon } from '../ui/KindIcon';
import { BakeBox } from './BakeBox';
import { BodiesSheet } from './BodiesSheet';
import { ChoiceDials } from './ChoiceDials';
import { CopiesSheet } from './CopiesSheet';
import { DialRow } from './DialRow';
import { EXTRAS } from './extras';
import { FindDial } from './FindDial';
import { useShownDials } from './shownDials';
import { FrameSheet } from './FrameSheet';
import { Group } from './Group';
import { Later } from './Later';

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
      <FindDial />
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
  if (list !== 'swarms') return <PartSheet part={piece[list][at]!} {...{ list, at, rate }} />;
  return <SwarmSheet swarm={inEffect(piece, piece.swarms[at]!)} at={at} rate={rate} />;
}

interface PartProps {
  list: Exclude<PartList, 'swarms'>;
  part: Part;
  at: number;
  rate: number;
}

/** Of a part of any list but the swarms; nothing else of the piece draws it again. */
const PartSheet = memo(function PartSheet({ list, part, at, rate }: PartProps) {
  const kind = kindOf(list, part.kind);
  const lower = useMemo(() => ({ id: part.id, list, part, at }), [list, part, at]);
  const Extra = EXTRAS[list];
  return (
    <>
      <Title name={part.name} icon={kind.icon} help={kind.help} />
      <Along />
      {Extra && <Extra part={part} at={at} />}
      <Later of={lower} stays={isThere}>
        {(shown) => (
          <DialGroups
            dials={kindOf(shown.list, shown.part.kind).dials}
            values={shown.part.dials}
            path={[shown.list, shown.at, 'dials']}
            rate={rate}
          />
        )}
      </Later>
    </>
  );
});

interface SwarmProps {
  /** As it is in effect. */
  swarm: Swarm;
  at: number;
  rate: number;
}

const SwarmSheet = memo(function SwarmSheet({ swarm, at, rate }: SwarmProps) {
  const path: Path = ['swarms', at];
  const lower = useMemo(() => ({ id: swarm.id, list: 'swarms' as const, swarm, at }), [swarm, at]);
  return (
    <>
      <Title name={swarm.name} />
      <Along />
      {swarm.follows && <Following swarm={swarm} />}
      <BakeBox swarm={swarm.id} />
      <Group title="Birth">
        <Rows {...groupsOf(swarm, path, rate)} group="Birth" />
      </Group>
      <Later of={lower} stays={isThere}>
        {(shown) => <LowerGroups swarm={shown.swarm} at={shown.at} rate={rate} />}
      </Later>
    </>
  );
});

/** Whether a part is still where it was. */
function isThere({ id, list, at }: { id: string; list: PartList; at: number }): boolean {
  return store.getState().piece.piece?.[list][at]?.id === id;
}

function groupsOf(swarm: Swarm, path: Path, rate: number) {
  return { dials: swarmDials, values: swarm.dials, path: [...path, 'dials'], rate };
}

/** All but what a swarm's sheet begins with. */
function LowerGroups({ swarm, at, rate }: SwarmProps) {
  const path: Path = ['swarms', at];
  const groups = groupsOf(swarm, path, rate);
  return (
    <>
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
      <Group title="Motion">
        <Rows {...groups} group="Motion" />
      </Group>
      <Group title="Look" aside={<LifeAxis swarm={swarm} />}>
        <Rows {...groups} group="Look" />
      </Group>
      <BodiesSheet bodies={swarm.bodies} path={[...path, 'bodies']} rate={rate} />
      <CopiesSheet copies={swarm.copies} path={[...path, 'copies']} rate={rate} />
    </>
  );
}

/** Of a swarm that has its settings from another. */
function Following({ swarm }: { swarm: Swarm }) {
  const dispatch = useAppDispatch();
  const leader = usePiece().swarms.find((s) => s.id === swarm.follows);
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12.5, py: 0.5 }}>
      <Box sx={{ color: COLOURS.faint, flex: 1 }}>
        Follows {leader?.name}; what you change here becomes its own
        {swarm.own && swarm.own.length > 0 ? ` (so far ${swarm.own.join(', ')})` : ''}.
      </Box>
      <Button variant="outlined" onClick={() => dispatch(pieceActions.freed(swarm.id))}>
        Make independent
      </Button>
    </Stack>
  );
}

/** That other parts are turned along with the one whose sheet it is. */
function Along() {
  const count = useApp(({ piece: { selection } }) =>
    selection && 'also' in selection ? (selection.also?.length ?? 0) : 0,
  );
  if (count === 0) return null;
  const others = count === 1 ? 'One other is' : `${String(count)} others are`;
  return (
    <Box role="note" sx={{ color: COLOURS.glass, fontSize: 12.5, py: 0.25 }}>
      {others} selected too: what is turned here is turned in all that have it.
    </Box>
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

/** The axis that all shapes over life share. */
function LifeAxis({ swarm }: { swarm: Swarm }) {
  const { lasts, lifetime } = swarm.dials;
  const [from, to] = rangeOf(lifetime);
  const time = from === to ? `${String(from)} s` : `${String(from)}–${String(to)} s`;
  const seconds = lasts === 'ever' ? 'for ever' : time;
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
  return useShownDials(dials, values)
    .filter(([, spec]) => spec.group === group)
    .map(([key, spec]) => (
      <DialRow key={key} spec={spec} value={values[key]!} path={[...path, key]} rate={rate} />
    ));
}

function DialGroups(props: Omit<RowsProps, 'group'>) {
  const shown = useShownDials(props.dials, props.values);
  const names = [...new Set(shown.map(([, spec]) => spec.group))];
  return names.map((name) => (
    <Group key={name} title={name}>
      <Rows {...props} group={name} />
    </Group>
  ));
}
