import type { ControlSource } from '../show';

/** What a control has to be set to send, in the words of the trade. */
export type SheetKind =
  | 'note'
  | 'controller'
  | 'controller, 14 bit'
  | 'program change'
  | 'pitch wheel'
  | 'channel pressure'
  | 'program change, counting';

/** What a source is called on a controller sheet. */
export function kindOf(source: ControlSource): SheetKind {
  switch (source.kind) {
    case 'note':
      return 'note';
    case 'controller':
      return 'controller';
    case 'controller14':
      return 'controller, 14 bit';
    case 'program':
      return 'program change';
    case 'wheel':
      return 'pitch wheel';
    case 'pressure':
      return 'channel pressure';
    case 'count':
    case 'computerKey':
      return 'program change, counting';
  }
}
