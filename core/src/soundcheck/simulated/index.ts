export { type CaseRoll, type Failure } from './caseRun';
export { SimulatedCheck, type FailedCase, type SimulatedFinding, type SimulatedProgress } from './simulatedCheck';
export { STIMULI, type Done, type Stimulus } from './stimuli';
