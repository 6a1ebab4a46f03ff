import { join } from 'node:path';
import { writeShowFile } from '@rackle/core/formats';
import { reelBass } from '../../demo/src/backing';
import { rehearsal } from '../../demo/src/rehearsal';
import { ternLedge } from '../../demo/src/ternLedge';
import { readArguments } from './arguments';
import { writeWhole } from './files';

/** `rackle make-demo [--into FOLDER]`: writes the demo show, its played file, and the bass of one song. */
export function makeDemoCommand(words: readonly string[]): number {
  const folder = readArguments(words, ['into']).options.get('into') ?? 'demo';
  const show = ternLedge();
  writeWhole(join(folder, 'tern-ledge.json'), writeShowFile(show));
  writeWhole(join(folder, 'rehearsal.mid'), rehearsal(show));
  writeWhole(join(folder, 'pewter-jug-reel.mid'), reelBass());
  return 0;
}
