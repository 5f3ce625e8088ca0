import './zodWithoutEval';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from '@/shell/App';
import { keepOffline } from '@/shell/offline/newVersion';
import './styles.css';

const root = document.getElementById('root');
if (!root) throw new Error('The page has no place for the app.');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);

// Once the page stands: keeping everything takes the line for a while.
if (import.meta.env.PROD) window.addEventListener('load', () => setTimeout(keepOffline, 1000));
