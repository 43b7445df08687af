import { kindOf } from '../../sections';
import type { FinishKind } from '../../sections/kinds';
import type { Part } from '../../piece/types';

/** Whether a treatment depends on the pictures before, where it is on. */
export function remembers({ kind }: Part): boolean {
  const treatment: FinishKind = kindOf('finish', kind);
  return 'remembers' in treatment && treatment.remembers === true;
}
