import { join } from 'node:path';
import { writeShowFile } from '@rackle/core/formats';
import { rehearsal } from '../../demo/src/rehearsal';
import { ternLedge } from '../../demo/src/ternLedge';
import { readArguments } from './arguments';
import { writeWhole } from './files';

/** `rackle make-demo [--into FOLDER]`: writes the demo show and its played file. */
export function makeDemoCommand(words: readonly string[]): number {
  const folder = readArguments(words, ['into']).options.get('into') ?? 'demo';
  const show = ternLedge();
  writeWhole(join(folder, 'tern-ledge.json'), writeShowFile(show));
  writeWhole(join(folder, 'rehearsal.mid'), rehearsal(show));
  return 0;
}
