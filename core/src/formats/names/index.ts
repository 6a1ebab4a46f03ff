export { openTable, readTable, writeNamesCsv, NameColumns, type Table } from './csv';
export {
  MOST_NAMES,
  entriesFrom,
  type NameRow,
  type NamesRead,
  type NotUnderstood,
  alsoText,
  parseAlso,
} from './nameRows';
export { guessPasted, readPasted, PastedReading } from './pasted';
export { readMidnam, type MidnamDevice, type MidnamError, type MidnamErrorCode } from './readMidnam';
export { writeMidnam } from './writeMidnam';
