import { expose } from 'comlink';
import { ShowChecker } from './showChecker';

expose(new ShowChecker());
