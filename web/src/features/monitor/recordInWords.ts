import { IGNORED_IN_WORDS, messageInWords, type EngineRecord, type NameStyle } from '@rackle/core';

/** One record in a player's words. */
export function recordInWords(record: EngineRecord, style: NameStyle): { what: string; where: string; mark: string } {
  const message = (status: number, data1: number, data2: number): string => `ch ${(status & 15) + 1} · ${messageInWords(status, data1, data2, style)}`;
  switch (record.type) {
    case 'in': return { mark: '→', where: record.port, what: message(record.status, record.data1, record.data2) };
    case 'out': return { mark: '←', where: record.to.split(' / ').at(-1) ?? '', what: message(record.status, record.data1, record.data2) };
    case 'played': return { mark: '', where: '', what: `→ ${record.layers.length === 1 ? 'layer' : 'layers'} ${record.layers.join(', ')}` };
    case 'ignored': return { mark: '', where: '', what: `ignored: ${IGNORED_IN_WORDS[record.reason]}` };
    case 'recall': return { mark: '●', where: record.song, what: `${record.again ? 'again ' : ''}${record.patch}${record.blend === null ? '' : `, ${record.blend}`} (${record.cause})` };
    case 'warning': return { mark: '!', where: record.about, what: record.code.replaceAll('-', ' ') };
    case 'action': return { mark: '', where: record.role, what: `→ ${record.action.replace(/([A-Z])/g, ' $1').toLowerCase()}` };
    case 'fade': return { mark: '', where: record.layer, what: `fades over ${record.fadeMs} ms` };
    case 'cursor': return { mark: '', where: 'cursor', what: `position ${record.position + 1}` };
    case 'timeline': return { mark: '', where: 'timeline', what: `${record.state} at tick ${record.tick}` };
    case 'panic': return { mark: '!', where: 'panic', what: record.strength === 1 ? 'every note ended' : 'all gear reset' };
  }
}
