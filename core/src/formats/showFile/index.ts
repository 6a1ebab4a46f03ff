export { showJsonSchema } from './jsonSchema';
export { migrations, type Migration } from './migrations';
export { readShowDocument, readShowFile, type ShowFileError, type ShowFileErrorCode } from './readShowFile';
export { writeShowFile } from './writeShowFile';
