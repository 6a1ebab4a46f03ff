import Papa from 'papaparse';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { keyName } from '@rackle/core/midi';
import { controllerSheets, type ControllerSheet } from '@rackle/core/programs';
import type { RecallTarget, Setlist } from '@rackle/core/show';
import { useHost, useGear, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';

const WRITABLE = 'Treadle 6';
/** A longer table may run on over the end of a printed page. */
const MOST_TOGETHER = 12;

/**
 * For each controller of the gear list: what its buttons have to be programmed to send, to print, to save, or to write
 * into the bench.
 */
export function ControllerSheetsPage() {
  const setlist = useSetlist();
  const gear = useGear();
  const songs = useSongs();
  const host = useHost();
  if (!setlist || !gear)
    return (
      <p className="p-6 text-lg">
        {setlist ? 'No gear list yet.' : 'No setlist yet.'}{' '}
        <Link to="/gear" className="underline">
          To the gear
        </Link>
      </p>
    );
  const sheets = controllerSheets(setlist, new Map(Object.entries(songs)), gear);
  const nameOf = (target: RecallTarget): string => {
    const song = songs[target.songId];
    const patch = song?.patches.find((candidate) => candidate.id === target.patchId);
    return [
      song?.name ?? '',
      patch?.name ?? 'the song itself',
      patch?.blends.find((blend) => blend.id === target.blendId)?.name,
    ]
      .filter(Boolean)
      .join(' · ');
  };
  const write = (sheet: ControllerSheet): void => {
    host.post({
      type: 'bench',
      gesture: {
        device: WRITABLE,
        kind: 'write',
        buttons: sheet.rows.map(({ page, button, channel, msb, lsb, program }) => ({
          page,
          button,
          channel,
          msb: sheet.sendsBank ? msb : null,
          lsb: sheet.sendsBank ? lsb : null,
          program,
        })),
      },
    });
    toast(`${sheet.rows.length} numbers written into ${WRITABLE}. Its pedals send them now.`);
  };
  const save = (): void => {
    const url = URL.createObjectURL(new Blob([csvOf(sheets, nameOf)], { type: 'text/csv' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = 'controller-sheets.csv';
    link.click();
    URL.revokeObjectURL(url);
  };
  return (
    <div className="px-4 pb-6" data-testid="sheets">
      <div className="flex flex-wrap items-end gap-x-3 gap-y-1 border-b border-ink pb-2 pt-3">
        <h1 className="named text-4xl">Controller sheets</h1>
        <span className="pb-1 text-ink2">
          {setlist.name} · {gear.name}
        </span>
        <span className="no-print ml-auto flex gap-2">
          <Link to="/numbers" className="inline-flex min-h-9 items-center px-2 font-bold underline decoration-dotted">
            Numbers
          </Link>
          <Button disabled={sheets.length === 0} onClick={save}>
            Save as CSV
          </Button>
          <Button disabled={sheets.length === 0} onClick={() => window.print()}>
            Print
          </Button>
        </span>
      </div>
      {sheets.length === 0 && (
        <p className="py-6 text-lg">
          No controller of this gear list has buttons to program. Say on the Gear page, at a port that recalls by
          numbers, how many buttons it has.
        </p>
      )}
      {sheets.map((sheet) => (
        <OneSheet
          key={sheet.port.alias}
          sheet={sheet}
          setlist={setlist}
          nameOf={nameOf}
          onWrite={sheet.port.device === WRITABLE && sheet.rows.length > 0 ? () => write(sheet) : null}
        />
      ))}
    </div>
  );
}

function OneSheet({
  sheet,
  setlist,
  nameOf,
  onWrite,
}: {
  sheet: ControllerSheet;
  setlist: Setlist;
  nameOf: (target: RecallTarget) => string;
  onWrite: (() => void) | null;
}) {
  const { port, rows, controls, left, sendsBank } = sheet;
  const panel = port.programsFrom ?? setlist.programsFrom;
  const middleC = port.middleC ?? setlist.middleC;
  return (
    <section aria-label={port.alias} className={`mt-4 ${rows.length > MOST_TOGETHER ? '' : 'break-inside-avoid'}`}>
      <div className="flex items-baseline gap-3">
        <h2 className="named text-2xl">{port.alias}</h2>
        {port.alias !== port.device && <span className="text-ink2">{port.device}</span>}
        <span className="text-ink2">
          its panel reads programs from {panel}
          {rows.length > 0
            ? `; ${sendsBank ? 'bank select has to be sent before each program' : 'no bank select is needed'}`
            : ''}
        </span>
        {onWrite && (
          <span className="no-print ml-auto">
            <Button onClick={onWrite}>Write it into {port.device}</Button>
          </span>
        )}
      </div>
      {rows.length > 0 && (
        <div className="gap-8 min-[900px]:columns-2 print:columns-2">
          <table className="w-full text-left text-[13px] print:text-[11px] print:leading-4">
            <thead>
              <tr className="text-ink2">
                <th className="w-28 whitespace-nowrap pr-3">{port.buttons!.pages > 1 ? 'page · button' : 'button'}</th>
                <th className="w-10 pr-3">ch</th>
                {sendsBank && <th className="w-24 whitespace-nowrap pr-3">MSB, LSB</th>}
                <th className="w-24 whitespace-nowrap pr-3">{panel === 1 ? 'from 1 (0)' : 'from 0 (1)'}</th>
                <th>recalls</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr
                  key={`${row.page} ${row.button}`}
                  className={`break-inside-avoid border-t ${row.button === 1 ? 'border-ink2' : 'border-rule'}`}
                >
                  <td className="mono whitespace-nowrap">
                    {port.buttons!.pages > 1 ? `${row.page} · ` : ''}
                    {row.button}
                  </td>
                  <td className="mono">{row.channel}</td>
                  {sendsBank && (
                    <td className="mono whitespace-nowrap">
                      {row.msb}, {row.lsb}
                    </td>
                  )}
                  <td className="mono whitespace-nowrap">
                    <b className="text-base print:text-[13px]">{row.program + panel}</b>{' '}
                    <span className="text-ink2">({row.program + (1 - panel)})</span>
                  </td>
                  <td className="truncate">
                    {nameOf(row.target)}
                    {row.takenBy !== null && (
                      <>
                        {' '}
                        <Stamp>taken</Stamp> by {row.takenBy}
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {left > 0 && (
        <p className="mt-1 font-bold">
          {left} more number{left === 1 ? '' : 's'} than buttons.
        </p>
      )}
      {controls.length > 0 && (
        <table className="mt-1 w-full max-w-3xl text-left text-[13px] print:text-[11px] print:leading-4">
          <thead>
            <tr className="text-ink2">
              <th className="w-44">control</th>
              <th className="w-48">plays</th>
              <th>has to send</th>
            </tr>
          </thead>
          <tbody>
            {controls.map((control) => (
              <tr key={`${control.role} ${control.number}`} className="border-t border-rule">
                <td>{control.control || '—'}</td>
                <td className="named text-base">{control.role}</td>
                <td>
                  {control.kind}
                  {control.number === null
                    ? ''
                    : control.kind === 'note'
                      ? ` ${keyName(control.number, middleC)} (${control.number})`
                      : control.kind === 'program change'
                        ? ` ${control.number + panel}`
                        : ` ${control.number}`}
                  {control.channel === null ? ', any channel' : `, channel ${control.channel}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** One row a button or control, with both countings; comma separated, by RFC 4180. */
export function csvOf(sheets: readonly ControllerSheet[], nameOf: (target: RecallTarget) => string): string {
  return Papa.unparse({
    fields: [
      'controller',
      'page',
      'button',
      'sends',
      'channel',
      'bank MSB',
      'bank LSB',
      'program from 0',
      'program from 1',
      'number',
      'plays',
    ],
    data: sheets.flatMap(({ port, rows, controls, sendsBank }) => [
      ...rows.map((row) => [
        port.alias,
        row.page,
        row.button,
        'program change',
        row.channel,
        sendsBank ? row.msb : '',
        sendsBank ? row.lsb : '',
        row.program,
        row.program + 1,
        '',
        nameOf(row.target),
      ]),
      ...controls.map((control) => [
        port.alias,
        '',
        control.control,
        control.kind,
        control.channel ?? '',
        '',
        '',
        control.kind === 'program change' ? control.number : '',
        control.kind === 'program change' ? control.number! + 1 : '',
        control.kind === 'program change' ? '' : (control.number ?? ''),
        control.role,
      ]),
    ]),
  });
}
