import { Box, GlobalStyles, Typography } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useParams, useSearchParams } from 'react-router';
import type { Piece } from '@vast-swarm/core/piece';
import { forgetNight, loadNight, type LeftNight } from '../data/nights';
import type { EngineClient } from '../engine/client';
import type { EngineChoice } from '../engine/messages';
import { SoundOutput } from '../sound/output';
import { useSounding } from '../sound/useSoundOutput';
import { OutputLine } from './channel';
import { Run } from './run';
import { showKeys } from './showKeys';
import { TestCard } from './TestCard';
import { useAwake } from './useAwake';
import { useShow, type OpenShow } from './useShow';

/** Milliseconds between what desks are told, and until a pointer that rests is hidden. */
const [TELL_EVERY, HIDE_AFTER] = [50, 1500];

/** Milliseconds between small pictures for desks, and their size. */
const [PICTURE_EVERY, SMALL] = [500, { width: 384, height: 216 }];

/** Gives what is seen, small, each time that it is called; on one canvas. */
function smallPictures(run: Run, give: (picture: Blob) => void): () => void {
  const canvas = Object.assign(document.createElement('canvas'), SMALL);
  const context = canvas.getContext('2d')!;
  return () => {
    if (!run.piece) return;
    run.paint(context);
    canvas.toBlob((blob) => blob && give(blob), 'image/jpeg', 0.8);
  };
}

/** A night that was left longer ago is over. Milliseconds. */
const OVER_AFTER = 12 * 3_600_000;

/** The page of a show's output: nothing but the picture. One window at a time plays it. */
export default function OutputView() {
  const { id = '' } = useParams();
  const { open, trouble } = useShow(id);
  const [turn, setTurn] = useState<'asking' | 'ours' | 'others'>('asking');
  const [night, setNight] = useState<LeftNight | null | undefined>(undefined);
  useEffect(() => {
    document.title = 'Vast Swarm output';
    const left = new AbortController();
    const hold = (): Promise<void> => {
      setTurn('ours');
      return new Promise((end) => {
        left.signal.addEventListener('abort', () => {
          end();
        });
      });
    };
    void navigator.locks.request(`output ${id}`, { ifAvailable: true }, async (lock) => {
      if (left.signal.aborted) return;
      if (lock) await hold();
      else setTurn('others');
    });
    void loadNight(id)
      .catch(() => null)
      .then((stored) => {
        const over = stored && Date.now() - stored.changed > OVER_AFTER;
        setNight(over ? null : stored);
        if (over) void forgetNight(id);
      });
    return () => {
      left.abort();
    };
  }, [id]);
  if (trouble) return <Said>{trouble}</Said>;
  if (turn === 'others') {
    return <Said>This show has an output already, in another window. Close that one first.</Said>;
  }
  if (!open || turn === 'asking' || night === undefined) return null;
  return <Output key={id} {...{ id, open, night }} />;
}

function Said({ children }: { children: string }) {
  return (
    <Box role="alert" sx={{ bgcolor: '#000', flex: 1, display: 'grid', placeItems: 'center' }}>
      <Typography>{children}</Typography>
    </Box>
  );
}

interface Props {
  id: string;
  open: OpenShow;
  night: LeftNight | null;
}

function Output({ id, open, night }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const [run, setRun] = useState<Run | null>(null);
  const [search] = useSearchParams();
  const engine = search.get('engine');
  const first = useRef({ open, night });
  useAwake();
  useEffect(() => {
    const { open: opened, night: stored } = first.current;
    const choice: EngineChoice = engine === 'cpu' || engine === 'gpu' ? engine : 'auto';
    const made = new Run({ id, ...opened, night: stored, engine: choice, holder: holder.current! });
    const line = new OutputLine(id, (command) => {
      made.do(command);
    });
    let last = 0;
    let later: ReturnType<typeof setTimeout> | null = null;
    const tell = (): void => {
      if (later) clearTimeout(later);
      later = null;
      last = performance.now();
      line.tell(made.told);
    };
    made.onTold = () => {
      const left = last + TELL_EVERY - performance.now();
      if (left <= 0) tell();
      else later ??= setTimeout(tell, left);
    };
    tell();
    const show = smallPictures(made, (picture) => {
      line.show(picture);
    });
    const pictures = setInterval(show, PICTURE_EVERY);
    const keys = showKeys(made);
    const leave = (): void => {
      made.close();
      line.close();
    };
    window.addEventListener('pagehide', leave);
    setRun(made);
    return () => {
      window.removeEventListener('pagehide', leave);
      if (later) clearTimeout(later);
      clearInterval(pictures);
      keys();
      leave();
      setRun(null);
    };
  }, [id, engine]);
  useEffect(() => {
    run?.changed(open.show, open.pieces);
  }, [run, open]);
  return <Screen {...{ holder, run, show: open.show }} />;
}

interface ScreenProps {
  holder: React.RefObject<HTMLDivElement | null>;
  run: Run | null;
  show: OpenShow['show'];
}

const nothing = (): (() => void) => () => undefined;

/** The picture, with what is put over it. */
function Screen({ holder, run, show }: ScreenProps) {
  const subscribe = run?.subscribe ?? nothing;
  const brightness = useSyncExternalStore(subscribe, () => run?.masters.brightness ?? 1);
  const blackout = useSyncExternalStore(subscribe, () => run?.masters.blackout ?? false);
  const test = useSyncExternalStore(subscribe, () => run?.masters.test ?? false);
  const area = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState('');
  const hidden = usePointerHidden();
  const [asked, setAsked] = useState(false);
  useEffect(() => {
    const element = area.current!;
    const watch = new ResizeObserver(() => {
      const { clientWidth, clientHeight } = element;
      const pixels = (length: number): number => Math.round(length * devicePixelRatio);
      const [width, height] = [pixels(clientWidth), pixels(clientHeight)];
      setSize(`${String(width)} × ${String(height)}`);
      run?.passes.fit(height, show.size !== null);
    });
    watch.observe(element);
    return () => {
      watch.disconnect();
    };
  }, [run, show.size]);
  const { width, height } = show.size ?? {};
  return (
    <Box
      component="main"
      aria-label={`Output of ${show.name}`}
      data-testid="output"
      data-whole
      onClick={() => {
        setAsked(true);
        if (document.fullscreenElement) void document.exitFullscreen();
        // Where it is refused the window stays as it is.
        else void document.documentElement.requestFullscreen().catch(() => undefined);
      }}
      sx={{
        position: 'fixed',
        inset: 0,
        bgcolor: '#000',
        overflow: 'hidden',
        zIndex: 2000,
        cursor: hidden ? 'none' : 'default',
      }}
    >
      <h1 style={visuallyHidden}>Output of {show.name}</h1>
      <GlobalStyles
        styles={{
          '.pass': {
            position: 'absolute',
            inset: 0,
            background: '#000',
            containerType: 'size',
            display: 'grid',
            placeItems: 'center',
          },
          '.fit': {
            width: 'min(100cqw, 100cqh * var(--shape))',
            aspectRatio: 'var(--shape)',
          },
        }}
      />
      <Box
        ref={area}
        sx={{
          position: 'absolute',
          ...(width
            ? {
                left: 0,
                top: 0,
                width: width / devicePixelRatio,
                height: height! / devicePixelRatio,
              }
            : { inset: 0 }),
        }}
      >
        <Box ref={holder} data-testid="picture" sx={{ position: 'absolute', inset: 0 }} />
        <Box
          aria-hidden
          sx={{ position: 'absolute', inset: 0, bgcolor: '#000', pointerEvents: 'none' }}
          style={{ opacity: 1 - brightness }}
        />
        {test && <TestCard name={show.name} size={size} />}
        {blackout && (
          <Box data-testid="blackout" sx={{ position: 'absolute', inset: 0, bgcolor: '#000' }} />
        )}
      </Box>
      {!asked && !hidden && (
        <Box sx={{ position: 'absolute', right: 16, bottom: 12, color: '#fff', opacity: 0.7 }}>
          Click for full screen, and to be heard
        </Box>
      )}
      {run && <Sounds run={run} />}
    </Box>
  );
}

/** Whether the pointer has rested for a while. */
function usePointerHidden(): boolean {
  const [hidden, setHidden] = useState(false);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const moved = (): void => {
      setHidden(false);
      clearTimeout(timer);
      timer = setTimeout(() => {
        setHidden(true);
      }, HIDE_AFTER);
    };
    moved();
    window.addEventListener('pointermove', moved);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('pointermove', moved);
    };
  }, []);
  return hidden;
}

/** The sounds of what is played. */
function Sounds({ run }: { run: Run }) {
  const heard = useSyncExternalStore(run.subscribe, () => run.passes.heard);
  return heard.map(({ client, piece, number }) => (
    <Sounding key={number} engine={client} piece={piece} loud={() => run.loudness(number)} />
  ));
}

interface SoundingProps {
  engine: EngineClient;
  piece: Piece;
  /** How loud it is by now, 0 to 1. */
  loud: () => number;
}

function Sounding({ engine, piece, loud }: SoundingProps) {
  const [output] = useState(() => new SoundOutput());
  const latest = useRef(loud);
  useEffect(() => {
    latest.current = loud;
  });
  useEffect(() => () => output.close(), [output]);
  useEffect(
    () =>
      engine.subscribe(() => {
        output.setLevel(latest.current());
      }),
    [engine, output],
  );
  useSounding(engine, piece, output, false);
  return null;
}
