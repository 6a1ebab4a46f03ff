import { expose } from 'comlink';
import { BrowserLevels } from './keptLevels';
import { ShowChecker } from './showChecker';

expose(new ShowChecker(new BrowserLevels()));
