import { useEffect, useState } from 'react';
import { api, failureOf } from '../../app/api.ts';
import { store } from '../../app/store.ts';

export interface Shown {
  /** V; null where nothing is shown. */
  readonly value: number | null;
  /** It is above its range. */
  readonly isOver: boolean;
  /** Why nothing is shown. */
  readonly trouble: string | null;
}

const nothing: Shown = { value: null, isOver: false, trouble: null };

/** What an instrument shows, asked once a second. */
export function useMeter(runId: string, instrument: string | null): Shown {
  const [shown, setShown] = useState<{ of: string | null; shown: Shown }>({ of: null, shown: nothing });
  useEffect(() => {
    if (instrument === null) return;
    let isOver = false;
    let timer = 0;
    const ask = async () => {
      try {
        const { value } = await store.dispatch(api.endpoints.measure.initiate({ id: runId, instrument })).unwrap();
        if (!isOver) setShown({ of: instrument, shown: { value, isOver: value === null, trouble: null } });
      } catch (error) {
        if (!isOver) setShown({ of: instrument, shown: { value: null, isOver: false, trouble: failureOf(error).message } });
      }
      if (!isOver) timer = window.setTimeout(() => void ask(), 1000);
    };
    void ask();
    return () => {
      isOver = true;
      clearTimeout(timer);
    };
  }, [runId, instrument]);
  return instrument !== null && shown.of === instrument ? shown.shown : nothing;
}
