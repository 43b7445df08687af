/** A name that is new each time. */
export function newId(): string {
  return crypto.randomUUID().slice(0, 13);
}

/** Id of this page among others that have the same pieces open. */
export const TAB = newId();
