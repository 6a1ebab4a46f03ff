import { createRoot } from 'react-dom/client';
import { App } from './app/App';
import './app/index.css';
import { startApp } from './app/startApp';

const app = startApp();
createRoot(document.getElementById('root')!).render(<App {...app} />);
