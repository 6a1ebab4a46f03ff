import { useState } from 'react';
import { Link } from 'react-router';
import { sameTarget, targetKey } from '@rackle/core/programs';
import type { Setlist } from '@rackle/core/show';
import { useEdit, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { Stamp } from '../../ui/Stamp';
import { ChosenLine } from './ChosenLine';
import { MapTable } from './MapTable';
import { NumberingSheet } from './NumberingSheet';
import { ProgramRuler } from './ProgramRuler';
import { useProgramMap } from './useProgramMap';

/** The program map: which number recalls what. */
export function NumbersPage() {
  const setlist = useSetlist();
  if (!setlist)
    return (
      <p className="p-6 text-lg">
        No setlist yet, so nothing to number.{' '}
        <Link to="/setlist" className="underline">
          Start one
        </Link>
      </p>
    );
  return <ProgramMap setlist={setlist} />;
}

function ProgramMap({ setlist }: { setlist: Setlist }) {
  const map = useProgramMap(setlist);
  const { programs, programsFrom } = setlist;
  const { rows, twice, strays, freeFor, lineOf, nameOf, placeAt } = map;
  const [chosen, setChosen] = useState<string | null>(null);
  const [numbering, setNumbering] = useState(false);
  const target = rows.find((row) => row.key === chosen)?.target ?? null;
  return (
    <div className="flex min-h-full max-[899px]:flex-col-reverse">
      <div className="min-w-0 flex-[1.4] border-r border-ink px-4 pb-6 max-[899px]:border-r-0">
        <MapHead setlist={setlist} />
        {twice.size > 0 && (
          <p className="mt-2">
            <Stamp>twice</Stamp> {twice.size} lines share a number: the first of them in the map has it.
          </p>
        )}
        <MapTable
          rows={rows}
          chosen={chosen}
          programsFrom={programsFrom}
          liveLine={map.liveLine}
          nameOf={nameOf}
          setLine={map.setLine}
          give={(of) => placeAt(of, freeFor(targetKey(of)))}
          onChoose={setChosen}
          seen={chosen}
        />
        {rows.length === 0 && <p className="mt-4 text-lg text-ink2">No patches yet, so nothing to number.</p>}
        {strays.length > 0 && (
          <p className="mt-4 text-[13px] text-ink2">
            {strays.length} number{strays.length === 1 ? ' leads' : 's lead'} to what is not in this setlist.{' '}
            <Button
              look="plain"
              onClick={() =>
                map.change(
                  'take numbers away that lead nowhere',
                  programs.filter((line) => !strays.includes(line)),
                )
              }
            >
              take {strays.length === 1 ? 'it' : 'them'} away
            </Button>
          </p>
        )}
      </div>
      <aside className="sticky top-0 max-h-full min-w-0 flex-1 self-start overflow-y-auto px-4 py-3 max-[899px]:static max-[899px]:w-full">
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setNumbering(true)}>Number anew</Button>
          <Link
            to="/numbers/sheets"
            className="inline-flex min-h-9 items-center rounded-sm border border-ink px-3 font-bold hover:bg-ground2"
          >
            Controller sheets
          </Link>
          {map.missing > 0 && (
            <Button look="plain" onClick={() => setChosen(map.firstWithout)}>
              {map.missing} without a number
            </Button>
          )}
        </div>
        <div className="mt-3">
          <ProgramRuler
            lines={programs}
            twice={twice}
            live={map.liveLine}
            chosen={target ? lineOf(target) : null}
            programsFrom={programsFrom}
            nameOf={(line) => nameOf(line.target)}
            tapeOf={map.tapeOf}
            onPlace={target ? (address) => placeAt(target, address) : null}
            onChoose={(line) => setChosen(targetKey(line.target))}
          />
        </div>
        <p className="text-[13px] text-ink2">
          {target ? (
            <>
              A free tick takes <b className="text-ink">{nameOf(target)}</b>.
            </>
          ) : (
            'Each line holds 32 numbers; tape stands on those in use. Choose a patch, then click a free tick to put it there.'
          )}
        </p>
        {target && (
          <ChosenLine
            target={target}
            line={lineOf(target)}
            songNumber={lineOf({ songId: target.songId, patchId: null, blendId: null })}
            onLine={(next) => {
              const line = lineOf(target);
              if (line) map.setLine('change where a number comes from', line, next);
            }}
            onSongNumber={() =>
              placeAt({ songId: target.songId, patchId: null, blendId: null }, freeFor(targetKey(target)))
            }
            onRemove={() =>
              map.change(
                'take a number away',
                programs.filter((line) => !sameTarget(line.target, target)),
              )
            }
          />
        )}
      </aside>
      {numbering && (
        <NumberingSheet setlist={setlist} songs={map.byId} nameOf={nameOf} onClose={() => setNumbering(false)} />
      )}
    </div>
  );
}

function MapHead({ setlist }: { setlist: Setlist }) {
  const edit = useEdit();
  const { programs, programsFrom } = setlist;
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-ink pb-2 pt-3">
      <h1 className="named text-4xl">Program map</h1>
      <span className="pb-1 text-ink2">
        {programs.length} numbers, programs read{' '}
        <Choice
          label="programs count from"
          value={String(programsFrom)}
          items={[
            { value: '0', label: '0 to 127' },
            { value: '1', label: '1 to 128' },
          ]}
          onChange={(value) =>
            edit({
              label: 'change how programs count',
              setlists: [{ ...setlist, programsFrom: value === '0' ? 0 : 1 }],
            })
          }
        />
        , middle C is{' '}
        <Choice
          label="middle C"
          value={setlist.middleC}
          items={[
            { value: 'C3', label: 'C3' },
            { value: 'C4', label: 'C4' },
          ]}
          onChange={(value) =>
            edit({
              label: 'change the name of middle C',
              setlists: [{ ...setlist, middleC: value }],
            })
          }
        />
      </span>
    </div>
  );
}
