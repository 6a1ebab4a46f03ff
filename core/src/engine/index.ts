export { Registry, type Destination } from './state/registry';
export { ShowCompiler } from './compile/showCompiler';
export type {
  CompiledBalance,
  CompiledEntry,
  CompiledLayer,
  CompiledPatch,
  CompiledShow,
  CompiledStep,
} from './compile/compiled';
export { Engine } from './engine';
export type { EngineInput, JumpAt, LastPlace, MovedByHand, PlayedShowParts, StampedInput } from './input';
export { InputLog } from './inputLog';
export { PlayedShow } from './playedShow';
export { MAX_WAIT_MS, SECOND_PANIC_MS } from './state/limits';
export { IGNORED_IN_WORDS, IGNORED_REASONS, type IgnoredReason, type WarningCode } from './reasons';
export { levelController, panController } from './recall/levels';
export type { EngineObserver, EngineRecord, RecallCause } from './records';
export { SilentSink, WHOLE_DEFAULTS, WHOLE_VALUES, type EngineSink } from './sink';
export { pickedUp } from './controls/overrides';
export type { Call } from './timeline/calls';
export type { BalanceView, ControlView, NamedLayer, SoundingNote } from './views';
