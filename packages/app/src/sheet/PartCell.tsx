import { chainOf, partsIn, signalNames } from '@vast-swarm/core/piece';
import type { PartDial } from '@vast-swarm/core/kinds';
import { usePiece } from '../store/store';
import { NamedSelect } from '../fields/NamedSelect';
import { StockCell } from './StockCell';

interface Props {
  spec: PartDial;
  value: string;
  path: (string | number)[];
  onChange: (value: string) => void;
}

/** A part of one list of the piece; of signals only those that do not hang on this one. */
export function PartCell({ spec, value, path, onChange }: Props) {
  const piece = usePiece();
  const own = path[0] === 'signals' ? piece.signals[path[1] as number]?.id : undefined;
  if (spec.of === 'performers') {
    const { title, help, group } = spec;
    const stock = { type: 'stock', accepts: [], default: '', title, help, group } as const;
    return <StockCell spec={stock} cast {...{ value, path, onChange }} />;
  }
  const options =
    spec.of !== 'signals'
      ? partsIn(piece, spec.of)
      : signalNames(piece).filter(({ id }) => !chainOf(piece, [id]).some((s) => s.id === own));
  return <NamedSelect title={spec.title} none="None" {...{ value, options, onChange }} />;
}
