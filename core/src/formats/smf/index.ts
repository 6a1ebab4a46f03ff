export type { SmfMeta } from './meta';
export { readSmf, type SmfFile, type SmfMessage, type SmfTrack } from './readSmf';
export type { SmfError, SmfErrorCode } from './structure';
export { TEXT_CODES, decodedText, textCodeOf, type TextCode } from './text';
export { ticksPerSecond, type Division } from './tickToMs';
export { writeSmf, type WriteMessage, type WriteMeta, type WriteTrack } from './writeSmf';
