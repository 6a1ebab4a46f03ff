export { Book, type Destination } from './book';
export { ShowCompiler } from './compile/showCompiler';
export type {
  CompiledBalance,
  CompiledEntry,
  CompiledLayer,
  CompiledPatch,
  CompiledShow,
  CompiledStep,
} from './compile/compiled';
export { controlKey } from './compile/controls';
export { Engine } from './engine';
export { MAX_WAIT_MS, SECOND_PANIC_MS } from './limits';
export { IGNORED_IN_WORDS, IGNORED_REASONS, type IgnoredReason, type WarningCode } from './reasons';
export { levelController, panController } from './levels';
export type { EngineObserver, EngineRecord, RecallCause } from './records';
export { WHOLE_DEFAULTS, WHOLE_VALUES, type EngineSink } from './sink';
export { pickedUp } from './valueDesk';
export { velocityTable } from './compile/velocityTable';
export type { ControlView, SoundingNote } from './views';
