/** Why nothing is born where an emitter has nothing to be born on. */
export const NOTHING_CHOSEN = 'Its emitter has nothing to be born on: choose it in the sheet.';
