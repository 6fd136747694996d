import { useEffect } from 'react';
import type { PageOf, StoredShot } from '@vast-surge/contract';
import { api, useListShotsInfiniteQuery, type ShotList } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { useAppDispatch } from '../../app/store.ts';

/** The largest page there is, for what needs every shot. */
const wholePage = '500';

/** Shots of a filter: the first pages of them, or with `all` every one, fetched page by page. */
export function useShots(filter: ShotList, all: boolean) {
  const query = useListShotsInfiniteQuery(all ? { ...filter, limit: wholePage } : filter, { refetchOnMountOrArgChange: true });
  const { hasNextPage, isFetching, fetchNextPage } = query;
  useEffect(() => {
    if (all && hasNextPage && !isFetching) void fetchNextPage();
  }, [all, hasNextPage, isFetching, fetchNextPage]);
  return { ...query, shots: query.data?.pages.flatMap((page) => page.rows), total: query.data?.pages[0]?.total ?? 0 };
}

/** Fetches every shot of a filter, for a file. @throws the error of a page that could not be had */
export function useEveryShot() {
  const dispatch = useAppDispatch();
  return async (filter: ShotList): Promise<StoredShot[]> => {
    const shots: StoredShot[] = [];
    let after: string | null = null;
    do {
      const asked: ShotList & { after: string | null } = { ...filter, limit: wholePage, after };
      const page: PageOf<StoredShot> = await askedOnce(dispatch(api.endpoints.shotPage.initiate(asked, { forceRefetch: true })));
      shots.push(...page.rows);
      after = page.next;
    } while (after !== null);
    return shots;
  };
}
