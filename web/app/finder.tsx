import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { Command } from 'cmdk';
import { format } from 'date-fns';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { slots } from '@vast-surge/core/block';
import { slotTitles, starters } from '@vast-surge/core/kind';
import { formulas } from '@vast-surge/core/formula';
import { pagesOf } from '@vast-surge/core/rig';
import { partKind, readFilter } from '@vast-surge/core/part';
import { useFindRigsQuery, useGetBenchQuery, useListRunsInfiniteQuery, useListShotsInfiniteQuery } from './api.ts';
import { closeOpenRevision, redoEdit, undoEdit, useNewBank } from './commands.ts';
import { blockSelected, workingToggled } from './editor.ts';
import { keys, placesOfPages } from './places.ts';
import { foundBy, valueOf, type Entry, type Found } from './finder-order.ts';
import { glossary } from '../ui/glossary.ts';
import { useAppDispatch, useAppSelector, useOpenDocument } from './store.ts';
import { chooseTheme, savedTheme } from './theme.ts';

function entriesEverywhere(
  go: (path: string) => () => void,
  newBank: ReturnType<typeof useNewBank>,
  onKeys: () => void,
): Entry[] {
  return [
    { id: 'new-bank', title: 'New capacitor bank', act: () => void newBank() },
    ...starters.map(({ id, title, words }) => ({
      id: `start-${id}`,
      title: `New: ${title}`,
      words: [...words],
      act: go(`/start/${id}`),
    })),
    ...placesOfPages.map(({ id, title, path, key, words }) => ({
      id,
      title,
      words: [...words],
      ...(key === undefined ? {} : { detail: `g ${key}` }),
      act: go(path),
    })),
    {
      id: 'theme',
      title: 'Switch between day and night',
      words: ['theme', 'dark', 'light'],
      act: () => chooseTheme(savedTheme() === 'day' ? 'night' : 'day'),
    },
    { id: 'keys', title: 'Show the keys', detail: '?', words: ['keyboard', 'help'], act: onKeys },
  ];
}

/** What can be done from anywhere, and with the open rig. */
function useActions(onKeys: () => void): Entry[] {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const newBank = useNewBank();
  const openId = useAppSelector((s) => s.editor.id);
  const workingOpen = useAppSelector((s) => s.editor.workingOpen);
  const open = useOpenDocument();
  const go = (path: string) => () => void navigate(path);
  const everywhere = entriesEverywhere(go, newBank, onKeys);
  if (!openId || !open) return everywhere;
  const { name } = open;
  const rig = `/rigs/${openId}`;
  const onTheRig = (act: () => void) => () => {
    void navigate(rig);
    act();
  };
  const ofRig: Entry[] = [
    { id: 'undo', title: 'Undo', detail: 'Ctrl+Z', act: undoEdit },
    { id: 'redo', title: 'Redo', detail: 'Ctrl+Shift+Z', act: redoEdit },
    { id: 'close', title: `Save a revision of ${name}`, detail: 'Ctrl+S', act: () => void closeOpenRevision('') },
    {
      id: 'working',
      title: 'Working of the number last touched',
      detail: 'w',
      act: onTheRig(() => dispatch(workingToggled(!workingOpen))),
    },
    ...pagesOf(open.rig).map(({ route, title, words, about }) => ({
      id: `page-${route}`,
      title: route === '' ? name : `${title} of ${name}`,
      words: [...words, about],
      act: go(route === '' ? rig : `${rig}/${route}`),
    })),
    ...slots.map((slot) => ({
      id: `block-${slot}`,
      title: `${slotTitles[slot]} of ${name}`,
      words: ['block', 'fields'],
      act: onTheRig(() => dispatch(blockSelected(slot))),
    })),
  ];
  return [...ofRig, ...everywhere];
}

function Group({ heading, entries, onChosen }: Found & { onChosen: (entry: Entry) => void }) {
  return (
    <Command.Group
      heading={heading}
      className="[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-13 [&_[cmdk-group-heading]]:text-dim"
    >
      {entries.map((entry) => (
        <Command.Item
          key={entry.id}
          value={valueOf(heading, entry)}
          className="flex cursor-pointer justify-between gap-4 border-l-4 border-transparent px-3 py-1.5 data-[selected=true]:border-select data-[selected=true]:bg-ground"
          onSelect={() => onChosen(entry)}
        >
          <span>{entry.title}</span>
          {entry.detail !== undefined && <span className="text-13 text-dim">{entry.detail}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** Keys that move through the list: what they land on is the person's choice, and no late answer takes it away. */
const movingKeys = new Set(['ArrowUp', 'ArrowDown', 'Home', 'End']);

interface Props {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly onKeys: () => void;
}

/** So many parts are listed at once; more words find fewer. */
const mostParts = 30;

function usePartEntries(open: boolean, search: string): Entry[] {
  const navigate = useNavigate();
  const { data } = useGetBenchQuery(undefined, { skip: !open });
  const words = search.trim();
  if (!data || words.length < 2) return [];
  const filter = readFilter(words);
  if (!filter.ok) return [];
  const found: Entry[] = [];
  for (const { id, part, removedAt } of data.parts.values()) {
    if (removedAt !== null || !filter.test(part, '')) continue;
    const act = () => void navigate(`/parts?part=${id}`);
    // Found by the filter of the shelf already: the list must not sift it a second time.
    found.push({ id, title: `${part.tag} ${part.name}`, detail: partKind(part.kind).title, words: [words], act });
    if (found.length === mostParts) break;
  }
  return found;
}

/** So many of each noun are found: whoever looks for more writes another word. */
const mostRecords = '20';

/** Runs and shots by their rig, day, people and outcome, as the server finds them. */
function useRecordEntries(open: boolean, q: string): { runs: Entry[]; shots: Entry[]; searching: boolean } {
  const navigate = useNavigate();
  const { currentData: runs, isFetching: runsSought } = useListRunsInfiniteQuery({ q, limit: mostRecords }, { skip: !open });
  const { currentData: shots, isFetching: shotsSought } = useListShotsInfiniteQuery(
    { q, rig: '', outcome: '', limit: mostRecords },
    { skip: !open },
  );
  const day = (at: string) => format(new Date(at), 'd MMM yyyy, HH:mm');
  return {
    runs: (runs?.pages[0]?.rows ?? []).map((run) => ({
      id: run.id,
      title: `${run.rehearsal ? 'Rehearsal' : 'Run'} of ${run.rigName}, ${day(run.madeAt)}`,
      detail: run.at === 'running' ? 'open' : run.at,
      words: [run.acts, run.reads ?? '', ...run.outcomes, q],
      act: () => void navigate(`/runs/${run.id}`),
    })),
    shots: (shots?.pages[0]?.rows ?? []).map(({ id, rigName, shot }) => ({
      id,
      title: `Shot of ${rigName}, ${day(shot.at)}`,
      detail: shot.outcome,
      words: [shot.outcome, shot.remarks, shot.sound, q],
      act: () => void navigate(`/shots/${id}`),
    })),
    // What is asked for again beside an answer that is there is not searched for.
    searching: (runsSought && !runs) || (shotsSought && !shots),
  };
}

function useRigEntries(open: boolean, q: string, archived: boolean): { rigs: Entry[]; searching: boolean } {
  const navigate = useNavigate();
  // An answer to other words is not shown under these.
  const { currentData: data, isFetching } = useFindRigsQuery({ q, archived, limit: Number(mostRecords) }, { skip: !open });
  const rigs = (data?.rows ?? []).map(({ id, name, unreadable }) => ({
    id,
    title: name,
    words: [q],
    act: () => (unreadable === null ? void navigate(`/rigs/${id}`) : void toast.error(`${name} cannot be read by this program.`)),
    ...(archived ? { detail: 'archived' } : {}),
  }));
  return { rigs, searching: isFetching && !data };
}

/** Finds any part, rig, run, shot, sum or action by its words: Ctrl+K. */
export function Finder({ open, onOpenChange, onKeys }: Props) {
  const navigate = useNavigate();
  const actions = useActions(onKeys);
  const [search, setSearch] = useState('');
  // What is typed is shown at once and looked for a moment later.
  const q = useDeferredValue(search.trim());
  const parts = usePartEntries(open, search);
  const records = useRecordEntries(open, q);
  const live = useRigEntries(open, q, false);
  const archived = useRigEntries(open, q, true);
  const sums: Entry[] = formulas.map((f) => ({
    id: f.id,
    title: f.title,
    detail: f.subject,
    words: [f.id, f.subject],
    act: () => void navigate(`/sums/${f.id}`),
  }));
  const terms: Entry[] = glossary.map(({ id, term, also, says }) => ({
    id,
    title: term,
    detail: 'glossary',
    words: [...also, says],
    act: () => void navigate(`/glossary#${id}`),
  }));
  const keyEntries: Entry[] = keys.map(([key, what]) => ({ id: key, title: what, detail: key, act: onKeys }));
  const searching = q !== search.trim() || records.searching || live.searching || archived.searching;
  const found = foundBy(search, [
    { heading: 'Rigs', entries: [...live.rigs, ...archived.rigs] },
    { heading: 'Parts', entries: parts },
    { heading: 'Runs', entries: records.runs },
    { heading: 'Shots', entries: records.shots },
    { heading: 'Actions', entries: actions },
    { heading: 'Sums', entries: sums },
    { heading: 'Terms', entries: terms },
    { heading: 'Keys', entries: keyEntries },
  ]);
  // What a person moved to stays marked; otherwise the first is, whatever comes later and however late it comes.
  const [movedTo, setMovedTo] = useState<string | null>(null);
  const moving = useRef(false);
  const values = found.flatMap(({ heading, entries }) => entries.map((entry) => valueOf(heading, entry)));
  const isMoved = movedTo !== null && values.includes(movedTo);
  // Enter before the answers are in means what they find, not what stood there before.
  const entered = useRef(false);
  const reset = () => {
    moving.current = false;
    setMovedTo(null);
    entered.current = false;
  };
  const close = () => {
    reset();
    setSearch('');
    onOpenChange(false);
  };
  const choose = (entry: Entry) => {
    close();
    entry.act();
  };
  useEffect(() => {
    if (!entered.current || searching) return;
    entered.current = false;
    const first = found[0]?.entries[0];
    if (first) queueMicrotask(() => choose(first));
  });
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(next) => (next ? onOpenChange(true) : close())}
      label="Find a part, a rig, a run, a shot, a sum or an action"
      shouldFilter={false}
      value={isMoved ? movedTo : (values[0] ?? '')}
      onValueChange={(value) => moving.current && setMovedTo(value)}
      onKeyDown={(event) => {
        if (movingKeys.has(event.key)) moving.current = true;
        if (event.key !== 'Enter' || !searching || isMoved) return;
        event.preventDefault();
        entered.current = true;
      }}
      onPointerMoveCapture={() => (moving.current = true)}
      overlayClassName="fixed inset-0 z-40 bg-veil"
      contentClassName="fixed top-[12vh] left-1/2 z-50 w-[min(40rem,94vw)] -translate-x-1/2 border border-ink bg-plate"
    >
      <Command.Input
        autoFocus
        value={search}
        onValueChange={(words) => {
          reset();
          setSearch(words);
        }}
        placeholder="Find a part, a rig, a run, a shot, a sum or an action"
        className="w-full border-b border-rule bg-plate px-3 py-2.5 text-17 outline-none"
      />
      <Command.List className="max-h-[56vh] overflow-y-auto pb-2">
        {found.length === 0 && <p className="px-3 py-3 text-dim">{searching ? 'Searching …' : 'No results.'}</p>}
        {found.map((group) => (
          <Group key={group.heading} {...group} onChosen={choose} />
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
