export {
  LineMaker,
  MESSAGE_KINDS,
  becameInWords,
  isHiddenAtFirst,
  kindOfStatus,
  type MessageKind,
  type MonitorLine,
} from './lines';
export { IGNORED_IN_WORDS } from '../engine/reasons';
