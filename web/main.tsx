import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { applySavedManner } from './app/manner.ts';
import { fetchPages, router } from './app/routes.tsx';
import { startSession } from './app/session.ts';
import { store } from './app/store.ts';
import { applyTheme, savedTheme } from './app/theme.ts';
import './styles.css';

applyTheme(savedTheme());
applySavedManner();

await startSession();

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root element');
createRoot(root).render(
  <Provider store={store}>
    <RouterProvider router={router} />
    <Toaster
      position="bottom-center"
      toastOptions={{
        classNames: { actionButton: '!rounded-none' },
        className: '!rounded-none !border !border-ink !bg-plate !text-ink !shadow-none !font-sans',
      }}
    />
  </Provider>,
);

// A visit of a moment need not pay for pages that nobody goes to.
setTimeout(() => void fetchPages(), 10_000);
