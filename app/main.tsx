import './zodWithoutEval';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from '@/shell/App';
import './styles.css';

const root = document.getElementById('root');
if (!root) throw new Error('The page has no place for the app.');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
