import type { ComponentType } from 'react';
import type { DeskRoute } from '@vast-surge/core/block';
import { createBrowserRouter, Navigate } from 'react-router';
import { sessionStarted } from './session-start.ts';
import { Admitted } from './admitted.tsx';
import { Shell } from './shell.tsx';
import { BrokenView, MissingView, NotFetchedView, OpeningView } from './trouble.tsx';

type LoadedPage = () => Promise<{ Component: ComponentType }>;

/** What fetches each page's script, in the order in which the pages are declared. */
const pages: (() => Promise<void>)[] = [];

/** A page whose script is fetched when somebody goes there. @param reads it writes nothing, and does not wait for what is kept on the device */
function page<K extends string>(load: () => Promise<{ readonly [N in K]: ComponentType }>, name: K, reads = false): LoadedPage {
  const both = async () => (await Promise.all([load(), reads || sessionStarted()]))[0];
  // A rejection would leave the page empty.
  const loaded = async () => ({ Component: (await both().catch(() => null))?.[name] ?? NotFetchedView });
  // What does not come now is asked for again when somebody goes there.
  pages.push(async () => void (await load().catch(() => undefined)));
  return loaded;
}

/** Fetches what is not here yet, a page at a time while nothing else is to be done: with the server away they all open still. */
export async function fetchPages(): Promise<void> {
  const idle = () =>
    new Promise<void>((then) => ('requestIdleCallback' in window ? requestIdleCallback(() => then()) : setTimeout(then, 200)));
  for (const load of pages) {
    await idle();
    await load();
  }
}

// First of all pages the one that is used beside a charged store: it is here before a server can go away.
const runView = page(() => import('../views/runs/run-view.tsx'), 'RunView');
const joinView = page(() => import('../views/people/join-view.tsx'), 'JoinView', true);
const rigShell = page(() => import('../views/rig-shell/rig-shell.tsx'), 'RigShell');
const rigView = page(() => import('../views/rig/rig-view.tsx'), 'RigView');

/** The pages in the shell that are no kind's, by their paths. */
const shellViews: { readonly [path: string]: LoadedPage } = {
  parts: page(() => import('../views/parts/shelf-view.tsx'), 'ShelfView'),
  'parts/lots': page(() => import('../views/parts/lots-view.tsx'), 'LotsView'),
  'parts/composer': page(() => import('../views/parts/composer-view.tsx'), 'ComposerView'),
  'parts/home-made': page(() => import('../views/parts/home-made-view.tsx'), 'HomeMadeView'),
  'parts/measure': page(() => import('../views/parts/measure-view.tsx'), 'MeasureView'),
  'parts/labels': page(() => import('../views/parts/labels-view.tsx'), 'LabelsView'),
  rigs: page(() => import('../views/rigs/rigs-view.tsx'), 'RigsView', true),
  runs: page(() => import('../views/runs/runs-view.tsx'), 'RunsView'),
  shots: page(() => import('../views/shots/shots-view.tsx'), 'ShotsView'),
  'shots/:id': page(() => import('../views/shots/shot-view.tsx'), 'ShotView'),
  backups: page(() => import('../views/backups/backups-view.tsx'), 'BackupsView'),
  opening: page(() => import('../views/people/opening-view.tsx'), 'OpeningView', true),
  people: page(() => import('../views/people/people-view.tsx'), 'PeopleView', true),
  audit: page(() => import('../views/people/audit-view.tsx'), 'AuditView', true),
  account: page(() => import('../views/people/account-view.tsx'), 'AccountView', true),
  start: page(() => import('../views/start/start-view.tsx'), 'StartView'),
  'start/:starter': page(() => import('../views/start/starter-view.tsx'), 'StarterView'),
  design: page(() => import('../views/design/design-view.tsx'), 'DesignView'),
  guide: page(() => import('../views/guide/guide-view.tsx'), 'GuidesView'),
  'guide/:guide': page(() => import('../views/guide/guide-view.tsx'), 'GuideView'),
  glossary: page(() => import('../views/guide/glossary-view.tsx'), 'GlossaryView'),
  units: page(() => import('../views/units/units-view.tsx'), 'UnitsView'),
  discharge: page(() => import('../views/discharge/discharge-view.tsx'), 'DischargeView'),
  sums: page(() => import('../views/sums/sums-view.tsx'), 'SumsView'),
  'sums/:formulaId': page(() => import('../views/sums/sums-view.tsx'), 'SumsView'),
  evidence: page(() => import('../views/evidence/evidence-view.tsx'), 'EvidenceView'),
  'evidence/:kind/:id': page(() => import('../views/evidence/evidence-view.tsx'), 'EvidenceView'),
};

/** Pages that every rig has, below its address. */
const rigViews: { readonly [path: string]: LoadedPage } = {
  studies: page(() => import('../views/studies/studies-view.tsx'), 'StudiesView'),
  faults: page(() => import('../views/faults/faults-view.tsx'), 'FaultsView'),
  'run-sheet': page(() => import('../views/runsheet/runsheet-view.tsx'), 'RunSheetView'),
  rehearse: page(() => import('../views/runs/rig-runs-view.tsx'), 'RehearseView'),
  campaigns: page(() => import('../views/campaign/campaigns-view.tsx'), 'CampaignsView'),
  'campaigns/:campaign': page(() => import('../views/campaign/campaign-view.tsx'), 'CampaignView'),
  runs: page(() => import('../views/runs/rig-runs-view.tsx'), 'RigRunsView'),
  shots: page(() => import('../views/shots/shots-view.tsx'), 'RigShotsView'),
  revisions: page(() => import('../views/revisions/revisions-view.tsx'), 'RevisionsView'),
};

/** The pages that kinds of block bring with them: one that is missing here does not compile. */
const deskViews: { readonly [K in DeskRoute]: LoadedPage } = {
  gap: page(() => import('../views/gap/gap-desk-view.tsx'), 'GapDeskView'),
  coil: page(() => import('../views/coil/coil-desk-view.tsx'), 'CoilDeskView'),
  commission: page(() => import('../views/commission/commission-view.tsx'), 'CommissionView'),
  erection: page(() => import('../views/erection/erection-view.tsx'), 'ErectionView'),
  stages: page(() => import('../views/stages/stages-view.tsx'), 'StagesView'),
  launch: page(() => import('../views/launch/launch-view.tsx'), 'LaunchView'),
  tank: page(() => import('../views/tank/tank-view.tsx'), 'TankView'),
  bleed: page(() => import('../views/bleed/bleed-view.tsx'), 'BleedView'),
  better: page(() => import('../views/better/better-view.tsx'), 'BetterView'),
  switches: page(() => import('../views/switches/switches-view.tsx'), 'SwitchesView'),
  guard: page(() => import('../views/guard/guard-view.tsx'), 'GuardView'),
  scale: page(() => import('../views/scale/scale-view.tsx'), 'ScaleView'),
};

const routesOf = (views: { readonly [path: string]: LoadedPage }) =>
  Object.entries(views).map(([path, lazy]) => ({ path, lazy, errorElement: <BrokenView /> }));

const trouble = { errorElement: <BrokenView />, hydrateFallbackElement: <OpeningView /> };

export const router = createBrowserRouter([
  // Whoever takes a link up is not signed in yet.
  { path: 'join', lazy: joinView, ...trouble },
  {
    element: <Admitted />,
    ...trouble,
    children: [
      // Run mode is a room of its own: nothing of the rest is in sight.
      { path: 'runs/:id', lazy: runView, errorElement: <BrokenView /> },
      {
        element: <Shell />,
        errorElement: <BrokenView />,
        children: [
          { index: true, element: <Navigate to="/rigs" replace /> },
          ...routesOf(shellViews),
          {
            path: 'rigs/:id',
            lazy: rigShell,
            errorElement: <BrokenView />,
            children: [
              { index: true, lazy: rigView, errorElement: <BrokenView /> },
              ...routesOf(rigViews),
              ...routesOf(deskViews),
              // The shell says what is not there.
              { path: '*', element: null },
            ],
          },
          { path: '*', element: <MissingView /> },
        ],
      },
    ],
  },
]);
