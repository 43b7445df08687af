/** Keys and what they do, by what one wants. */
export type KeyGroups = readonly { want: string; keys: readonly [string, string][] }[];
