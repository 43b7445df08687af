import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { kindOf } from '@vast-swarm/core/kinds';
import { startedAt, type Heard, type Sound, type StockEntry } from '@vast-swarm/core/stock';
import type { Piece } from '@vast-swarm/core/piece';
import { filesOf } from '../data/stock';
import type { EngineClient } from '../engine/client';
import type { FrameReport } from '../engine/messages';
import { noticed } from '../store/noticeSlice';
import { useApp, useAppDispatch, usePiece } from '../store/store';
import { SoundOutput } from './output';

/** A file is at hand here; what is made by code is made where the engine works. */
async function soundOf(engine: EngineClient, entry: StockEntry): Promise<Sound | null> {
  if (!('hash' in entry.source)) return engine.ask((to) => to.sound(entry.id));
  const data = (await filesOf([entry])).get(entry.source.hash);
  return data?.type === 'sound' ? data : null;
}

/** Sounds of a piece as they are heard. */
function useHeard(
  engine: EngineClient,
  { sounds, stock, frame }: Piece,
  recording: string | null,
): readonly Heard[] {
  const [heard, setHeard] = useState<readonly Heard[]>([]);
  // As a text, so that it is another only when it says something else.
  const startedText = useSyncExternalStore(engine.subscribe, () =>
    JSON.stringify(engine.report?.started ?? []),
  );
  const known = useRef(new Map<string, Promise<Sound | null>>());
  useEffect(() => {
    let wanted = true;
    const started = JSON.parse(startedText) as FrameReport['started'];
    const secondsOf = (id: string): number[] =>
      started.filter((s) => s.sound === id).map((s) => s.at);
    const all = sounds.filter((s) => (s.on || secondsOf(s.id).length > 0) && s.id !== recording);
    void Promise.all(
      all.map(async (part) => {
        const one = await heardOf(part);
        return one ? startedAt(one, secondsOf(part.id), part.on) : [];
      }),
    ).then((found) => {
      if (wanted) setHeard(found.flat());
    });
    async function heardOf({ kind, dials }: Piece['sounds'][0]): Promise<Heard | null> {
      const specs = Object.entries(kindOf('sounds', kind).dials);
      const [key] = specs.find(([, { type }]) => type === 'stock') ?? [];
      const entry = stock.find((s) => key && s.id === dials[key]);
      if (!entry) return null;
      const source = JSON.stringify(entry.source);
      const asked = known.current.get(source) ?? soundOf(engine, entry).catch(() => null);
      known.current.set(source, asked);
      const sound = await asked;
      // Its file may come later.
      if (!sound) known.current.delete(source);
      return kindOf('sounds', kind).heard(dials, {
        rate: frame.rate,
        stock: () => sound ?? undefined,
      });
    }
    return () => {
      wanted = false;
    };
  }, [engine, sounds, stock, frame.rate, recording, startedText]);
  return heard;
}

/**
 * Lets a piece be heard on an output while its engine plays it, and where somebody goes along it.
 *
 * @param silent whether nothing of it is heard
 * @param recording the sound that is being recorded: its last take is not heard meanwhile
 */
export function useSounding(
  engine: EngineClient,
  piece: Piece,
  output: SoundOutput,
  silent: boolean,
  recording: string | null = null,
): void {
  const heard = useHeard(engine, piece, recording);
  const { rate } = piece.frame;
  useEffect(() => {
    if (silent || heard.length === 0) return;
    let at = engine.report?.frame;
    const follow = (): void => {
      const { report } = engine;
      if (!report) return;
      const time = (report.frame + 1) / rate;
      if (report.playing && report.settling === 0) output.follow(heard, time);
      else if (report.playing) output.stop();
      // Standing still, what is heard is where somebody has gone.
      else if (report.frame !== at) output.grain(heard, time);
      else output.stop();
      at = report.frame;
    };
    const stop = engine.subscribe(follow);
    return () => {
      stop();
      output.stop();
    };
  }, [engine, output, heard, silent, rate]);
}

/** Lets the open piece be heard, as loud and where it is said to be. */
export function useSoundOutput(engine: EngineClient, recording: string | null): void {
  const piece = usePiece();
  const { level, silent, device } = useApp((s) => s.tools.heard);
  const dispatch = useAppDispatch();
  const [output] = useState(() => new SoundOutput());
  useEffect(() => () => output.close(), [output]);
  useEffect(() => {
    output.setLevel(level);
  }, [output, level]);
  useEffect(() => {
    void output.setDevice(device).then((there) => {
      if (there) return;
      const message = 'The chosen output is not there: sounds are heard on the usual one.';
      dispatch(noticed({ key: 'output', kind: 'note', message }));
    });
  }, [output, device, dispatch]);
  useSounding(engine, piece, output, silent, recording);
}
