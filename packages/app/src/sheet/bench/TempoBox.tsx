import { Box, Button, Stack } from '@mui/material';
import { useRef, useState } from 'react';
import { useEngine } from '../../engine/EngineContext';
import { pieceActions } from '../../store/pieceSlice';
import { useAppDispatch, usePiece } from '../../store/store';
import { COLOURS } from '../../ui/theme';
import { NamedSelect } from '../../fields/NamedSelect';
import { tempoOfTaps } from './taps';

interface Props {
  at: number;
  dials: readonly [tempo: string, first: string];
}

/** A tempo that is tapped along, or found from a sound of the piece. */
export function TempoBox({ at, dials: [tempo, first] }: Props) {
  const engine = useEngine();
  const dispatch = useAppDispatch();
  const { sounds, frame } = usePiece();
  const [sound, setSound] = useState(sounds.at(-1)?.id ?? '');
  const [told, setTold] = useState('');
  const taps = useRef<number[]>([]);
  const put = (found: { tempo: number; first: number }): void => {
    const round = (v: number): number => Math.round(v * 1000) / 1000;
    for (const [key, value] of [
      [tempo, round(found.tempo)],
      [first, round(found.first)],
    ] as const) {
      const path = ['signals', at, 'dials', key];
      dispatch(pieceActions.set({ path, value, label: 'Tempo', merge: `tempo.${String(at)}` }));
    }
  };
  const tap = (): void => {
    // By the clock: frames of the picture may come late.
    const beat = tempoOfTaps(taps.current, performance.now() / 1000);
    taps.current = beat.taps;
    if (beat.tempo === null) {
      setTold('Again, on the beat');
      return;
    }
    const now = (Math.max(0, engine.report?.frame ?? 0) + 1) / frame.rate;
    const seconds = 60 / beat.tempo;
    put({ tempo: beat.tempo, first: now - seconds * Math.floor(now / seconds) });
    setTold(`${beat.tempo.toFixed(1)} a minute, by ${String(beat.taps.length)} taps`);
  };
  const find = async (): Promise<void> => {
    setTold('Listening');
    const found = await engine.ask((to) => to.tempo(sound)).catch(() => null);
    if (found) {
      put(found);
      dispatch(pieceActions.settled());
    }
    setTold(found ? `${found.tempo.toFixed(1)} a minute` : 'No beat was found in it');
  };
  return (
    <Stack direction="row" sx={{ alignItems: 'center', gap: 1, fontSize: 12.5 }}>
      <Button
        variant="outlined"
        onPointerDown={tap}
        onKeyDown={(event) => {
          if (event.key !== ' ' && event.key !== 'Enter') return;
          event.preventDefault();
          event.stopPropagation();
          if (!event.repeat) tap();
        }}
      >
        Tap
      </Button>
      {sounds.length > 0 && (
        <>
          <Button variant="outlined" disabled={!sound} onClick={() => void find()}>
            Find it in
          </Button>
          <NamedSelect
            title="Sound with the beat"
            none="No sound"
            value={sound}
            options={sounds}
            onChange={setSound}
          />
        </>
      )}
      <Box role="status" sx={{ color: COLOURS.faint, flex: 1, textAlign: 'right' }}>
        {told}
      </Box>
    </Stack>
  );
}
