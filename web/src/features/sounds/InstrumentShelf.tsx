import { BUILT_INS, Instrument, type InstrumentId } from '@rackle/core/show';
import { useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import { useApp, useEdit, useGear } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { madeNow } from '../../ui/newRow';

interface FilesProps {
  running: { name: string; share: number } | null;
  onFiles: (files: readonly File[]) => void;
  onBreakOff: () => void;
}

/** Every instrument with a page of its own, and the ways to bring in more. */
export function InstrumentShelf({ running, onFiles, onBreakOff }: FilesProps) {
  const stored = Object.values(useApp(({ show }) => show.working.instruments)).filter(
    (instrument) => instrument.kind !== 'own',
  );
  const own = useApp(({ show }) => show.working.instruments);
  const gear = useGear();
  const edit = useEdit();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const add = (): void => {
    const output = gear?.ports.find((port) => port.direction === 'out');
    const made = Instrument.parse({
      kind: 'outboard',
      id: newId<InstrumentId>('instrument'),
      name: 'New instrument',
      port: output?.alias ?? 'Out',
      channel: 1,
    });
    edit({ label: 'add an outboard instrument', instruments: [made] });
    madeNow(made.id);
    void navigate(`/sounds/${made.id}`);
  };
  return (
    <>
      <h2 className="mt-6 text-[13px] font-bold text-ink2">instruments</h2>
      <ul>
        {stored.map((instrument) => (
          <Row key={instrument.id} id={instrument.id} name={instrument.name} note={noteOf(instrument)} />
        ))}
      </ul>
      {running ? (
        <div className="mt-2">
          <p role="status" className="truncate text-[13px]">
            reading {running.name}
          </p>
          <div
            role="progressbar"
            aria-label={`reading ${running.name}`}
            aria-valuenow={Math.round(running.share * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            className="h-1.5 bg-ground2"
          >
            <div className="h-full bg-ink" style={{ width: `${running.share * 100}%` }} />
          </div>
          <Button look="plain" onClick={onBreakOff}>
            break off
          </Button>
        </div>
      ) : (
        <p className="mt-2 flex flex-wrap gap-2">
          <input
            ref={picker}
            type="file"
            multiple
            accept=".sf2,.sf3,audio/*,.wav"
            aria-label="banks and recordings from this machine"
            className="hidden"
            onChange={(event) => {
              onFiles([...(event.target.files ?? [])]);
              event.target.value = '';
            }}
          />
          <Button onClick={() => picker.current?.click()}>Bring in a bank or a recording</Button>
          <Button onClick={add}>Add outboard gear</Button>
        </p>
      )}
      <p className="mt-1 text-[13px] text-ink2">
        SoundFont 2 banks (.sf2, .sf3) and sound files can be dropped anywhere on this page.
      </p>
      <ul className="mt-3">
        {BUILT_INS.map((instrument) => {
          const made = own[`own-${instrument.id}`];
          return (
            <Row
              key={instrument.id}
              id={instrument.id}
              name={instrument.name}
              note={`${instrument.about}${made?.kind === 'own' && made.presets.length > 0 ? `, ${made.presets.length} mine` : ''}`}
            />
          );
        })}
      </ul>
      <p className="mt-3 text-[13px]">
        <Link to="/guide/recordings" className="inline-flex min-h-6 items-center underline decoration-dotted">
          who recorded them
        </Link>
      </p>
    </>
  );
}

const noteOf = (instrument: Instrument): string =>
  instrument.kind === 'outboard'
    ? `${instrument.names.length} names`
    : instrument.kind === 'bank'
      ? `bank, ${instrument.presets.length}`
      : `recordings, ${instrument.presets.length}`;

const Row = ({ id, name, note }: { id: string; name: string; note: string }) => (
  <li>
    <Link to={`/sounds/${id}`} className="flex min-h-9 items-center gap-2 border-b border-rule hover:bg-ground2">
      <span className="named shrink-0 truncate text-lg">{name}</span>
      <span className="ml-auto min-w-0 truncate text-[13px] text-ink2">{note}</span>
    </Link>
  </li>
);
