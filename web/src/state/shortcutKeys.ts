/** What the page's own shortcuts do, by the code of their key: a role that is given such a key wins over it. */
export const SHORTCUT_OF: Readonly<Record<string, string>> = {
  Space: 'next patch',
  ArrowRight: 'next patch',
  ArrowLeft: 'patch before',
  PageDown: 'next song',
  PageUp: 'song before',
  Enter: 'go to the cursor',
  KeyP: 'play or stop',
  Escape: 'panic',
  KeyS: 'start sound',
  KeyL: 'lock',
  KeyB: 'bench',
  KeyM: 'monitor',
  KeyN: 'next patch as a cue, on the timeline',
};
