import {
  addressOf,
  canHold,
  controlKind,
  NoPlace,
  placeNamed,
  type Piece,
} from '@vast-swarm/core/piece';
import { kindOfControl } from '../../store/controlEdits';
import { valueAt } from '../../store/pieceEdits';

/** A way to put a dial forward. */
interface ForwardItem {
  title: string;
  help: string;
  /** A control that there is already. */
  control?: string;
}

/** Ways to put what stands at a path forward; none where no control can hold it. */
export function forwardItems(piece: Piece, path: readonly (string | number)[]): ForwardItem[] {
  const address = addressOf(piece, path);
  if (address === null) return [];
  try {
    const place = placeNamed(piece, address);
    if (kindOfControl(place, valueAt(piece, path)) === null) return [];
    const others = piece.controls.filter((c) => canHold(controlKind(c).holds, place.spec));
    return [
      { title: 'Put forward', help: 'Under a new control, for whoever runs the show' },
      ...others.map(({ id, name }) => ({
        title: `Control: ${name}`,
        help: 'It moves this dial too',
        control: id,
      })),
    ];
  } catch (error) {
    // A follower's: it becomes its own when it is put forward.
    if (error instanceof NoPlace)
      return [{ title: 'Put forward', help: 'As a setting of its own' }];
    throw error;
  }
}
