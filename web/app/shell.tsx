import {
  createElement,
  useEffect,
  useEffectEvent,
  useState,
  useSyncExternalStore,
  type ComponentType,
  type ReactNode,
} from 'react';
import { Keyboard, Moon, Ruler, Search, Sun, TabletSmartphone, UserRound } from 'lucide-react';
import { toast } from 'sonner';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useHotkeys } from 'react-hotkeys-hook';
import { roles, type Role } from '@vast-surge/contract';
import { placesOfPages } from './places.ts';
import { KeysDialog } from './keys-dialog.tsx';
import { Button } from '../ui/button.tsx';
import { later } from '../ui/later.tsx';
import { IconButton } from '../ui/icon-button.tsx';
import { useGetHealthQuery, useGetSessionQuery, useOpenRunsQuery } from './base-api.ts';
import { useLineLost, usePolling } from './live.ts';
import { useMayNotOn } from './may.ts';
import { sessionStarted } from './session-start.ts';
import { WayTo } from './way-to.tsx';
import { chooseTheme, savedTheme, type Theme } from './theme.ts';

const views: readonly { to: string; title: string; onWide?: true }[] = [
  { to: '/parts', title: 'Parts' },
  { to: '/rigs', title: 'Rigs' },
  { to: '/runs', title: 'Runs' },
  { to: '/shots', title: 'Shots' },
  { to: '/sums', title: 'Sums' },
  // On a phone it is found from every working and by the finder.
  { to: '/evidence', title: 'Evidence', onWide: true },
];

const subscribeTheme = (notify: () => void) => {
  window.addEventListener('vast-surge-theme', notify);
  return () => window.removeEventListener('vast-surge-theme', notify);
};

/** The theme in use; plots read it to redraw in the new colours. */
export const useTheme = (): Theme => useSyncExternalStore(subscribeTheme, savedTheme);

function ThemeButton() {
  const theme = useTheme();
  const next = theme === 'day' ? 'night' : 'day';
  return (
    <IconButton label={`Switch to the ${next} theme`} className="hidden sm:block" onClick={() => chooseTheme(next)}>
      {theme === 'day' ? <Moon size={17} aria-hidden /> : <Sun size={17} aria-hidden />}
    </IconButton>
  );
}

/** Who is signed in; where nobody has to be, the way to let other devices in. */
function WhoButton() {
  const navigate = useNavigate();
  const { data } = useGetSessionQuery(undefined);
  if (data?.account)
    return (
      <NavLink
        to="/account"
        aria-label={`Your account: ${data.account.name ?? ''}`}
        className="flex items-center gap-1 px-1 text-14"
      >
        <UserRound size={17} aria-hidden />
        <span className="hidden max-w-32 truncate lg:inline">{data.account.name}</span>
      </NavLink>
    );
  return (
    <IconButton
      label="Other devices"
      hint="Phones and tablets of this workshop"
      className="hidden sm:block"
      onClick={() => void navigate('/opening')}
    >
      <TabletSmartphone size={17} aria-hidden />
    </IconButton>
  );
}

/** Which pages change what only some may change. */
const reserved: readonly (readonly [path: RegExp, may: readonly Role[]])[] = [
  [/^\/rigs\/[^/]+\/(runs|shots|rehearse|campaigns)/, ['designs', 'acts', 'reads']],
  [/^\/(rigs|start|parts(?!\/measure))/, ['designs']],
  [/^\/(shots|runs|parts)/, ['designs', 'acts', 'reads']],
  [/^\/backups/, ['administers']],
];

/** That one's roles do not change what is on a page. */
function RoleNote() {
  const { pathname } = useLocation();
  const rig = /^\/rigs\/([^/]+)/.exec(pathname)?.[1] ?? null;
  const mayNot = useMayNotOn(rig, ...(reserved.find(([path]) => path.test(pathname))?.[1] ?? roles));
  if (mayNot === null) return null;
  return (
    <p role="status" className="no-print border-b border-rule bg-plate px-5 py-1 text-14 text-dim">
      Nothing you change on this page is saved. {mayNot}
    </p>
  );
}

/** A run that is open over a store that may be charged, on every page. */
function OpenRunNote() {
  const { data = [] } = useOpenRunsQuery(undefined, { pollingInterval: usePolling(10_000), skipPollingIfUnfocused: true });
  const { pathname } = useLocation();
  const [open] = data;
  // The list of rigs says it first and larger.
  if (!open || pathname === '/rigs') return null;
  return <WayTo to={`/runs/${open.id}`}>⚠ {open.rigName} is being run: its store may be charged</WayTo>;
}

/** What waits on this device: known once its script is here. Where that does not come the page stands without. */
const KeptNotes = later(() =>
  sessionStarted()
    .then(() => import('./kept-notes.tsx'))
    .then((script) => script.KeptNotes),
);

/** What a page is called on its tab of the browser; those of a rig say it themselves. */
function PageTitle() {
  const { pathname } = useLocation();
  if (/^\/rigs\/./.test(pathname)) return null;
  const others = placesOfPages.map(({ path, title }) => ({ to: path, title }));
  const title = [...views, ...others].find(({ to }) => pathname.startsWith(to))?.title;
  return <title>{title === undefined ? 'Vast Surge' : `${title} · Vast Surge`}</title>;
}

/** The script this page was made by; null while it is served for development. */
const ownPage = /\/assets\/([\w.-]+\.js)/.exec(
  document.querySelector('script[type=module][src]')?.getAttribute('src') ?? '',
)?.[1];

/** The server answers and does not tell: what others write comes late. */
function LineNote() {
  const isLost = useLineLost();
  const { isError } = useGetHealthQuery(undefined);
  if (!isLost || isError) return null;
  return (
    <p role="status" className="no-print border-b border-rule bg-plate px-5 py-1 text-14 text-dim">
      The live line to the server is lost; it is being opened again. Until then what others write comes every few seconds.
    </p>
  );
}

/** What the server says of itself that a person has to know: another version, a full disk, a database that takes nothing. */
function HealthNote() {
  const { data } = useGetHealthQuery(undefined, { pollingInterval: 30_000, skipPollingIfUnfocused: true });
  if (!data) return null;
  const lines: [words: string, action: ReactNode][] = [];
  if (ownPage !== undefined && data.page !== null && data.page !== ownPage)
    lines.push([
      'This page is older than the server. What is not saved yet is kept on this device.',
      <Button key="reload" onClick={() => location.reload()}>
        Reload
      </Button>,
    ]);
  if (data.disk?.full)
    lines.push([
      `The disk of the server is full: ${(data.disk.free / 1e6).toFixed(0)} MB are free. Free some space; until then nothing can be saved.`,
      null,
    ]);
  else if (data.disk && !data.disk.writable)
    lines.push([
      'The data folder cannot be written: nothing is saved, and no backup is made. Check its permissions and its disk.',
      null,
    ]);
  if (data.database === 'read-only') lines.push(['The database accepts no writes at present: nothing is saved.', null]);
  return lines.map(([words, act]) => (
    <div
      key={words}
      role="alert"
      className="no-print flex flex-wrap items-center gap-3 border-b border-rule border-l-4 border-l-warning bg-plate px-5 py-2"
    >
      <span>{words}</span>
      {act}
    </div>
  ));
}

interface FinderProps {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly onKeys: () => void;
}

/** The finder, fetched while nothing else is to be done, or when it is asked for: the first page does without. */
function FetchedFinder(props: FinderProps) {
  const { open: wanted, onOpenChange } = props;
  const [finder, setFinder] = useState<{ readonly of: ComponentType<FinderProps> } | null>(null);
  const away = useEffectEvent(() => {
    onOpenChange(false);
    toast.error('The finder could not be fetched, as the server does not answer. Try again when it is there.');
  });
  useEffect(() => {
    if (finder) return undefined;
    let stays = true;
    const fetch = () =>
      import('./finder.tsx').then(
        ({ Finder }) => stays && setFinder({ of: Finder }),
        () => stays && wanted && away(),
      );
    const later = setTimeout(() => void fetch(), wanted ? 0 : 2000);
    return () => {
      stays = false;
      clearTimeout(later);
    };
  }, [finder, wanted]);
  return finder && createElement(finder.of, props);
}

/** `g` and the letter of a page go there. */
function usePlaceKeys(): void {
  const navigate = useNavigate();
  const letters = placesOfPages.flatMap(({ key }) => (key === undefined ? [] : [`g>${key}`]));
  useHotkeys(letters.join(', '), (_, { hotkey }) => {
    const place = placesOfPages.find(({ key }) => key !== undefined && hotkey === `g>${key}`);
    if (place) void navigate(place.path);
  });
}

export function Shell() {
  const [keysOpen, setKeysOpen] = useState(false);
  const [finding, setFinding] = useState(false);
  useHotkeys('shift+?, ?', () => setKeysOpen(true), { useKey: true });
  useHotkeys('mod+k', () => setFinding(true), { enableOnFormTags: true, preventDefault: true });
  usePlaceKeys();
  const navigate = useNavigate();
  return (
    <div className="flex h-full flex-col print:block print:h-auto">
      <PageTitle />
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:bg-plate focus:p-2">
        Skip to the content
      </a>
      <header className="no-print flex shrink-0 flex-wrap items-stretch border-b border-rule px-3 sm:px-5">
        <NavLink to="/rigs" className="mr-8 hidden items-center whitespace-nowrap text-17 font-bold sm:flex">
          Vast Surge
        </NavLink>
        <nav aria-label="Views" className="flex min-h-[42px] flex-wrap">
          {views.map(({ to, title, onWide }) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                `${onWide ? 'hidden lg:flex' : 'flex'} min-h-[42px] items-center border-b-[3px] px-1 max-sm:text-13 sm:px-3 ${isActive ? 'border-select font-bold' : 'border-transparent text-dim hover:text-ink'}`
              }
            >
              {title}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex h-[42px] min-w-0 items-center gap-1">
          <div id="header-slot" className="flex min-w-0 items-center gap-1.5 sm:gap-3 xl:shrink-0" />
          <IconButton
            label="Find a part, a rig, a run, a shot, a sum or an action"
            hint="Find a part, a rig, a run, a shot, a sum or an action (Ctrl+K)"
            onClick={() => setFinding(true)}
          >
            <Search size={17} aria-hidden />
          </IconButton>
          <ThemeButton />
          <WhoButton />
          <IconButton
            label="Units"
            hint="Units in which numbers are shown"
            className="hidden sm:block"
            onClick={() => void navigate('/units')}
          >
            <Ruler size={17} aria-hidden />
          </IconButton>
          <IconButton
            label="Show the keys"
            hint="Show the keys (?)"
            className="hidden sm:block"
            onClick={() => setKeysOpen(true)}
          >
            <Keyboard size={17} aria-hidden />
          </IconButton>
        </div>
      </header>
      {/* In a row of their own: beside the rest a phone would leave them no room. */}
      <div className="no-print flex shrink-0 flex-wrap empty:hidden">
        <OpenRunNote />
        <KeptNotes of="way" />
      </div>
      <KeptNotes of="strange" />
      <RoleNote />
      <HealthNote />
      <LineNote />
      <div id="content" className="flex min-h-0 flex-1 relative flex-col overflow-y-auto print:block print:overflow-visible">
        <Outlet />
      </div>
      <FetchedFinder open={finding} onOpenChange={setFinding} onKeys={() => setKeysOpen(true)} />
      <KeysDialog open={keysOpen} onOpenChange={setKeysOpen} />
    </div>
  );
}
