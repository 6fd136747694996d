import { forWhom, type Role } from '@vast-surge/contract';
import { useGetSessionQuery } from './base-api.ts';

/** The same of one rig: it may be for others, whatever one's roles. */
export function useMayNotOn(rigId: string | null, ...may: readonly Role[]): string | null {
  const { data } = useGetSessionQuery(undefined);
  const mayNot = useMayNot(...may);
  return rigId !== null && data?.closedRigs?.includes(rigId) === true
    ? 'This rig is for some people only; whoever administers the workshop can change that.'
    : mayNot;
}

/** @returns why whoever is signed in may not do what is for one of these roles; null where they may, and alone */
export function useMayNot(...may: readonly Role[]): string | null {
  const { data } = useGetSessionQuery(undefined);
  if (!data?.account || data.account.roles.some((role) => may.includes(role))) return null;
  const mine = data.account.roles;
  return `${forWhom(may)}; your ${mine.length === 1 ? 'role is' : 'roles are'} ${mine.join(', ')}.`;
}
