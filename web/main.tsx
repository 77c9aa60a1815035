import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { router } from './app/router.tsx';
import { startWriting } from './app/shopWriting.ts';
import { store } from './app/store.ts';
import { keepTheme } from './app/theme.ts';
import './ui/styles.css';

// Components that write style elements pick the page's nonce up here; the policy refuses others.
const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
if (nonce) setNonce(nonce);
keepTheme();
startWriting();

const root = document.getElementById('root');
if (!root) throw new Error('expected #root in the page');
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
