import type { CompiledStep } from './compile/compiled';
import type { IgnoredReason, WarningCode } from './reasons';

/** What made a recall happen. */
export type RecallCause = 'start' | 'program' | 'counter' | 'control' | 'page' | 'cue' | 'edit';

/** One thing that the engine did. Plain and serialisable; the monitor, the log and the tests read nothing else. */
export type EngineRecord =
  | { type: 'in'; atMs: number; port: string; status: number; data1: number; data2: number }
  | { type: 'out'; atMs: number; to: string; status: number; data1: number; data2: number }
  | { type: 'played'; atMs: number; layers: string[] }
  | { type: 'ignored'; atMs: number; reason: IgnoredReason; port: string; status: number; data1: number; data2: number }
  | {
      type: 'recall';
      atMs: number;
      cause: RecallCause;
      again: boolean;
      position: number;
      entryId: string;
      songId: string;
      patchId: string;
      blendId: string | null;
      song: string;
      patch: string;
      blend: string | null;
    }
  | { type: 'warning'; atMs: number; code: WarningCode; about: string }
  | { type: 'action'; atMs: number; role: string; action: string }
  /** A control has moved a value; `value` in the target's own unit. */
  | { type: 'value'; atMs: number; role: string; of: string; value: number }
  | { type: 'preset'; atMs: number; layer: string; preset: number }
  | { type: 'switch'; atMs: number; of: string; on: boolean }
  | { type: 'tempo'; atMs: number; bpm: number }
  | { type: 'transpose'; atMs: number; semitones: number }
  | { type: 'fade'; atMs: number; layer: string; fadeMs: number }
  | { type: 'cursor'; atMs: number; position: number }
  | { type: 'timeline'; atMs: number; state: 'play' | 'stop' | 'locate' | 'loop' | 'jump'; tick: number }
  /** A cue at a tick and a program from a port have recalled the same position within a beat. */
  | { type: 'twice'; atMs: number; port: string; position: number; tick: number }
  /** For the player, from the timeline; empty: nothing any more. */
  | { type: 'text'; atMs: number; text: string }
  | { type: 'panic'; atMs: number; strength: 1 | 2 };

/** Who is told what the engine does. */
export interface EngineObserver {
  record(record: EngineRecord): void;
}

/** The record of a recall, or of an edit of what is current. */
export function recallRecord(step: CompiledStep, cause: RecallCause, again: boolean, atMs: number): EngineRecord {
  const { patch, balance } = step;
  return {
    type: 'recall',
    atMs,
    cause,
    again,
    position: step.position,
    entryId: step.entryId,
    songId: patch.songId,
    patchId: patch.patchId,
    blendId: balance.blendId,
    song: patch.song,
    patch: patch.name,
    blend: balance.name,
  };
}
