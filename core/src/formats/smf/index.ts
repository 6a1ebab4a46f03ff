export { readSmf, type SmfFile, type SmfMessage, type SmfTrack } from './readSmf';
export type { SmfError, SmfErrorCode } from './structure';
export { writeSmf, type WriteMessage, type WriteTrack } from './writeSmf';
