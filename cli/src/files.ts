import { readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { readShowFile, readSmf, type SmfFile } from '@rackle/core/formats';
import type { Show } from '@rackle/core/show';
import { UsageError } from './arguments';

const MAX_FILE_BYTES = 64 * 1024 * 1024;

/** @throws UsageError when there is no such file, or it is too large. */
export function readBytes(path: string): Buffer {
  try {
    const { size } = statSync(path);
    if (size > MAX_FILE_BYTES)
      throw new UsageError(
        `${path}: the file is too large (${Math.round(size / 1024 / 1024)} MB; at most 64 MB are read)`,
      );
    return readFileSync(path);
  } catch (cause) {
    if (cause instanceof UsageError) throw cause;
    throw new UsageError(`${path}: the file cannot be read (${(cause as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
}

/** @throws UsageError when it is not a show of a version that is known. */
export function readShow(path: string): Show {
  const read = readShowFile(readBytes(path).toString('utf8'));
  if (!read.ok) throw new UsageError(`${path}: ${read.error.message}`);
  return read.value;
}

/** @throws UsageError when it is no whole Standard MIDI File. */
export function readPlayed(path: string): SmfFile {
  const read = readSmf(readBytes(path));
  if (!read.ok) throw new UsageError(`${path}: ${read.error.message} (at byte ${read.error.offsetBytes})`);
  return read.value;
}

/**
 * Writes a file whole or not at all.
 * @throws UsageError when it cannot be written.
 */
export function writeWhole(path: string, content: Uint8Array | string): void {
  const partial = `${path}.part-${process.pid}`;
  try {
    writeFileSync(partial, content);
    renameSync(partial, path);
  } catch (cause) {
    rmSync(partial, { force: true });
    throw new UsageError(`${path}: the file cannot be written (${(cause as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
}
