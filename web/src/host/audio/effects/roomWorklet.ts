import address from './room.worklet?worker&url';

/** Fetches it ahead, while the server is there. */
export async function fetchRooms(): Promise<void> {
  if (!(await fetch(address)).ok) throw new Error('what rooms are reckoned by is not to be had');
}

/** Fetches what rooms are reckoned by; before the first of them, once a context. */
export const loadRooms = (context: BaseAudioContext): Promise<void> => context.audioWorklet.addModule(address);
