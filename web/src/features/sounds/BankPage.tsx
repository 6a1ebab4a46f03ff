import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { knownInstrument, type BankInstrument, type BankPreset } from '@rackle/core/show';
import { useApp, useEdit, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { Stamp } from '../../ui/Stamp';
import { PlayedIn } from './PlayedIn';
import { useAudition } from './useAudition';
import { useFileIsHere } from './useFileIsHere';

const megabytes = (bytes: number): string =>
  bytes < 950_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${Math.round(bytes / 100_000) / 10} MB`;

/** A sample bank: its presets by bank and program, under their own names. */
export function BankPage({ instrument }: { instrument: BankInstrument }) {
  const edit = useEdit();
  const programsFrom = useSetlist()?.programsFrom ?? 1;
  const audition = useAudition(null);
  const loading = useApp(({ live }) => live.sound.loading);
  const isHere = useFileIsHere(instrument.file);
  const [at, setAt] = useState(-1);
  const banks = useMemo(
    () =>
      [...new Set(instrument.presets.map((preset) => preset.bank))].map(
        (bank) => [bank, instrument.presets.filter((preset) => preset.bank === bank)] as const,
      ),
    [instrument.presets],
  );
  const weight = knownInstrument(instrument.id, () => instrument);
  const hear = (preset: BankPreset): void => {
    setAt(instrument.presets.indexOf(preset));
    audition?.hear({ instrumentId: instrument.id, presetId: preset.id });
  };
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <div className="flex items-end gap-4">
        <EditableText
          heading
          label="name of the bank"
          value={instrument.name}
          className="named text-4xl"
          onChange={(name) =>
            edit({
              label: 'rename a bank',
              mergeKey: `bank ${instrument.id}`,
              instruments: [{ ...instrument, name: name as BankInstrument['name'] }],
            })
          }
        />
        <span className="pb-1 text-ink2">
          <Link to="/sounds" className="inline-flex items-center underline decoration-dotted">
            Sounds
          </Link>
        </span>
        {isHere === false && <Stamp>no file</Stamp>}
        <span className="ml-auto">
          {audition && at >= 0 && (
            <Button onClick={() => audition.keep({ instrumentId: instrument.id, presetId: instrument.presets[at].id })}>
              Take it for {audition.layer.name}
            </Button>
          )}
        </span>
      </div>
      <p className="border-b border-ink pb-2 leading-7">
        {instrument.fileName || 'a bank'}, {megabytes(instrument.bytes)}, {instrument.presets.length} presets; about{' '}
        {weight?.memoryMb} MB in memory and {weight?.loadMs} ms to load when it is played.
        {isHere === false && (
          <b className="ml-2">
            Its file is not stored here. Bring the same file in again on the Sounds page; songs that play it are kept.
          </b>
        )}{' '}
        <PlayedIn instrument={instrument} />
      </p>
      {loading.length > 0 && (
        <p role="status" className="py-1 text-[13px]">
          loading: {loading.map(({ layer }) => layer).join(', ')} …
        </p>
      )}
      {banks.map(([bank, presets]) => (
        <section key={bank} aria-label={`bank ${bank}`} className="mt-3">
          <h2 className="text-[13px] font-bold text-ink2">
            {bank === 128 ? 'bank 128, drums' : `bank ${bank}`}, programs from {programsFrom}
          </h2>
          <ul className="columns-3 gap-6">
            {presets.map((preset) => {
              const chosen = instrument.presets[at] === preset;
              return (
                <li key={preset.id}>
                  <button
                    type="button"
                    aria-pressed={chosen}
                    onClick={() => hear(preset)}
                    className={`flex min-h-9 w-full items-center gap-3 border-b border-rule px-1 text-left ${chosen ? 'bg-ink text-ground' : 'hover:bg-ground2'}`}
                  >
                    <span className="mono w-8 text-right text-xs">{preset.program + programsFrom}</span>
                    <span className="named min-w-0 truncate text-lg">{preset.name}</span>
                  </button>
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </div>
  );
}
