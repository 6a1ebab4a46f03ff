export { byRole } from './byRole';
export { HandsHere } from './HandsHere';
export { LevelFader } from './LevelFader';
export { RoleFader, valueOf, valueText } from './RoleFader';
