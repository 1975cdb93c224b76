import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource/barlow-condensed/latin-500.css';
import '@fontsource/barlow-condensed/latin-600.css';
import './frame/house.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './frame/App.tsx';

const root = document.getElementById('root');
if (!root) throw new Error('index.html has no #root');
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
