import type { Topics } from '../protocol';

const SOUND = 'rackle.soundWasOn';
const MIDI = 'rackle.midiWasOn';

/** Remembers what was on, so that it is on again after a reload; the ports also on another day. */
export function rememberOn({ sound, midi }: Topics['sound']): void {
  if (sound === 'on') sessionStorage.setItem(SOUND, 'yes');
  if (midi === 'on') localStorage.setItem(MIDI, 'yes');
}

/** Whether the sound was on before this page was loaded anew. */
export const soundWasOn = (): boolean => sessionStorage.getItem(SOUND) !== null;

/** Whether MIDI ports were connected before, and may be again without asking. */
export async function midiMayComeBack(): Promise<boolean> {
  if (localStorage.getItem(MIDI) === null) return false;
  const permission = await navigator.permissions?.query({ name: 'midi' as PermissionName }).catch(() => null);
  return permission?.state === 'granted';
}
