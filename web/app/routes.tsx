import type { ReactElement } from 'react';
import type { DeskRoute } from '@vast-surge/core/block';
import { createBrowserRouter, Navigate } from 'react-router';
import { ComposerView } from '../views/parts/composer-view.tsx';
import { HomeMadeView } from '../views/parts/home-made-view.tsx';
import { LabelsView } from '../views/parts/labels-view.tsx';
import { LotsView } from '../views/parts/lots-view.tsx';
import { MeasureView } from '../views/parts/measure-view.tsx';
import { ShelfView } from '../views/parts/shelf-view.tsx';
import { RigsView } from '../views/rigs/rigs-view.tsx';
import { RigView } from '../views/rig/rig-view.tsx';
import { CommissionView } from '../views/commission/commission-view.tsx';
import { CoilDeskView } from '../views/coil/coil-desk-view.tsx';
import { ErectionView } from '../views/erection/erection-view.tsx';
import { GapDeskView } from '../views/gap/gap-desk-view.tsx';
import { BackupsView } from '../views/backups/backups-view.tsx';
import { BleedView } from '../views/bleed/bleed-view.tsx';
import { TankView } from '../views/tank/tank-view.tsx';
import { BetterView } from '../views/better/better-view.tsx';
import { LaunchView } from '../views/launch/launch-view.tsx';
import { RunView } from '../views/runs/run-view.tsx';
import { RunsView } from '../views/runs/runs-view.tsx';
import { RunSheetView } from '../views/runsheet/runsheet-view.tsx';
import { RevisionsView } from '../views/revisions/revisions-view.tsx';
import { ScaleView } from '../views/scale/scale-view.tsx';
import { StagesView } from '../views/stages/stages-view.tsx';
import { SwitchesView } from '../views/switches/switches-view.tsx';
import { ShotView } from '../views/shots/shot-view.tsx';
import { ShotsView } from '../views/shots/shots-view.tsx';
import { EvidenceView } from '../views/evidence/evidence-view.tsx';
import { StarterView } from '../views/start/starter-view.tsx';
import { StartView } from '../views/start/start-view.tsx';
import { DischargeView } from '../views/discharge/discharge-view.tsx';
import { SumsView } from '../views/sums/sums-view.tsx';
import { Shell } from './shell.tsx';
import { BrokenView, MissingView } from './trouble.tsx';

/** The pages that kinds of block bring with them: one that is missing here does not compile. */
const deskViews: { readonly [K in DeskRoute]: ReactElement } = {
  gap: <GapDeskView />,
  coil: <CoilDeskView />,
  commission: <CommissionView />,
  erection: <ErectionView />,
  stages: <StagesView />,
  launch: <LaunchView />,
  tank: <TankView />,
  bleed: <BleedView />,
  better: <BetterView />,
  switches: <SwitchesView />,
  scale: <ScaleView />,
};

export const router = createBrowserRouter([
  // Run mode is a room of its own: nothing of the rest is in sight.
  { path: 'runs/:id', element: <RunView />, errorElement: <BrokenView /> },
  {
    element: <Shell />,
    errorElement: <BrokenView />,
    children: [
      { index: true, element: <Navigate to="/rigs" replace /> },
      { path: 'parts', element: <ShelfView />, errorElement: <BrokenView /> },
      { path: 'parts/lots', element: <LotsView />, errorElement: <BrokenView /> },
      { path: 'parts/composer', element: <ComposerView />, errorElement: <BrokenView /> },
      { path: 'parts/home-made', element: <HomeMadeView />, errorElement: <BrokenView /> },
      { path: 'parts/measure', element: <MeasureView />, errorElement: <BrokenView /> },
      { path: 'parts/labels', element: <LabelsView />, errorElement: <BrokenView /> },
      { path: 'rigs', element: <RigsView />, errorElement: <BrokenView /> },
      { path: 'rigs/:id', element: <RigView />, errorElement: <BrokenView /> },
      { path: 'rigs/:id/run-sheet', element: <RunSheetView />, errorElement: <BrokenView /> },
      ...Object.entries(deskViews).map(([route, element]) => ({
        path: `rigs/:id/${route}`,
        element,
        errorElement: <BrokenView />,
      })),
      { path: 'rigs/:id/revisions', element: <RevisionsView />, errorElement: <BrokenView /> },
      { path: 'runs', element: <RunsView />, errorElement: <BrokenView /> },
      { path: 'shots', element: <ShotsView />, errorElement: <BrokenView /> },
      { path: 'shots/:id', element: <ShotView />, errorElement: <BrokenView /> },
      { path: 'backups', element: <BackupsView />, errorElement: <BrokenView /> },
      { path: 'start', element: <StartView />, errorElement: <BrokenView /> },
      { path: 'start/:starter', element: <StarterView />, errorElement: <BrokenView /> },
      { path: 'discharge', element: <DischargeView />, errorElement: <BrokenView /> },
      { path: 'sums', element: <SumsView />, errorElement: <BrokenView /> },
      { path: 'sums/:formulaId', element: <SumsView />, errorElement: <BrokenView /> },
      { path: 'evidence', element: <EvidenceView />, errorElement: <BrokenView /> },
      { path: 'evidence/:kind/:id', element: <EvidenceView />, errorElement: <BrokenView /> },
      { path: '*', element: <MissingView /> },
    ],
  },
]);
