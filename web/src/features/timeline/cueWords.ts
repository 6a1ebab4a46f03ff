import type { Cue, CueKind } from '@rackle/core/show';
import { hexOf } from './newCue';

/** Names of what cues point at, as this page says them. */
export interface CueNames {
  target(patchId: string, blendId: string | null): string;
  /** Program number by which it is recalled, or “·”. */
  number(patchId: string, blendId: string | null): string;
  instrument(id: string): string;
  preset(instrumentId: string, presetId: string): string;
  layer(id: string): string;
  key(key: number): string;
  readKey(text: string): number | null;
  /** Program numbers count from here: 0 or 1. */
  programsFrom: number;
}

/** Each kind in a player's word. */
export const KIND_WORDS: Record<CueKind, string> = {
  recall: 'recall',
  preset: 'preset',
  program: 'program',
  controller: 'controller',
  note: 'note',
  message: 'message',
  lights: 'lights',
  text: 'text',
  tempo: 'tempo',
};

/** What a cue concerns, and what it makes of it. */
export function cueWords(cue: Cue, names: CueNames): { what: string; value: string } {
  switch (cue.kind) {
    case 'recall':
      return { what: names.target(cue.patchId, cue.blendId), value: names.number(cue.patchId, cue.blendId) };
    case 'preset':
      return { what: names.instrument(cue.instrumentId), value: names.preset(cue.instrumentId, cue.presetId) };
    case 'program':
      return { what: `${cue.port} ${cue.channel}`, value: String(cue.program + names.programsFrom) };
    case 'controller':
      return {
        what: `${cue.port} ${cue.channel}, controller ${cue.controller}`,
        value: cue.ramp === null ? String(cue.value) : `${cue.value} to ${cue.ramp.toValue}`,
      };
    case 'note':
      return {
        what: cue.to.kind === 'layer' ? names.layer(cue.to.layerId) : `${cue.to.port} ${cue.to.channel}`,
        value: names.key(cue.key),
      };
    case 'message':
      return { what: cue.port, value: hexOf(cue.bytes) };
    case 'lights':
      return { what: cue.port, value: cue.name };
    case 'text':
      return { what: '', value: cue.text === '' ? '–' : cue.text };
    case 'tempo':
      return { what: '', value: `${cue.percent} %` };
  }
}

/** A cue as one reads it out. */
export function cueSentence(cue: Cue, position: string, names: CueNames): string {
  const { what, value } = cueWords(cue, names);
  if (cue.kind === 'text' && cue.text === '') return `${position}: text ends`;
  const words = [KIND_WORDS[cue.kind], what, cue.kind === 'recall' ? '' : value].filter((word) => word !== '');
  return `${position}: ${words.join(' ')}${cue.off ? ', switched off' : ''}`;
}

/** Lanes of the chart, from top to bottom, with the kinds that hang in each. */
export const LANES: readonly { id: string; name: string; kinds: readonly CueKind[] }[] = [
  { id: 'gear', name: 'gear', kinds: ['preset', 'program'] },
  { id: 'controllers', name: 'controllers', kinds: ['controller'] },
  { id: 'notes', name: 'notes', kinds: ['note'] },
  { id: 'lights', name: 'lights', kinds: ['lights'] },
  { id: 'others', name: 'others', kinds: ['message', 'tempo'] },
  { id: 'text', name: 'text', kinds: ['text'] },
];
