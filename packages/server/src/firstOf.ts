import type { z } from 'zod';

/**
 * The first thing that is wrong with something that was sent: where, and what.
 *
 * @param whole what it is called where it is wrong as a whole
 */
export function firstOf({ issues: [issue] }: z.ZodError, whole: string): string {
  return `${issue!.path.join('.') || whole}: ${issue!.message}`;
}
