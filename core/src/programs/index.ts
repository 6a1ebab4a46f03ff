export {
  buttonsByTarget,
  controllerSheets,
  type ControllerSheet,
  type SheetButton,
  type SheetControl,
  type SheetRow,
} from './controllerSheet';
export { planNumbering, withoutNumber, type NumberChange, type NumberingPlan } from './numbering';
export {
  addressFrom,
  addressNumber,
  programConflicts,
  bankNumber,
  freeBehind,
  numberText,
  programText,
  readNumber,
  recallOfNumber,
  sameTarget,
  targetKey,
  targetsInOrder,
} from './programMap';
export type { SheetKind } from './sheetKind';
