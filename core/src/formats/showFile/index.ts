export { showJsonSchema } from './jsonSchema';
export { itemWithMap, migrations, setlistWithActionKinds, songWithMap, type Migration } from './migrations';
export {
  migratedBody,
  readShowDocument,
  readShowFile,
  type ShowFileError,
  type ShowFileErrorCode,
} from './readShowFile';
export { writeShowFile } from './writeShowFile';
export { clashesOf, openedShow, rereadRows, type Choice, type Clash } from './openShow';
export { repairShow, type Repaired } from './repair';
