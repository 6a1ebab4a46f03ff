export { chooseSetlist, dryRun, type DryRunError, type DryRunResult, type LogRecord } from './dryRun';
