export { Learner, type Learned, type LearnOptions } from './learn';
export { LearnRow, type LearnStep } from './learnRow';
export { proposeSources, type Proposal } from './proposals';
export { CONTROL_KINDS, type ControlKind } from './recognise';
export {
  movesValue,
  openRoles,
  rolesInUse,
  songsInOrder,
  withRenamedRole,
  withoutRole,
  type RoleInUse,
  type RoleUse,
  type Scope,
} from './roles';
export { classOf, controlOf, inputsOf, isContinuous, sameSource, sourceConflicts, type ControlClass } from './sources';
export { withTakenOver } from './takeOver';
export { roleTaking, type ComingProgram } from './taken';
export type { HeardMessage } from './tracks';
export {
  PARAMETERS,
  actionInWords,
  computerKeyName,
  kindInWords,
  parameterName,
  sourceInWords,
  type ActionNames,
} from './words';
