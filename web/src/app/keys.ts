/** The keys of the pages: what `?` lists, and what the shortcuts do. One place for both. */
export interface KeyLine {
  keys: string;
  does: string;
  where: 'everywhere' | 'setlist' | 'song sheet' | 'sounds' | 'timeline' | 'stage' | 'bench';
}

/** The same with a finger, where there is a touch screen. */
export const TOUCH_LINES: readonly (readonly [does: string, what: string])[] = [
  ['tap a patch on the strip', 'recall it; on a locked stage: put the cursor there'],
  ['next, previous, key − and + on stage', 'tap; on a locked stage: hold'],
  ['hold Panic', 'on stage: end every note'],
  ['drag a bar', 'move the value; on a locked stage: hold it first, then drag'],
  ['hold the right edge of the stage', 'draw in the faders'],
  ['drag the handle of a row', 'move a song in the running order'],
  ['drag an end of a strip, or its middle', 'change a zone'],
  ['tap a cell of the score', 'look at a layer in a patch; an empty one: let it play there'],
];

/** What each key does, as the sheet of keys lists it. */
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
  { keys: '← → ↑ ↓', does: 'in the score: go from cell to cell', where: 'song sheet' },
  { keys: 'Enter, Delete', does: 'in the score: let the layer play here, or be silent', where: 'song sheet' },
  { keys: 'Alt + ← → ↑ ↓', does: 'in the score: move the patch, or the layer', where: 'song sheet' },
  { keys: 'N, A', does: 'in the score: new patch, new layer', where: 'song sheet' },
  { keys: 'D, Shift D', does: 'in the score: duplicate the patch, or the layer', where: 'song sheet' },
  {
    keys: 'C, R',
    does: 'in the score: capture a blend; let the layer run on into the next patch',
    where: 'song sheet',
  },
  { keys: 'Shift Delete, Shift Backspace', does: 'in the score: remove the patch, or the layer', where: 'song sheet' },
  { keys: '↑ ↓, Enter, Esc', does: 'hear the sound, keep it, bring back what was there', where: 'sounds' },
  { keys: '*', does: 'star the sound', where: 'sounds' },
  { keys: 'N', does: 'the next patch now, and a cue for it where the playhead is', where: 'timeline' },
  { keys: '↑ ↓', does: 'on a cue of the chart: the cue before, the next cue', where: 'timeline' },
  { keys: '← →', does: 'move the chosen cues; with Shift by bars, with Alt by ticks', where: 'timeline' },
  { keys: 'Enter, Ctrl A, Esc', does: 'choose the cue as well, every cue, none', where: 'timeline' },
  { keys: 'Ctrl C X V, Delete', does: 'copy, cut, paste at the playhead, remove', where: 'timeline' },
  { keys: 'Ctrl + wheel', does: 'show more or less of the song', where: 'timeline' },
  { keys: 'Z … M, Q … U', does: 'play keys of Aster 73, with the bench open and its keyboard chosen', where: 'bench' },
];
