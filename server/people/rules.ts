import type { ApiRoute } from '../http/openapi/route.ts';
import { apiRoutes } from '../http/openapi/routes.ts';

interface Rule {
  readonly route: ApiRoute;
  readonly pattern: RegExp;
  /** Names in its path: of two routes that fit, the one with fewer is meant. */
  readonly names: number;
}

const rules: readonly Rule[] = apiRoutes
  .map((route) => ({
    route,
    pattern: new RegExp(`^${route.path.replaceAll('.', String.raw`\.`).replaceAll(/:\w+/g, '([^/]+)')}/?$`, 'i'),
    names: route.path.split(':').length - 1,
  }))
  .sort((a, b) => a.names - b.names);

/**
 * The route that a request means, with the id in its address: the one table of the API says who may ask for it.
 *
 * @param path below /api
 * @returns null where there is none
 */
export function ruleOf(method: string, path: string): { readonly route: ApiRoute; readonly about: string | null } | null {
  // What asks for the head of an answer asks for the answer.
  const asked = method === 'HEAD' ? 'get' : method.toLowerCase();
  for (const { route, pattern } of rules) {
    if (route.method !== asked) continue;
    const found = pattern.exec(path);
    if (found) return { route, about: /^[\w.:-]{1,80}$/.test(found[1] ?? '') ? (found[1] ?? null) : null };
  }
  return null;
}

/** What a route is called in the audit: `put rigs`, `post runs events`. */
export const actOf = ({ method, path }: ApiRoute): string =>
  [method, ...path.split('/').filter((part) => part !== '' && !part.startsWith(':'))].join(' ');
