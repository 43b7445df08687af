import { z } from '../zod';

/** Whether every object has something of that name by itself: what is kept by ids would be mixed up with it. */
function taken(id: string): boolean {
  return id in {};
}

/** An id of something in a document, unique among its likes. */
export const idSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,64}$/, 'an id has 1 to 64 letters, digits, - or _')
  .refine((id) => !taken(id), {
    error: ({ input }) => `'${String(input)}' means something else to programs; choose another id`,
  });
