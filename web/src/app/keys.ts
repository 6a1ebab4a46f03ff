/** The keys of the pages: what `?` lists, and what the shortcuts do. One place for both. */
export interface KeyLine {
  keys: string;
  does: string;
  where: 'everywhere' | 'setlist' | 'song sheet' | 'stage' | 'bench';
}

export const KEY_LINES: readonly KeyLine[] = [
  { keys: 'Space or →', does: 'next patch', where: 'everywhere' },
  { keys: '←', does: 'patch before', where: 'everywhere' },
  { keys: 'Page Down, Page Up', does: 'next song, song before', where: 'everywhere' },
  { keys: 'Shift + ← →', does: 'move the cursor without a sound', where: 'everywhere' },
  { keys: 'Enter', does: 'go to the cursor', where: 'everywhere' },
  { keys: 'P', does: 'play or stop the timeline', where: 'everywhere' },
  { keys: 'Esc Esc', does: 'panic', where: 'everywhere' },
  { keys: 'Ctrl K', does: 'find songs, patches, sounds, actions', where: 'everywhere' },
  { keys: 'Ctrl Z, Ctrl Shift Z', does: 'undo, redo', where: 'everywhere' },
  { keys: 'S', does: 'start sound', where: 'everywhere' },
  { keys: 'L', does: 'lock or unlock the stage', where: 'everywhere' },
  { keys: 'B, M', does: 'bench, monitor', where: 'everywhere' },
  { keys: '?', does: 'this list', where: 'everywhere' },
  { keys: 'Alt + ↑ ↓', does: 'move the song in the running order', where: 'setlist' },
  { keys: 'Delete', does: 'take the song out of the setlist', where: 'setlist' },
  { keys: '↑ ↓', does: 'change a number; with Shift ten times as far', where: 'song sheet' },
  { keys: 'Z … M, Q … U', does: 'play keys of Aster 73, with the bench open and its keyboard chosen', where: 'bench' },
];
