import address from './effects.worklet?worker&url';

/** Fetches it ahead, while the server is there. */
export async function fetchWorklet(): Promise<void> {
  if (!(await fetch(address)).ok) throw new Error('what effects are reckoned by is not to be had');
}

/** Fetches what rooms, limiters and compressors are reckoned by; before the first of them, once a context. */
export const loadWorklet = (context: BaseAudioContext): Promise<void> => context.audioWorklet.addModule(address);
