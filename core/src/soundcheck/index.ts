export { SEVERITIES, type Finding, type MeantFinding, type Mend, type Place, type Severity } from './finding';
export { loadingFindings } from './loadingFindings';
export type { RuleGroup } from './rule';
export { Soundcheck, soundcheck, type Looked, type SoundcheckInput, type SoundcheckResult } from './soundcheck';
export { UNKNOWN_HERE, type HeardProgram, type SilentStrike, type Here } from './tonight';
export {
  STIMULI,
  SimulatedCheck,
  type CaseRoll,
  type FailedCase,
  type SimulatedFinding,
  type SimulatedProgress,
} from './simulated';
export {
  LevelCheck,
  type LevelMeasured,
  type LevelResult,
  type LevelTake,
  type PatchLoudness,
  type PlayedKey,
  type TakeLayer,
  type TakeMessage,
} from './levels';
