import { useRef, useState } from 'react';
import demoShow from '../../../../demo/tern-ledge.json?url';
import { Button } from '../../ui/Button';
import { fetchedLater } from '../../ui/fetchedLater';

/** Reading, mending and asking is fetched when a file has been chosen. */
const OpenShowFile = fetchedLater(
  async () => (await import('./OpenShowFile')).OpenShowFile,
  <p role="alert" className="mt-3 bg-ink p-2 text-ground">
    What opens files could not be fetched. Choose the file again once the server is there.
  </p>,
);

/** The show file in, and (with `save`) out; with `demo` also the one that Rackle brings along. */
export function ShowFile({ save = false, demo = false }: { save?: boolean; demo?: boolean }) {
  const picker = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<{ file: File; atMs: number } | null>(null);
  const choose = (file: File): void => setChosen({ file, atMs: performance.now() });
  const [wrong, setWrong] = useState<string | null>(null);
  const openDemo = async (): Promise<void> => {
    setWrong(null);
    try {
      const answer = await fetch(demoShow);
      if (!answer.ok) throw new Error('the demo show is not there');
      choose(new File([await answer.blob()], 'the demo show'));
    } catch {
      setWrong('The demo show cannot be fetched now: the server does not answer.');
    }
  };
  return (
    <div className="flex flex-wrap gap-2">
      {save && (
        <a
          href="/api/v1/show/file"
          download="show.json"
          className="inline-flex min-h-9 items-center rounded-sm border border-ink px-3 font-bold hover:bg-ground2"
        >
          Save a show file
        </a>
      )}
      {save && (
        <a
          href="/api/v1/show/zip"
          download="show.rackle.zip"
          className="inline-flex min-h-9 items-center px-1 text-[13px] underline decoration-dotted"
        >
          save it with its banks and recordings
        </a>
      )}
      {demo && <Button onClick={() => void openDemo()}>Open the demo show</Button>}
      <Button onClick={() => picker.current?.click()}>Open a show file</Button>
      <input
        ref={picker}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        aria-label="show file"
        className="hidden"
        onChange={(event) => {
          setWrong(null);
          const file = event.target.files?.[0];
          if (file) choose(file);
          event.target.value = '';
        }}
      />
      {wrong && (
        <p role="alert" className="mt-3 bg-ink p-2 text-ground">
          {wrong}
        </p>
      )}
      {chosen && (
        <OpenShowFile
          key={chosen.atMs}
          file={chosen.file}
          onDone={(problem) => {
            setChosen(null);
            setWrong(problem);
          }}
        />
      )}
    </div>
  );
}
