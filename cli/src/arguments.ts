/** What stands on the command line after the command's name. */
export interface Arguments {
  positional: string[];
  options: Map<string, string>;
}

/** Something that the user has to put right; printed as one line, exit status 2. */
export class UsageError extends Error {
  readonly code = 'usage';
}

/**
 * Reads `NAME --option value --flag`.
 * @throws UsageError for an option that the command does not have, or one without its value.
 */
export function readArguments(
  words: readonly string[],
  valued: readonly string[],
  flags: readonly string[] = [],
): Arguments {
  const found: Arguments = { positional: [], options: new Map() };
  for (let i = 0; i < words.length; i++) {
    const word = words[i];
    if (!word.startsWith('--')) found.positional.push(word);
    else if (flags.includes(word.slice(2))) found.options.set(word.slice(2), '');
    else if (!valued.includes(word.slice(2))) throw new UsageError(`there is no option ${word}`);
    else if (words[i + 1] === undefined || words[i + 1].startsWith('--')) throw new UsageError(`${word} needs a value`);
    else found.options.set(word.slice(2), words[++i]);
  }
  return found;
}

/** An argument that must be there. */
export function required(found: Arguments, option: string): string {
  const value = found.options.get(option);
  if (value === undefined) throw new UsageError(`--${option} is needed`);
  return value;
}
