import { useParams } from 'react-router';
import { OpenPiece } from './OpenPiece';
import { CannotOpen } from '../ui/CannotOpen';
import { useOpenPiece } from './useOpenPiece';

/** Opens the piece that the address names. */
export default function Workshop() {
  const { id = '' } = useParams();
  return <WorkshopOf key={id} id={id} />;
}

function WorkshopOf({ id }: { id: string }) {
  const { open, trouble } = useOpenPiece(id);
  if (trouble) return <CannotOpen what="piece" trouble={trouble} />;
  return open ? <OpenPiece id={id} /> : null;
}
