import { showJsonSchema } from '@rackle/core/formats';
import { UsageError } from './arguments';
import { checkCommand } from './checkCommand';
import { dryRunCommand } from './dryRunCommand';
import { figuresCommand } from './figures';
import { loadingCommand } from './loadingCommand';
import { makeDemoCommand } from './makeDemoCommand';
import { exportMidiCommand, importMidiCommand } from './midiCommands';

const COMMANDS: Record<string, (words: readonly string[]) => number> = {
  'dry-run': dryRunCommand,
  check: checkCommand,
  loading: loadingCommand,
  'import-midi': importMidiCommand,
  'export-midi': exportMidiCommand,
  figures: figuresCommand,
  'make-demo': makeDemoCommand,
  schema: () => {
    process.stdout.write(`${JSON.stringify(showJsonSchema(), null, 2)}\n`);
    return 0;
  },
};

/** Runs one command. Input that cannot be used is one line on standard error and exit status 2, never a stack. */
export function main(words: readonly string[]): number {
  const [name, ...rest] = words;
  const command = Object.hasOwn(COMMANDS, name ?? '') ? COMMANDS[name] : null;
  try {
    if (command === null) throw new UsageError(`say what to do: ${Object.keys(COMMANDS).join(', ')}`);
    return command(rest);
  } catch (cause) {
    if (!(cause instanceof UsageError)) throw cause;
    process.stderr.write(`rackle: ${cause.message}\n`);
    return 2;
  }
}
