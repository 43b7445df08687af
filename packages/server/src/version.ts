/** A short hash of the built program, put in by its build. */
declare const BUILD: string | undefined;

/** Programs of one hash make the same pixels. */
export const BUILD_HASH = typeof BUILD === 'string' ? BUILD : 'not built';
