import { config, z } from 'zod';

// Schemas are not turned into code of their own: pages do not let text become code, and it would be no faster.
config({ jitless: true });

/** Zod, as all schemas of the core use it. */
export { z };
