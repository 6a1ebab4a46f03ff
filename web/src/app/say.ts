import type { ExternalToast } from 'sonner';
import { later } from './later';

/** Says a few words on the foot line. Words that cannot be fetched now are not said; nothing fails for that. */
export function say(words: string, options: ExternalToast & { isTrouble?: boolean } = {}): void {
  const { isTrouble = false, ...how } = options;
  later
    .words()
    .then(({ toast }) => (isTrouble ? toast.error(words, how) : toast(words, how)))
    .catch(() => undefined);
}
