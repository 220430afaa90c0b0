import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { watchErrors } from '../app/reportError.ts';
import '../theme/stand.css';
import { StandApp } from './StandApp.tsx';

watchErrors();

const root = document.getElementById('root');
if (!root) throw new Error('the page has no #root element');

createRoot(root).render(
  <StrictMode>
    <StandApp />
  </StrictMode>,
);
