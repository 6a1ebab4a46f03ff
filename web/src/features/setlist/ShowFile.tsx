import { useRef, useState } from 'react';
import { importShow } from '../../show/api';
import { Button } from '../../ui/Button';

/** The show file in, all of it or nothing; and (with `save`) out. */
export function ShowFile({ save = false }: { save?: boolean }) {
  const file = useRef<HTMLInputElement>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const open = async (chosen: File): Promise<void> => {
    const problem = await importShow(await chosen.text());
    if (problem === null) window.location.reload();
    else setWrong(problem);
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
      <Button onClick={() => file.current?.click()}>Open a show file</Button>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="show file"
        className="hidden"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) void open(chosen);
          event.target.value = '';
        }}
      />
      {wrong && (
        <p role="alert" className="mt-3 bg-ink p-2 text-ground">
          {wrong}
        </p>
      )}
    </div>
  );
}
