import { Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { IconAction } from '../ui/IconAction';

interface Props {
  name: string;
  /** The file that is heard. */
  file: () => Blob;
}

/** Lets a sound of the stock be heard, from its beginning. */
export function PlaySound({ name, file }: Props) {
  const [playing, setPlaying] = useState(false);
  const stop = useRef<() => void>(() => undefined);
  useEffect(() => () => stop.current(), []);
  const play = (): void => {
    const url = URL.createObjectURL(file());
    const audio = new Audio(url);
    stop.current = () => {
      audio.pause();
      URL.revokeObjectURL(url);
      stop.current = () => undefined;
      setPlaying(false);
    };
    audio.onended = () => {
      stop.current();
    };
    setPlaying(true);
    audio.play().catch(() => {
      stop.current();
    });
  };
  return (
    <IconAction
      label={playing ? `Stop ${name}` : `Play ${name}`}
      pressed={playing}
      onClick={() => {
        if (playing) stop.current();
        else play();
      }}
    >
      {playing ? <Square size={13} /> : <Play size={14} />}
    </IconAction>
  );
}
