export { buttonFor, controllerSheets, type ControllerSheet, type SheetControl, type SheetRow } from './controllerSheet';
export { planNumbering, withoutNumber, type NumberChange, type NumberingPlan } from './numbering';
export { addressFrom, addressNumber, programConflicts, programText, sameTarget, targetsInOrder } from './programMap';
export type { SheetKind } from './sheetKind';
