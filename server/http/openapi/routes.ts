import { doors } from './doors.ts';
import { reads } from './reads.ts';
import type { ApiRoute } from './route.ts';
import { writes } from './writes.ts';

/** Every route of the API; a test holds it against those that are served. */
export const apiRoutes: readonly ApiRoute[] = [...reads, ...writes, ...doors];
