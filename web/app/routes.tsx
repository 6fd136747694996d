import { createBrowserRouter, Navigate } from 'react-router';
import { RigsView } from '../views/rigs/rigs-view.tsx';
import { RigView } from '../views/rig/rig-view.tsx';
import { RunSheetView } from '../views/runsheet/runsheet-view.tsx';
import { RevisionsView } from '../views/revisions/revisions-view.tsx';
import { SumsView } from '../views/sums/sums-view.tsx';
import { Shell } from './shell.tsx';
import { BrokenView, MissingView } from './trouble.tsx';

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <BrokenView />,
    children: [
      { index: true, element: <Navigate to="/rigs" replace /> },
      { path: 'rigs', element: <RigsView />, errorElement: <BrokenView /> },
      { path: 'rigs/:id', element: <RigView />, errorElement: <BrokenView /> },
      { path: 'rigs/:id/run-sheet', element: <RunSheetView />, errorElement: <BrokenView /> },
      { path: 'rigs/:id/revisions', element: <RevisionsView />, errorElement: <BrokenView /> },
      { path: 'sums', element: <SumsView />, errorElement: <BrokenView /> },
      { path: 'sums/:formulaId', element: <SumsView />, errorElement: <BrokenView /> },
      { path: '*', element: <MissingView /> },
    ],
  },
]);
