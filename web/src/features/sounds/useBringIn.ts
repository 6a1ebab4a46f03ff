import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { RecordingsInstrument } from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { BANK_FILE, bringInBank, bringInRecording } from './bringIn';

/** A file that is being read, and how much of it is. */
export interface Running {
  name: string;
  share: number;
}

/** Takes files in one after the other, with progress, and a way to break it off. */
export function useBringIn(): {
  running: Running | null;
  take: (files: readonly File[], into?: RecordingsInstrument) => void;
  breakOff: () => void;
} {
  const instruments = useApp(({ show }) => show.working.instruments);
  const edit = useEdit();
  const [running, setRunning] = useState<Running | null>(null);
  const abort = useRef<AbortController | null>(null);
  const take = async (files: readonly File[], chosen?: RecordingsInstrument): Promise<void> => {
    const controller = new AbortController();
    abort.current = controller;
    let into =
      chosen ??
      Object.values(instruments).find(
        (instrument): instrument is RecordingsInstrument => instrument.kind === 'recordings',
      ) ??
      null;
    for (const file of files) {
      if (controller.signal.aborted) break;
      setRunning({ name: file.name, share: 0 });
      const brought = BANK_FILE.test(file.name)
        ? await bringInBank(file, (share) => setRunning({ name: file.name, share }), controller.signal)
        : await bringInRecording(file, into, controller.signal);
      if (!brought.ok) {
        toast.error(brought.problem, { duration: 10_000 });
        continue;
      }
      if (brought.instrument.kind === 'recordings') into = brought.instrument;
      edit({ label: `bring in ${file.name}`, instruments: [brought.instrument] });
      toast(
        `${file.name} is here.${brought.notes.length > 0 ? ` ${brought.notes.length} of its samples are odd: ${brought.notes.slice(0, 2).join(' ')}` : ''}`,
        { duration: 6000 },
      );
    }
    setRunning(null);
  };
  return { running, take: (files, into) => void take(files, into), breakOff: () => abort.current?.abort() };
}
